/** What others may use of this folder. */
export * from './accented.js';
export * from './codes.js';
export type { Words } from './language.js';
export * from './msg.js';
