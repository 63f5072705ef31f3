/** What others may use of this folder. */
export * from './stock.js';
export * from './supplies.js';
