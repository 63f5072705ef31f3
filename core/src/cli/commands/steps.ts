import { basename } from 'node:path';
import { readDesign } from '../../design/read-design.js';
import { type Air, REFERENCE_AIR } from '../../drying/air.js';
import { type Margin, margins } from '../../drying/uncertainty.js';
import { checkDesign } from '../../planning/design-checks.js';
import { designTotals } from '../../planning/design-totals.js';
import { timeGap } from '../../planning/timed-gap.js';
import { cautionsFor } from '../../steps/cautions/index.js';
import { deriveSteps } from '../../steps/derive.js';
import { techniqueOf } from '../../steps/items.js';
import { asksOfPart } from '../../steps/part-asks.js';
import { schoolById, schoolIds } from '../../steps/school.js';
import type { Gap } from '../../steps/step.js';
import { NoAnswer } from '../../units/bad-input.js';
import { consequenceOf, reasonOf } from '../../wording/why.js';
import { type Command, choiceOption, numberOption, parse, print, readText } from '../command.js';

/** A gap's waits and windows in seconds of this air at this margin; null where it never dries so far. */
function secondsIn(gap: Gap, air: Air, margin: Margin): { minS: number | null; maxS?: number } {
  try {
    const { minS, maxS } = timeGap(gap, air, margin);
    return maxS === null ? { minS } : { minS, maxS };
  } catch (error) {
    if (error instanceof NoAnswer) return { minS: null };
    throw error;
  }
}

export const steps: Command = {
  name: 'steps',
  usage: 'steps DESIGN.svg [--school kit|one-bag|two-bags|patient|warm-box] [--temp-c C] [--humidity PCT] [--margin bold|normal|careful]',
  summary: 'sections, rounds of drying, steps of one cookie, and the gaps between them with their reasons',
  help: `Prints kestfog-steps/1: {"parts":[{"id","name","role","technique","asks":[{"of","state"|"seconds","because"}]}], "rounds", "roundsProven", "sections":[{"id","name","areaMm2","perimeterMm",
"inscribedDiameterMm","round","batch","touches","layerOn"}], "steps":[{"id","technique","part","parts","label","round",
"batch","seconds","bag"}], "gaps":[{"from","to","minState"|"minSeconds","maxState"|"maxSeconds","rule","facts",
"reason","consequence"}], "perCookie":{"handsOnS","throughS","bags"}, "checks":[{"kind","part","word","text",
"change"}], "cautions":[{"id","text"}], "notes":[{"code","place","text"}]}. Rounds count floodings from 1; seconds are hands-on, one cookie;
minLossKgPerM2 and maxLossKgPerM2 beside a state are the water lost by then at the median; minS and maxS are seconds in the air and at the margin
asked for, null where it never dries. "parts" is the stack, in the order of laying, with what each part asks of which other.
Roles in the drawing: data-part="cookie|section|line|mark|guide", data-technique (docs/formats.md lists them),
data-over="layer|inlay", data-flush="ids", data-colour, data-seconds or data-grade, data-depth-mm, data-name, and a part's own words: data-needs,
data-wait-min, data-within-min, data-after, data-first, data-guide, data-guides, data-dam, data-dam-colour, data-tip, data-opening-mm, data-edge-mm,
data-fill, data-tool, and data-order of the whole; groups pass them on. Without them a closed
fill of 20 mm² or more is a section, a smaller one on a section a wet drop, an open stroke a piped line.`,
  async run(args) {
    const { values, files } = parse(
      args,
      {
        school: { type: 'string', default: 'two-bags' },
        'temp-c': { type: 'string', default: '22' },
        humidity: { type: 'string', default: '50' },
        margin: { type: 'string' },
      },
      1,
    );
    const school = schoolById(choiceOption(values, 'school', schoolIds));
    const file = files[0] as string;
    const design = readDesign(await readText(file), basename(file).replace(/\.svg$/i, ''));
    const margin = values['margin'] === undefined ? school.margin : choiceOption(values, 'margin', margins);
    const air = {
      tempC: numberOption(values, 'temp-c', 5, 45, '°C'),
      humidityFrac: numberOption(values, 'humidity', 0, 100, '%') / 100,
      airMPerS: REFERENCE_AIR.airMPerS,
    };
    const graph = deriveSteps(design, school);
    const totals = designTotals(graph, air, margin);
    const round = (n: number) => Math.round(n * 100) / 100;
    print({
      format: 'kestfog-steps/1',
      design: design.name,
      parts: design.parts.map((p) => ({
        id: p.id,
        name: p.name,
        role: p.role,
        technique: techniqueOf(p),
        asks: asksOfPart(graph, p.id).map(({ facts, ...a }) => ({ ...a, because: reasonOf({ facts }) })),
      })),
      school: school.id,
      rounds: graph.rounds,
      roundsProven: graph.roundsProven,
      sections: graph.sections.map((s) => ({
        ...s,
        areaMm2: round(s.areaMm2),
        perimeterMm: round(s.perimeterMm),
        inscribedDiameterMm: round(s.inscribedDiameterMm),
      })),
      steps: graph.steps.map(({ region: _region, ...s }) => s),
      gaps: graph.gaps.map((g) => ({ ...g, reason: reasonOf(g), consequence: consequenceOf(g), ...secondsIn(g, air, margin) })),
      perCookie: {
        handsOnS: round(totals.handsOnS),
        throughS: totals.throughS === null ? null : round(totals.throughS),
        bags: totals.bags.map((b) => ({ colour: b.colour, grade: b.grade, seconds: b.seconds, g: round(b.g), ml: round(b.ml) })),
      },
      checks: checkDesign(design, graph, { school, air, margin }),
      cautions: cautionsFor({
        techniques: graph.steps.map((s) => s.technique),
        eggWhite: 'dried',
        warmAir: school.id === 'warm-box',
        cutByHand: false,
      }).map((c) => ({
        id: c.id,
        text: c.text,
      })),
      notes: design.notes.map(({ code, place, text }) => ({ code, place, text })),
    });
    return 0;
  },
};
