/** What others may use of this folder. */
export { type WetPool, wetPools } from './pools.js';
export { type FlowedDesign, stageFor, type WetStage, wetStages } from './stages.js';
export {
  compactInks,
  FlowStopped,
  type WetAsk,
  WetFlow,
  type WetInk,
  type WetPicture,
  type WetTrouble,
  wetPicture,
  wetPictures,
} from './wet-flow.js';
