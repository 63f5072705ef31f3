import { basename } from 'node:path';
import { readDesign } from '../../design/read-design.js';
import { REFERENCE_AIR } from '../../drying/air.js';
import { margins } from '../../drying/uncertainty.js';
import { checkDesign, designTotals } from '../../planning/design-checks.js';
import { cautionsFor } from '../../steps/cautions/index.js';
import { deriveSteps } from '../../steps/derive.js';
import { schoolById, schoolIds } from '../../steps/school.js';
import { type Command, choiceOption, numberOption, parse, print, readText } from '../command.js';

export const steps: Command = {
  name: 'steps',
  usage: 'steps DESIGN.svg [--school kit|one-bag|two-bags|patient|warm-box] [--temp-c C] [--humidity PCT] [--margin bold|normal|careful]',
  summary: 'sections, rounds of drying, steps of one cookie, and the gaps between them with their reasons',
  help: `Prints kestfog-steps/1: {"rounds", "roundsProven", "sections":[{"id","name","areaMm2","perimeterMm",
"inscribedDiameterMm","round","batch","touches","layerOn"}], "steps":[{"id","technique","part","parts","label","round",
"batch","seconds","bag"}], "gaps":[{"from","to","minState"|"minSeconds","maxState"|"maxSeconds","rule","reason",
"consequence"}], "perCookie":{"handsOnS","throughS","bags"}, "checks":[{"kind","part","word","text",
"change"}], "cautions":[{"id","text"}], "notes":[{"code","place","text"}]}. Rounds count floodings from 1; seconds are hands-on, one cookie;
minLossKgPerM2 and maxLossKgPerM2 beside a state are the water lost by then at the median.
Roles in the drawing: data-part="cookie|section|line|mark|guide", data-technique (docs/formats.md lists them),
data-over="layer|inlay", data-flush="ids", data-colour, data-seconds or data-grade, data-depth-mm, data-name; groups pass them on. Without them a closed
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
    const totals = designTotals(design, graph, air, margin);
    const round = (n: number) => Math.round(n * 100) / 100;
    print({
      format: 'kestfog-steps/1',
      design: design.name,
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
      gaps: graph.gaps,
      perCookie: {
        handsOnS: round(totals.handsOnS),
        throughS: totals.throughS === null ? null : round(totals.throughS),
        bags: totals.bags.map((b) => ({ colour: b.colour, grade: b.grade, seconds: b.seconds, g: round(b.g), ml: round(b.ml) })),
      },
      checks: checkDesign(design, graph, school, air, margin),
      cautions: cautionsFor({ techniques: graph.steps.map((s) => s.technique), eggWhite: 'dried', warmAir: school.id === 'warm-box', cutByHand: false }).map(
        (c) => ({
          id: c.id,
          text: c.text,
        }),
      ),
      notes: design.notes,
    });
    return 0;
  },
};
