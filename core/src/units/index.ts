/** What others may use of this folder. */
export * from './bad-input.js';
export * from './canonical.js';
export * from './format.js';
export * from './id.js';
export { moneyText } from './money.js';
export * from './quantities.js';
