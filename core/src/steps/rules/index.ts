import { asYouSaid } from './as-you-said.js';
import { crackleWindow } from './crackle-window.js';
import { detailRestsOn } from './detail-rests-on.js';
import { flushJoin } from './flush-join.js';
import { outlineThenFlood } from './outline-then-flood.js';
import { packWhenDry } from './pack-when-dry.js';
import { preparedFirst } from './prepared-first.js';
import type { Rule } from './rule.js';
import { secondLayer } from './second-layer.js';
import { touchingSections } from './touching-sections.js';
import { wetWindow } from './wet-window.js';

export const rules: readonly Rule[] = [
  preparedFirst,
  outlineThenFlood,
  flushJoin,
  wetWindow,
  touchingSections,
  secondLayer,
  crackleWindow,
  detailRestsOn,
  asYouSaid,
  packWhenDry,
];
