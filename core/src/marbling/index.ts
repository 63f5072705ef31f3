/** What others may use of this folder. */
export { type WetPool, wetPools } from './pools.js';
export { compactInks, type WetAsk, type WetInk, type WetPicture, type WetTrouble, wetPicture, wetPictures } from './wet-flow.js';
export { stageFor, type WetStage, wetStages } from './stages.js';
