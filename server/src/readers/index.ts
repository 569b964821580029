export { Reader, TaskError, TooMuchError } from './reader.js';
