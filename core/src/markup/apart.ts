/**
 * What people's own HTML may do, on the page and on the canvas: it runs, and what it opens in a tab of its own is free of it;
 * it has an origin of its own, so that it reaches nothing of the page (HTML, 7.5).
 */
export const APART_SANDBOX = 'allow-scripts allow-popups allow-popups-to-escape-sandbox allow-forms';

/** The policy it is served with, so that it is apart wherever it is opened. */
export const APART_POLICY = `default-src https: http: data: 'unsafe-inline'; sandbox ${APART_SANDBOX}`;
