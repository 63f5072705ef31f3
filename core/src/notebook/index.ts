/** What others may use of this folder. */

export * from './account.js';
export * from './across.js';
export * from './run-table.js';
