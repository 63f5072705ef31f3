/** What others may use of this folder. */
export * from './wet-preview.js';
