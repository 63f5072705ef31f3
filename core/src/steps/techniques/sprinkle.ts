import { msg } from '../../words/index.js';
import { technique } from './technique.js';

export const sprinkle = technique({
  id: 'sprinkle',
  kind: 'mark',
  leaves: 'grains',
  asks: 'wet',
  label: msg`sugar and sprinkles`,
  verb: msg`sprinkle`,
  icing: null,
  tool: msg`spoon, over a tray; crumbs pressed in lightly, strays brushed off`,
  openingMm: null,
  until: 'skinned',
  tooEarly: msg`heavy grains sink out of sight`,
  tooLate: msg`nothing sticks to a skin`,
  badlyDone: msg`grains stick to anything wet beside it; crumbs that were not pressed fall off in the carton`,
  hands: () => [
    msg`crumbs bound with a little icing, or coloured with gel, beforehand`,
    msg`from the middle to the edge, over a tray`,
    msg`press strays in lightly, tap the rest off once it has skinned`,
  ],
  cautions: ['choking', 'allergens'],
  seconds: ({ areaMm2 }, pace) => pace.sprinkleS + pace.pressStraysS + (areaMm2 / 100) * pace.sprinkleSPerCm2,
});
