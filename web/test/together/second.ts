import { loadTests } from './load';

loadTests(1);
