import { readOwnCss } from '../theme/own-css.js';
import { found, type DocumentCheck } from './finding.js';

/** Own CSS of the page that can’t be read, or that hides the page. */
export const ownCss: DocumentCheck = ({ document: { metadata } }) =>
  readOwnCss(metadata.css ?? '').faults.map(({ line, code, params, severity }) =>
    found('own-css', severity, 'own-css', { line, fault: { code, params } }, { metadata: 'css' }),
  );
