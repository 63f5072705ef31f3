import { msg } from '../../words/index.js';
import { strokeOrFill, technique } from './technique.js';

export const dippedBead = technique({
  id: 'dipped-bead',
  kind: 'detail',
  leaves: 'bead',
  asks: 'grains',
  label: msg`bead dipped in sugar`,
  verb: msg`pipe and dip`,
  icing: 'piping',
  tool: msg`round tip, a dish of sugar`,
  openingMm: 2,
  until: null,
  tooEarly: msg`grains stick to the base too`,
  tooLate: msg`the bead has skinned and takes no grains`,
  badlyDone: msg`grains elsewhere`,
  hands: () => [msg`one bead, into the dish at once, the next`],
  cautions: ['choking', 'allergens'],
  seconds: (extent, pace) => strokeOrFill(extent, pace) + pace.dipS,
});
