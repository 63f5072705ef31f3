import { DEFAULT_FLOOD_DEPTH_MM } from '../design/design.js';
import { type DetailTechnique, type MarkTechnique, type SectionTechnique, sectionTechniques } from '../design/technique-names.js';
import { beadMl, dropDepthMm, floodMl } from '../icing/amounts.js';
import { AREA_DETAIL_MM, NOTHING } from './derive.js';
import type { Pace } from './pace.js';
import type { School } from './school.js';
import { techniqueById } from './techniques/index.js';
import type { Extent } from './techniques/technique.js';

/** What is being drawn by hand measures, with all its copies: a length along strokes, or what areas cover and their edges. */
export interface StrokeMeasure {
  readonly lengthMm: number;
  /** 0 for strokes */
  readonly areaMm2: number;
  readonly count: number;
  readonly widthMm: number;
}

/**
 * Hands-on seconds and icing (ml) of one cookie for what is being drawn, by the same techniques the plan goes by: shown while the
 * stroke grows, before there is a part to derive steps from.
 */
export function strokeCost(
  id: SectionTechnique | MarkTechnique | DetailTechnique,
  { lengthMm, areaMm2, count, widthMm }: StrokeMeasure,
  school: School,
  pace: Pace,
): { readonly seconds: number; readonly ml: number } {
  const definition = techniqueById(id);
  const isArea = areaMm2 > 0;
  if ((sectionTechniques as readonly string[]).includes(id)) {
    const extent: Extent = { ...NOTHING, lengthMm, areaMm2, count };
    const dam = techniqueById('outline');
    const damS = id === 'flood' ? dam.seconds(extent, pace, school) : 0;
    const damMl = id === 'flood' ? beadMl(lengthMm, dam.openingMm ?? 0) : 0;
    return { seconds: damS + definition.seconds(extent, pace, school), ml: damMl + floodMl(areaMm2, DEFAULT_FLOOD_DEPTH_MM) };
  }
  const extent: Extent = {
    ...NOTHING,
    lengthMm: isArea ? 0 : lengthMm,
    areaMm2: isArea ? areaMm2 : lengthMm * widthMm,
    count,
    filled: isArea ? count : 0,
    filledMm2: areaMm2,
    ringMm: id === 'wet-drop' && school.drops === 'ring' ? lengthMm : 0,
  };
  const ml =
    definition.icing === null
      ? 0
      : id === 'wet-drop'
        ? floodMl(areaMm2, dropDepthMm(school.drops))
        : isArea
          ? floodMl(areaMm2, AREA_DETAIL_MM)
          : beadMl(lengthMm, widthMm);
  return { seconds: definition.seconds(extent, pace, school), ml };
}
