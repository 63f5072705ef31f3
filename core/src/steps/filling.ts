import { DEFAULT_FLOOD_DEPTH_MM, type Design, type Section, sectionsOf, type WetMark } from '../design/design.js';
import type { DropWay } from '../design/technique-names.js';
import { sharedEdge } from '../geometry/contact.js';
import { polylineLengthMm } from '../geometry/point.js';
import type { School } from './school.js';
import { techniqueById } from './techniques/index.js';
import { type Opening, openingFor, type Tip } from './tips.js';

/** The wall round a flood as it is piped: what is drawn, dries, is mixed and holds. */
export interface Dam {
  readonly rings: 0 | 1 | 2;
  readonly opening: Opening;
  /** #rrggbb */
  readonly colour: string;
}

export function damOf(section: Section, tips: readonly Tip[]): Dam {
  const { words } = section;
  const said = words?.dam ?? 'same';
  const rings = said === 'none' || section.technique === 'thin-coat' ? 0 : said === 'double' ? 2 : 1;
  const opening = openingFor({ outlet: 'round', usualMm: techniqueById('outline').openingMm as number, said: words }, tips);
  return { rings, opening, colour: (said === 'contrast' ? words?.damColour : undefined) ?? section.colour };
}

/** Length of one ring of a section's dam: what lies flush has one dam round the whole of it, and none along the join. Millimetres. */
export function damLengthMm(design: Design, section: Section, perimeter: number): number {
  const joinedMm = (section.flushWith ?? []).reduce((sum, id) => {
    const other = sectionsOf(design).find((s) => s.id === id);
    return sum + (other ? polylineLengthMm(sharedEdge(section.shape, other.shape)) : 0);
  }, 0);
  return Math.max(0, perimeter - joinedMm);
}

/** A flood's depth as it is filled: a depth that was said is meant; else plump, just or low, *assumed* shares of the usual. */
const FILL_SHARE = { plump: 1, just: 0.9, low: 0.75 } as const;
export const fillOf = (section: Section, school: School): keyof typeof FILL_SHARE =>
  section.words?.fill ?? (section.depthMm === DEFAULT_FLOOD_DEPTH_MM ? school.fill : 'plump');
export const filledDepthMm = (section: Section, school: School): number => section.depthMm * FILL_SHARE[fillOf(section, school)];

/** How far short of its line a flood stops: as it says, else as the school does where no dam holds it. */
export const edgeOf = (section: Section, school: School): number =>
  section.words?.edgeMm ?? (section.words?.dam === 'none' ? school.edgeMm : 0);

export type { DropWay };
export const dropWayOf = (mark: Pick<WetMark, 'words'>, school: Pick<School, 'drops'>): DropWay => mark.words?.drop ?? school.drops;
