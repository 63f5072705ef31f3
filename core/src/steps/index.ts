/** What others may use of this folder. */
export * from './bag-amounts.js';
export * from './cautions/index.js';
export * from './defects/index.js';
export * from './derive.js';
export * from './filling.js';
export * from './hands-words.js';
export * from './law.js';
export * from './pace.js';
export * from './part-asks.js';
export * from './rounds.js';
export * from './school.js';
export * from './step.js';
export * from './stroke-cost.js';
export * from './techniques/index.js';
export * from './tips.js';
export * from './why.js';
