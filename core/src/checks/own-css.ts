import { readOwnCss } from '../theme/own-css.js';
import type { DocumentCheck } from './finding.js';

/** Own CSS of the page that can’t be read, or that hides the page. */
export const ownCss: DocumentCheck = ({ document: { metadata } }) =>
  readOwnCss(metadata.css ?? '').faults.map(({ line, message, severity }) => ({
    check: 'own-css',
    severity,
    message: `Own CSS, line ${line}: ${message}`,
    mend: 'Open the page’s own CSS and change that line.',
    place: { metadata: 'css' },
  }));
