/** What others may use of this folder. */
export * from './air.js';
export * from './airs.js';
export * from './body.js';
export * from './crackle.js';
export * from './evaporation.js';
export * from './fan.js';
export * from './forecast.js';
export * from './front.js';
export * from './normal.js';
export * from './outlook.js';
export * from './psychrometrics.js';
export * from './risk.js';
export * from './state.js';
export * from './uncertainty.js';
