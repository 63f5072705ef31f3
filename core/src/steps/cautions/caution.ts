/** A caution of the trade. It advises; local food codes and licensed practice decide. */
export const cautionIds = [
  'raw-egg',
  'allergens',
  'edible-only',
  'tools-food-only',
  'no-bare-fingers',
  'warm-air',
  'spirit',
  'airbrush-mist',
  'choking',
  'for-sale',
  'cover-trays',
  'pack-dry',
  'knives',
  'print-paper',
] as const;
export type CautionId = (typeof cautionIds)[number];
