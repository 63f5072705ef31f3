import type { Design } from '../design/design.js';
import { type Air, REFERENCE_AIR } from '../drying/air.js';
import { craterRisk } from '../drying/risk.js';
import { deriveSteps } from '../steps/derive.js';
import type { School } from '../steps/school.js';
import { type Bag, bagKey } from '../steps/step.js';

/** What a counted bag is good for: one verdict for each kind of job it was mixed for. */
export interface JobFitness {
  readonly job: 'flood' | 'outline' | 'marks' | 'lines';
  /** parts it was judged on */
  readonly parts: readonly string[];
  readonly verdict: 'fine' | 'too-loose' | 'too-stiff' | 'craters';
  /** a count that would do; null where this one does */
  readonly betterS: number | null;
}

/** Grades at which a job fails: common practice, no published source. */
const LEVELS_BELOW_S = 25;
const DAM_FROM_S = 20;
const PROUD_FROM_S = 40;
/** Wet marks this much stiffer than their flood stand proud instead of sinking. */
const MARKS_STIFFER_BY_S = 8;
const CRATER_WATCH = 0.35;
const SMALL_POOL_S = 20;

/** Judges a bag that counts `countedS` for everything its designs use it for, in the order's air. */
export function bagFitness(bag: Bag, countedS: number, designs: readonly Design[], school: School, air: Air = REFERENCE_AIR): JobFitness[] {
  const out: JobFitness[] = [];
  const parts = { flood: [] as string[], small: [] as string[], outline: [] as string[], marks: [] as string[], lines: [] as string[] };
  let loosestFloodS = Number.POSITIVE_INFINITY;
  for (const design of designs) {
    const graph = deriveSteps(design, school);
    for (const step of graph.steps) {
      if (!step.bag || bagKey(step.bag) !== bagKey(bag)) continue;
      if (step.kind === 'flood') {
        const facts = graph.sections.find((s) => s.id === step.part);
        const risky =
          facts &&
          step.region &&
          craterRisk({
            inscribedDiameterMm: facts.inscribedDiameterMm,
            region: { ...step.region, seconds: countedS },
            firstAir: air,
            underfilled: false,
            neighbourDry: false,
          }).risk >= CRATER_WATCH;
        (risky ? parts.small : parts.flood).push(step.label);
      } else if (step.kind === 'dam') parts.outline.push(step.label);
      else if (step.kind === 'detail') parts.lines.push(step.label);
      else {
        parts.marks.push(step.label);
        const flood = graph.steps.find((s) => s.kind === 'flood' && s.part === step.sectionId);
        loosestFloodS = Math.min(loosestFloodS, flood?.bag?.seconds ?? Number.POSITIVE_INFINITY);
      }
    }
  }
  const judge = (job: JobFitness['job'], names: readonly string[], verdict: JobFitness['verdict'], betterS: number | null) => {
    if (names.length > 0) out.push({ job, parts: [...new Set(names)], verdict, betterS });
  };
  const stiff = countedS >= LEVELS_BELOW_S;
  judge('flood', stiff ? [...parts.flood, ...parts.small] : parts.flood, stiff ? 'too-stiff' : 'fine', stiff ? bag.seconds : null);
  if (!stiff) judge('flood', parts.small, 'craters', SMALL_POOL_S);
  judge(
    'outline',
    parts.outline,
    countedS < Math.min(DAM_FROM_S, bag.seconds) ? 'too-loose' : 'fine',
    countedS < Math.min(DAM_FROM_S, bag.seconds) ? bag.seconds : null,
  );
  const proud = countedS > loosestFloodS + MARKS_STIFFER_BY_S;
  judge('marks', parts.marks, proud ? 'too-stiff' : 'fine', proud ? loosestFloodS : null);
  judge('lines', parts.lines, countedS < PROUD_FROM_S ? 'too-loose' : 'fine', countedS < PROUD_FROM_S ? Math.max(PROUD_FROM_S, bag.seconds) : null);
  return out;
}
