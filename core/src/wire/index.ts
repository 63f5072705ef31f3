/** What others may use of this folder. */
export * from './api.js';
