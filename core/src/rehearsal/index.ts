/** What others may use of this folder. */
export * from './evening.js';
