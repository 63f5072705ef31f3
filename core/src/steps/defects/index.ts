import { type SurfaceState, surfaceStates } from '../../drying/state.js';
import { msg } from '../../words/index.js';

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
  'bubbles',
  'dip',
  'missed-patch',
  'crumbs',
  'bumped',
  'stencil-smeared',
  'paper-lifted',
  'pen-slipped',
  'tip-plugged',
  'bowl-crusted',
  'separated',
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
  /** how it is known from its neighbours */
  readonly looks: string;
  /** it is on a cookie, or in a bag or bowl, which is mended and goes on */
  readonly on: 'cookie' | 'bag';
  readonly causes: string;
  /** makes it good, while the surface is no further than this; null where nothing does */
  readonly cure: Remedy | null;
  /** hides it, once the surface carries something; from this state on */
  readonly cover: { readonly text: string; readonly from: SurfaceState } | null;
  readonly prevention: string;
}

const whole: Defect['cover'] = { text: msg`pipe a detail or a border over it`, from: 'set' };

export const defects: readonly Defect[] = [
  {
    id: 'broken',
    seen: msg`the cookie broke`,
    looks: msg`a crack through the biscuit, or a corner off`,
    on: 'cookie',
    causes: msg`dropped, knocked, lifted by its edge`,
    cure: null,
    cover: null,
    prevention: msg`lift with a flat hand or a spatula; a spare or two a dozen`,
  },
  {
    id: 'crater',
    seen: msg`a crater, it caved in`,
    looks: msg`a hollow with a rim, often in the middle of a small part, sometimes an hour later`,
    on: 'cookie',
    causes: msg`a small pool in loose icing that stayed wet too long, a buried bubble, too little icing`,
    cure: { text: msg`quick-set it now: before the fan, or two minutes in the dehydrator`, until: 'thickening' },
    cover: { text: msg`fill it flush once it has crusted, or pipe a dot over it`, from: 'crusted' },
    prevention: msg`thicker icing, few small pools a round, fill to a dome, warm air for minutes`,
  },
  {
    id: 'ran-together',
    seen: msg`colours ran together, no step`,
    looks: msg`the two floods lie level, their edge wanders`,
    on: 'cookie',
    causes: msg`the neighbour was flooded too early`,
    cure: { text: msg`lift the colour that ran in with a dry scribe or brush`, until: 'wet' },
    cover: { text: msg`pipe a dividing line over the join`, from: 'set' },
    prevention: msg`wait until the neighbour has crusted`,
  },
  {
    id: 'bled',
    seen: msg`a colour bled into the other`,
    looks: msg`a tinted fringe or a halo beside the join, after hours`,
    on: 'cookie',
    causes: msg`strong colour beside or over pale that had not set`,
    cure: null,
    cover: { text: msg`a line or a border of the strong colour over the edge`, from: 'set' },
    prevention: msg`wait for set, light colours first, dry fast`,
  },
  {
    id: 'ridges',
    seen: msg`ridges, creases`,
    looks: msg`fine folds beside an edge, like skin on milk`,
    on: 'cookie',
    causes: msg`shaken while it was skinned over wet`,
    cure: { text: msg`a moist scribe in small circles, then leave it`, until: 'wet' },
    cover: { text: msg`a piped texture or a detail over it`, from: 'set' },
    prevention: msg`scribe only, or pat; never shake once a part has skinned`,
  },
  {
    id: 'overflowed',
    seen: msg`it ran over the edge`,
    looks: msg`icing over the edge or over the dam`,
    on: 'cookie',
    causes: msg`too full, too near the edge, wet details added volume`,
    cure: { text: msg`scrape the edge clean with a dry scribe and take some icing off`, until: 'thickening' },
    cover: { text: msg`trim it with a knife point once it is dry, then a border`, from: 'firm' },
    prevention: msg`stop 1–2 mm short, underfill before wet work`,
  },
  {
    id: 'stood-up',
    seen: msg`details stand up`,
    looks: msg`dots and lines lie on top like beads where they should lie flat`,
    on: 'cookie',
    causes: msg`the base was skinning`,
    cure: { text: msg`press them in with the scribe`, until: 'skinned' },
    cover: null,
    prevention: msg`fewer cookies a group, looser icing, no fan meanwhile`,
  },
  {
    id: 'spread',
    seen: msg`details spread`,
    looks: msg`dots and lines are wider than they were laid, their edges soft`,
    on: 'cookie',
    causes: msg`flood on flood`,
    cure: { text: msg`draw the edge back with a clean scribe`, until: 'wet' },
    cover: { text: msg`pipe the detail again on top`, from: 'set' },
    prevention: msg`outline icing, a smaller opening`,
  },
  {
    id: 'dragged-lumps',
    seen: msg`dragged lumps, muddy colours`,
    looks: msg`crumbs of crust or a muddy trail along a pull`,
    on: 'cookie',
    causes: msg`the scribe was not wiped, marks thicker than the base`,
    cure: { text: msg`pull once more with a clean, moist scribe`, until: 'wet' },
    cover: whole,
    prevention: msg`wipe after each pull, match the seconds`,
  },
  {
    id: 'dent',
    seen: msg`a dent, a poke, a smudge`,
    looks: msg`a print, a hole or a shiny smear where something touched it`,
    on: 'cookie',
    causes: msg`touched before it carried a finger`,
    cure: { text: msg`tap the cookie so that it closes`, until: 'thickening' },
    cover: { text: msg`cover it with a detail, a transfer or a border`, from: 'set' },
    prevention: msg`wait for the state, finger off, a mat that does not slip`,
  },
  {
    id: 'rough',
    seen: msg`wrinkled or rough`,
    looks: msg`matt and pitted, like orange peel`,
    on: 'cookie',
    causes: msg`overworked, or a dry scribe`,
    cure: { text: msg`tap it level`, until: 'thickening' },
    cover: whole,
    prevention: msg`touch less, moist scribe`,
  },
  {
    id: 'line-wobbled',
    seen: msg`a line wobbled, broke or peaked`,
    looks: msg`a gap, a curl or a pointed end in a piped line`,
    on: 'cookie',
    causes: msg`air in the bag, too little pressure, too near`,
    cure: { text: msg`touch it back into place with a moist brush or the scribe`, until: 'thickening' },
    cover: { text: msg`lift it off with a needle and pipe it again`, from: 'crusted' },
    prevention: msg`lift the line, anchor it at the turns`,
  },
  {
    id: 'sank',
    seen: msg`a detail sank in`,
    looks: msg`a line or dot half under the surface`,
    on: 'cookie',
    causes: msg`the base was too fresh`,
    cure: null,
    cover: { text: msg`pipe it again on top`, from: 'set' },
    prevention: msg`an hour more before it`,
  },
  {
    id: 'wrong-shade',
    seen: msg`the wrong shade`,
    looks: msg`lighter or darker than its fellows on the tray`,
    on: 'cookie',
    causes: msg`the wrong bag was picked`,
    cure: { text: msg`pipe the right shade over it while it is wet`, until: 'wet' },
    cover: { text: msg`flood a thin layer of the right shade over it`, from: 'set' },
    prevention: msg`label the bags`,
  },
  {
    id: 'transfer-broke',
    seen: msg`a transfer broke`,
    looks: msg`two pieces, or a crack at a thin place`,
    on: 'cookie',
    causes: msg`thin, or glued in the hand`,
    cure: { text: msg`take a spare`, until: 'dry' },
    cover: { text: msg`lay the pieces close and pipe over the crack`, from: 'set' },
    prevention: msg`spares, a tenth to a fifth more; put the glue on the cookie`,
  },
  {
    id: 'bubbles',
    seen: msg`bubbles`,
    looks: msg`small domes or pinholes in a flood`,
    on: 'cookie',
    causes: msg`air beaten in, a bag filled in a hurry, an opening lifted while squeezing`,
    cure: { text: msg`prick them with the scribe, then a small circle over each`, until: 'thickening' },
    cover: { text: msg`fill the pinholes with a drop of the same icing, wiped level`, from: 'set' },
    prevention: msg`let the icing stand covered and stir it slowly; a tap under the tray after flooding`,
  },
  {
    id: 'dip',
    seen: msg`a dip in the flood`,
    looks: msg`a shallow hollow without a rim, the dam standing above it`,
    on: 'cookie',
    causes: msg`too little icing`,
    cure: { text: msg`a little more of the same icing into it, drawn out with the scribe`, until: 'wet' },
    cover: { text: msg`a second thin flood over the whole part`, from: 'crusted' },
    prevention: msg`fill to a dome; count what wet work adds, not more`,
  },
  {
    id: 'missed-patch',
    seen: msg`a patch was missed`,
    looks: msg`bare biscuit between the flood and its line`,
    on: 'cookie',
    causes: msg`not drawn out into the corner`,
    cure: { text: msg`draw the icing into it with the scribe`, until: 'thickening' },
    cover: { text: msg`fill the patch with outline icing and smooth it`, from: 'crusted' },
    prevention: msg`corners first, then the middle`,
  },
  {
    id: 'crumbs',
    seen: msg`crumbs in the flood`,
    looks: msg`brown specks, often beside the edge`,
    on: 'cookie',
    causes: msg`a cookie that was not brushed, a scribe that scraped the biscuit`,
    cure: { text: msg`lift them out with the tip of a moist scribe`, until: 'thickening' },
    cover: { text: msg`a dot or a line over them`, from: 'set' },
    prevention: msg`brush the cookies first; keep the scribe in the icing, off the biscuit`,
  },
  {
    id: 'bumped',
    seen: msg`a finished part was bumped`,
    looks: msg`a scrape or a flat place on a part that was done, beside the one in hand`,
    on: 'cookie',
    causes: msg`a hand or a bag rested on it, cookies too near each other`,
    cure: { text: msg`smooth it with a moist brush`, until: 'skinned' },
    cover: { text: msg`pipe the part again, or a detail over it`, from: 'set' },
    prevention: msg`turn the cookie, not the hand; room for a hand between cookies`,
  },
  {
    id: 'stencil-smeared',
    seen: msg`the stencil smeared`,
    looks: msg`a soft edge or a shadow beside the print`,
    on: 'cookie',
    causes: msg`it shifted, icing crept under it, a second wipe`,
    cure: { text: msg`scrape the print off with a clean spatula and stencil it again`, until: 'wet' },
    cover: { text: msg`outline the print with a fine bead`, from: 'crusted' },
    prevention: msg`stiffer icing, one wipe, the stencil washed and dry, held beside the icing`,
  },
  {
    id: 'paper-lifted',
    seen: msg`the paper lifted`,
    looks: msg`an edge of paper curls off the icing`,
    on: 'cookie',
    causes: msg`too little glue at the edge, a damp room, pressed once`,
    cure: { text: msg`press it down again with a dry finger in a glove, twice, some minutes apart`, until: 'dry' },
    cover: { text: msg`a bead border over the edge`, from: 'set' },
    prevention: msg`glue to the very edge; press again until it sticks`,
  },
  {
    id: 'pen-slipped',
    seen: msg`a pen line went wrong`,
    looks: msg`a line where none belongs`,
    on: 'cookie',
    causes: msg`the cookie slipped, drawn without a guide`,
    cure: { text: msg`lift fresh ink with a barely moist brush, dab it dry`, until: 'dry' },
    cover: { text: msg`a bead or a dab of icing in the ground colour over it`, from: 'firm' },
    prevention: msg`a mat that does not slip; a light guide first`,
  },
  {
    id: 'tip-plugged',
    seen: msg`the tip is plugged`,
    looks: msg`nothing comes, then too much at once`,
    on: 'bag',
    causes: msg`icing dried in the opening, a lump of sugar`,
    cure: { text: msg`squeeze it out on a damp towel, clear it with the scribe; strain the icing where lumps go on`, until: 'dry' },
    cover: null,
    prevention: msg`tip down in the damp nest, wiped at each pick-up; sugar sifted`,
  },
  {
    id: 'bowl-crusted',
    seen: msg`the icing has crusted in the bowl`,
    looks: msg`a skin on the bowl, flakes in the bag`,
    on: 'bag',
    causes: msg`it stood open`,
    cure: { text: msg`take the skin off, do not stir it in; strain what is under it and count it again`, until: 'dry' },
    cover: null,
    prevention: msg`a damp cloth or film right on the icing`,
  },
  {
    id: 'separated',
    seen: msg`the icing has separated`,
    looks: msg`clear liquid at the tip, thick icing behind it`,
    on: 'bag',
    causes: msg`it stood, or was thawed`,
    cure: { text: msg`knead the bag, or stir the bowl, until it is even; count it again`, until: 'dry' },
    cover: null,
    prevention: msg`knead before each use; mix no more than a day ahead`,
  },
];

export const defectById = (id: DefectId): Defect => defects.find((d) => d.id === id) as Defect;

/** What can be done about a defect on a surface as it is now. Waiting opens a cover; a cure that is gone is not offered. */
export interface Rescue {
  readonly cure: string | null;
  readonly cover: { readonly text: string; readonly now: boolean; readonly from: SurfaceState } | null;
  readonly looks: string;
  readonly causes: string;
  readonly prevention: string;
}

export function rescue(id: DefectId, surface: SurfaceState): Rescue {
  const d = defectById(id);
  const at = (s: SurfaceState) => surfaceStates.indexOf(s);
  return {
    cure: d.cure && at(surface) <= at(d.cure.until) ? d.cure.text : null,
    cover: d.cover ? { text: d.cover.text, now: at(surface) >= at(d.cover.from), from: d.cover.from } : null,
    looks: d.looks,
    causes: d.causes,
    prevention: d.prevention,
  };
}
