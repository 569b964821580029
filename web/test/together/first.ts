import { loadTests } from './load';

loadTests(0);
