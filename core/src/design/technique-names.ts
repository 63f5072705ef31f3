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
