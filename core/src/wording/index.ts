/** What others may use of this folder. */
export * from './refusal.js';
export * from './why.js';
