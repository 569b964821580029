// npm run build: a bundle for each process and the web application. `npm start` runs them and compiles nothing.
import { buildWeb, installPackages } from './install.mjs';
import { bundle } from './bundle.mjs';

installPackages();
const began = Date.now();
await bundle();
console.log(`  processes bundled in ${((Date.now() - began) / 1000).toFixed(1)} s`);
console.log(`  web application ${buildWeb() ? 'built' : 'unchanged'}`);
