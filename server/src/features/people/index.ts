export { firstLink } from './service.js';
export { newSiteIn, setRulesIn } from './sites.js';
