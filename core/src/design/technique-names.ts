/** What a drawing may ask for, by where it is done. What each means is in `steps/techniques`, one file each. */

/** Ways of covering a section. */
export const sectionTechniques = ['flood', 'thin-coat'] as const;
/** Done on a section while it is wet. */
export const markTechniques = ['wet-drop', 'wet-line', 'drag', 'sprinkle', 'lay-in'] as const;
/** Done on what is there already. */
export const detailTechniques = [
  'crackle',
  'relief',
  'piped-line',
  'lettering',
  'dipped-bead',
  'glued-transfer',
  'closing-outline',
  'trace',
  'pen',
  'stencil',
  'airbrush',
  'dust',
  'paint',
  'wafer',
  'assembly',
] as const;

export type SectionTechnique = (typeof sectionTechniques)[number];
export type MarkTechnique = (typeof markTechniques)[number];
export type DetailTechnique = (typeof detailTechniques)[number];

/** States of the drying ladder a part may ask of what it lies on, softest first. */
export const askedStates = ['thickening', 'skinned', 'crusted', 'set', 'firm', 'dry'] as const;
export type AskedState = (typeof askedStates)[number];

/** How a guide is made: what the hands follow, on the bare cookie or on what bears it. */
export const guideKinds = ['traced', 'scratched', 'ruled', 'stencil', 'cutter', 'centre', 'projected', 'sheet'] as const;
export type GuideKind = (typeof guideKinds)[number];

/** The wall round a flood: in its own icing, in another colour, piped twice, or left out. */
export const dams = ['same', 'contrast', 'double', 'none'] as const;
/** How full a flood is. */
export const fills = ['plump', 'just', 'low'] as const;
/** How a wet drop is laid: squeezed in at one point, or drawn as a ring and filled. */
export const dropWays = ['injected', 'ring'] as const;
export type DropWay = (typeof dropWays)[number];
/** What the mist of an airbrush is held to: a stencil resting on the icing, or an edge of paper. */
export const tools = ['stencil', 'edge'] as const;
/** Which parts of a free order come first. */
export const orderings = ['extremities', 'middle', 'alternating'] as const;
export type Ordering = (typeof orderings)[number];
