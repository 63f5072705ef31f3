import { strokeOrFill, technique } from './technique.js';

export const dippedBead = technique({
  id: 'dipped-bead',
  kind: 'detail',
  leaves: 'bead',
  asks: 'grains',
  label: 'bead dipped in sugar',
  verb: 'pipe and dip',
  icing: 'piping',
  tool: 'round tip, a dish of sugar',
  openingMm: 2,
  until: null,
  tooEarly: 'grains stick to the base too',
  tooLate: 'the bead has skinned and takes no grains',
  badlyDone: 'grains elsewhere',
  hands: () => ['one bead, into the dish at once, the next'],
  cautions: ['choking', 'allergens'],
  seconds: (extent, pace) => strokeOrFill(extent, pace) + pace.dipS,
});
