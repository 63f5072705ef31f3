import { type SurfaceState, surfaceStates } from '../../drying/state.js';

/** What can go wrong on a cookie. Common practice, no published source. */
export const defectIds = [
  'broken',
  'crater',
  'ran-together',
  'bled',
  'ridges',
  'overflowed',
  'stood-up',
  'spread',
  'dragged-lumps',
  'dent',
  'rough',
  'line-wobbled',
  'sank',
  'wrong-shade',
  'transfer-broke',
] as const;
export type DefectId = (typeof defectIds)[number];

/** A way out, and up to which state of the surface it is open. */
export interface Remedy {
  readonly text: string;
  readonly until: SurfaceState;
}

export interface Defect {
  readonly id: DefectId;
  /** as one sees it, in the user's words */
  readonly seen: string;
  readonly causes: string;
  /** makes it good, while the surface is no further than this; null where nothing does */
  readonly cure: Remedy | null;
  /** hides it, once the surface carries something; from this state on */
  readonly cover: { readonly text: string; readonly from: SurfaceState } | null;
  readonly prevention: string;
}

const whole: Defect['cover'] = { text: 'pipe a detail or a border over it', from: 'set' };

export const defects: readonly Defect[] = [
  {
    id: 'broken',
    seen: 'the cookie broke',
    causes: 'dropped, knocked, lifted by its edge',
    cure: null,
    cover: null,
    prevention: 'lift with a flat hand or a spatula; a spare or two a dozen',
  },
  {
    id: 'crater',
    seen: 'a crater, it caved in',
    causes: 'a small pool in loose icing that stayed wet too long, a buried bubble, too little icing',
    cure: { text: 'quick-set it now: before the fan, or two minutes in the dehydrator', until: 'thickening' },
    cover: { text: 'fill it flush once it has crusted, or pipe a dot over it', from: 'crusted' },
    prevention: 'thicker icing, few small pools a round, fill to a dome, warm air for minutes',
  },
  {
    id: 'ran-together',
    seen: 'colours ran together, no step',
    causes: 'the neighbour was flooded too early',
    cure: { text: 'lift the colour that ran in with a dry scribe or brush', until: 'wet' },
    cover: { text: 'pipe a dividing line over the join', from: 'set' },
    prevention: 'wait until the neighbour has crusted',
  },
  {
    id: 'bled',
    seen: 'a colour bled into the other',
    causes: 'strong colour beside or over pale that had not set',
    cure: null,
    cover: { text: 'a line or a border of the strong colour over the edge', from: 'set' },
    prevention: 'wait for set, light colours first, dry fast',
  },
  {
    id: 'ridges',
    seen: 'ridges, creases',
    causes: 'shaken while it was skinned over wet',
    cure: { text: 'a moist scribe in small circles, then leave it', until: 'wet' },
    cover: { text: 'a piped texture or a detail over it', from: 'set' },
    prevention: 'scribe only, or pat; never shake once a part has skinned',
  },
  {
    id: 'overflowed',
    seen: 'it ran over the edge',
    causes: 'too full, too near the edge, wet details added volume',
    cure: { text: 'scrape the edge clean with a dry scribe and take some icing off', until: 'thickening' },
    cover: { text: 'trim it with a knife point once it is dry, then a border', from: 'firm' },
    prevention: 'stop 1–2 mm short, underfill before wet work',
  },
  {
    id: 'stood-up',
    seen: 'details stand up',
    causes: 'the base was skinning',
    cure: { text: 'press them in with the scribe', until: 'skinned' },
    cover: null,
    prevention: 'fewer cookies a group, looser icing, no fan meanwhile',
  },
  {
    id: 'spread',
    seen: 'details spread',
    causes: 'flood on flood',
    cure: { text: 'draw the edge back with a clean scribe', until: 'wet' },
    cover: { text: 'pipe the detail again on top', from: 'set' },
    prevention: 'outline icing, a smaller opening',
  },
  {
    id: 'dragged-lumps',
    seen: 'dragged lumps, muddy colours',
    causes: 'the scribe was not wiped, marks thicker than the base',
    cure: { text: 'pull once more with a clean, moist scribe', until: 'wet' },
    cover: whole,
    prevention: 'wipe after each pull, match the seconds',
  },
  {
    id: 'dent',
    seen: 'a dent, a poke, a smudge',
    causes: 'touched before it carried a finger',
    cure: { text: 'tap the cookie so that it closes', until: 'thickening' },
    cover: { text: 'cover it with a detail, a transfer or a border', from: 'set' },
    prevention: 'wait for the state, finger off, a mat that does not slip',
  },
  {
    id: 'rough',
    seen: 'wrinkled or rough',
    causes: 'overworked, or a dry scribe',
    cure: { text: 'tap it level', until: 'thickening' },
    cover: whole,
    prevention: 'touch less, moist scribe',
  },
  {
    id: 'line-wobbled',
    seen: 'a line wobbled, broke or peaked',
    causes: 'air in the bag, too little pressure, too near',
    cure: { text: 'touch it back into place with a moist brush or the scribe', until: 'thickening' },
    cover: { text: 'lift it off with a needle and pipe it again', from: 'crusted' },
    prevention: 'lift the line, anchor it at the turns',
  },
  {
    id: 'sank',
    seen: 'a detail sank in',
    causes: 'the base was too fresh',
    cure: null,
    cover: { text: 'pipe it again on top', from: 'set' },
    prevention: 'an hour more before it',
  },
  {
    id: 'wrong-shade',
    seen: 'the wrong shade',
    causes: 'the wrong bag was picked',
    cure: { text: 'pipe the right shade over it while it is wet', until: 'wet' },
    cover: { text: 'flood a thin layer of the right shade over it', from: 'set' },
    prevention: 'label the bags',
  },
  {
    id: 'transfer-broke',
    seen: 'a transfer broke',
    causes: 'thin, or glued in the hand',
    cure: { text: 'take a spare', until: 'dry' },
    cover: { text: 'lay the pieces close and pipe over the crack', from: 'set' },
    prevention: 'spares, a tenth to a fifth more; put the glue on the cookie',
  },
];

export const defectById = (id: DefectId): Defect => defects.find((d) => d.id === id) as Defect;

/** What can be done about a defect on a surface as it is now. Waiting opens a cover; a cure that is gone is not offered. */
export interface Rescue {
  readonly cure: string | null;
  readonly cover: { readonly text: string; readonly now: boolean; readonly from: SurfaceState } | null;
  readonly causes: string;
  readonly prevention: string;
}

export function rescue(id: DefectId, surface: SurfaceState): Rescue {
  const d = defectById(id);
  const at = (s: SurfaceState) => surfaceStates.indexOf(s);
  return {
    cure: d.cure && at(surface) <= at(d.cure.until) ? d.cure.text : null,
    cover: d.cover ? { text: d.cover.text, now: at(surface) >= at(d.cover.from), from: d.cover.from } : null,
    causes: d.causes,
    prevention: d.prevention,
  };
}
