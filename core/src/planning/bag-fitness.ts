import type { Design } from '../design/design.js';
import { craterRisk } from '../drying/risk.js';
import { deriveSteps } from '../steps/derive.js';
import { type Bag, bagKey, type Step } from '../steps/step.js';
import type { Tip } from '../steps/tips.js';
import { courseAlone, type Making } from './course.js';
import { LUMPS_BY_S } from './drawn-checks.js';

/** What a counted bag is good for: one verdict for each kind of job it was mixed for. */
export interface JobFitness {
  readonly job: 'flood' | 'outline' | 'marks' | 'lines' | 'glue';
  /** parts it was judged on */
  readonly parts: readonly string[];
  readonly verdict: 'fine' | 'too-loose' | 'too-stiff' | 'craters' | 'lumps';
  /** a count that would do; null where this one does */
  readonly betterS: number | null;
}

/** Grades at which a job fails, seconds: common practice, no published source. What was asked for is never wrong, whatever these say. */
const FAILS: Readonly<Record<JobFitness['job'], { readonly below: number; readonly above: number }>> = {
  flood: { below: 0, above: 25 },
  outline: { below: 20, above: 60 },
  marks: { below: 0, above: Number.POSITIVE_INFINITY },
  lines: { below: 40, above: Number.POSITIVE_INFINITY },
  glue: { below: 20, above: Number.POSITIVE_INFINITY },
};
/** Wet marks this much stiffer than their flood stand proud instead of sinking. */
const MARKS_STIFFER_BY_S = 8;
/** Wet marks asked for at least this stiff are meant to stay sharp, and below it they spread. */
const SHARP_FROM_S = 25;
const CRATER_WATCH = 0.35;
const SMALL_POOL_S = 20;

const jobOf = (s: Step): JobFitness['job'] | null => {
  if (s.kind === 'flood' || s.kind === 'mark') return s.kind === 'flood' ? 'flood' : 'marks';
  if (s.kind === 'dam') return 'outline';
  return s.technique === 'glued-transfer' || s.technique === 'wafer' ? 'glue' : s.kind === 'detail' ? 'lines' : null;
};

interface Use {
  readonly step: Step;
  /** what it lies wet in */
  readonly baseS: number;
  readonly dragged: boolean;
  readonly craters: boolean;
}

/** Judges a bag that counts `countedS` for everything its designs use it for, in the order's air with its stays for small pools. */
export function bagFitness(
  bag: Bag,
  countedS: number,
  designs: readonly Design[],
  making: Making & { readonly tips?: readonly Tip[] | undefined },
): JobFitness[] {
  const uses = new Map<JobFitness['job'], Use[]>();
  for (const design of designs) {
    const graph = deriveSteps(design, making.school, { tips: making.tips });
    const course = courseAlone(graph, making);
    for (const step of graph.steps) {
      const job = jobOf(step);
      if (!job || !step.bag || bagKey(step.bag) !== bagKey(bag)) continue;
      const facts = graph.sections.find((s) => s.id === step.part);
      const base = graph.steps.find((s) => s.kind === 'flood' && s.part === step.sectionId);
      const later = graph.steps.slice(graph.steps.indexOf(step));
      const risk =
        job === 'flood' && facts && step.region
          ? craterRisk({
              inscribedDiameterMm: facts.inscribedDiameterMm,
              region: { ...step.region, seconds: countedS },
              airs: course.airsAfter(step),
              underfilled: false,
              neighbourDry: false,
              ...(making.factors ? { factors: making.factors } : {}),
            }).risk
          : 0;
      uses.set(job, [
        ...(uses.get(job) ?? []),
        {
          step,
          baseS: base?.bag?.seconds ?? Number.POSITIVE_INFINITY,
          dragged: later.some((s) => s.technique === 'drag' && s.inside.some((id) => step.inside.includes(id))),
          craters: risk >= CRATER_WATCH,
        },
      ]);
    }
  }
  const out: JobFitness[] = [];
  const tell = (job: JobFitness['job'], of: readonly Use[], verdict: JobFitness['verdict'], betterS: number | null) => {
    if (of.length > 0) out.push({ job, parts: [...new Set(of.map((u) => u.step.label))], verdict, betterS });
  };
  const asked = bag.seconds;
  for (const [job, all] of uses) {
    const { below, above } = FAILS[job];
    const sharp = job === 'marks' && asked >= SHARP_FROM_S;
    if (countedS < Math.min(asked, sharp ? SHARP_FROM_S : below))
      tell(job, all, 'too-loose', Math.max(sharp ? SHARP_FROM_S : below, asked));
    else if (countedS > Math.max(asked, above)) tell(job, all, 'too-stiff', asked);
    else if (job === 'flood') {
      // Looser than asked, small pools stay wet too long; as it was asked for, the design's own checks tell the risk.
      const craters = all.filter((u) => u.craters && countedS < asked);
      tell(job, craters, 'craters', Math.max(asked, SMALL_POOL_S));
      tell(
        job,
        all.filter((u) => !craters.includes(u)),
        'fine',
        null,
      );
    } else if (job === 'marks') {
      const lumps = all.filter((u) => u.dragged && countedS > Math.max(asked, u.baseS) + LUMPS_BY_S);
      const proud = all.filter((u) => !lumps.includes(u) && !sharp && countedS > Math.max(asked, u.baseS) + MARKS_STIFFER_BY_S);
      tell(job, lumps, 'lumps', Math.min(asked, ...lumps.map((u) => u.baseS)));
      tell(job, proud, 'too-stiff', Math.min(asked, ...proud.map((u) => u.baseS)));
      tell(
        job,
        all.filter((u) => !lumps.includes(u) && !proud.includes(u)),
        'fine',
        null,
      );
    } else tell(job, all, 'fine', null);
  }
  return out;
}
