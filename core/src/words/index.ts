/** What others may use of this folder. */
export * from './accented.js';
export * from './codes.js';
export * from './given.js';
export type { Words } from './language.js';
export { listed } from './listed.js';
export * from './msg.js';
