export { Reader, TaskError, TooMuchError } from './reader.js';
export { areaOf, lookDistance, type Purpose, type StoredVariant } from './sizes.js';
