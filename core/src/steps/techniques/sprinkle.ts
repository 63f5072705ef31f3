import { technique } from './technique.js';

export const sprinkle = technique({
  id: 'sprinkle',
  kind: 'mark',
  leaves: 'grains',
  asks: 'wet',
  label: 'sugar and sprinkles',
  verb: 'sprinkle',
  icing: null,
  tool: 'spoon, over a tray; crumbs pressed in lightly, strays brushed off',
  openingMm: null,
  until: 'skinned',
  tooEarly: 'heavy grains sink out of sight',
  tooLate: 'nothing sticks to a skin',
  badlyDone: 'grains stick to anything wet beside it; crumbs that were not pressed fall off in the carton',
  hands: () => [
    'crumbs bound with a little icing, or coloured with gel, beforehand',
    'from the middle to the edge, over a tray',
    'press strays in lightly, tap the rest off once it has skinned',
  ],
  cautions: ['choking', 'allergens'],
  seconds: ({ areaMm2 }, pace) => pace.sprinkleS + pace.pressStraysS + (areaMm2 / 100) * pace.sprinkleSPerCm2,
});
