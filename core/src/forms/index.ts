export * from './form.js';
export * from './form-html.js';
