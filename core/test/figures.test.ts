import { writeFileSync } from 'node:fs';
import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { describe, expect, it } from 'vitest';
import { Z_90 } from '../src/drying/index.js';
import { BY_THE_BOOK, type Kitchen, slower } from '../src/rehearsal/index.js';
import { seededRng } from '../src/time/index.js';
import { EVENINGS, honestyBins } from './honesty.js';
import { anyKitchen, medianFactor, someCookie, taught } from './kitchen.js';
import { made } from './play.js';

/** Figures of the models, drawn by hand with FIGURES=1 after the model has changed: they take minutes. */
const KITCHENS = 150;
const DAYS = 20;
const SEED = 1948;
const KINDS: readonly (readonly [string, string, (rng: () => number) => Kitchen])[] = [
  ['by the book', '#1f6f78', () => BY_THE_BOOK],
  ['a third slower', '#a4452c', () => slower(1.35)],
  ['as likely as any', '#5a4a8a', anyKitchen],
];

describe.runIf(process.env['FIGURES'])(`docs/figures (seed ${SEED})`, () => {
  it('learning.svg: how often the next crust lies in its interval, and how far the factor is off, day by day', { timeout: 900_000 }, () => {
    const plan = made(['lighthouse', 'mackerel', 'gull', 'sea-glass']);
    const rng = seededRng(SEED);
    const kinds = KINDS.map(([name, colour, of]) => {
      const inside = Array<number>(DAYS).fill(0);
      const errors: number[][] = Array.from({ length: DAYS }, () => []);
      for (let k = 0; k < KITCHENS; k++) {
        const kitchen = of(rng);
        for (const [day, { crusted }] of taught(plan, kitchen, DAYS, SEED + k).beliefs.entries()) {
          errors[day]?.push(100 * (Math.exp(crusted.mean) / medianFactor(kitchen, 'crusted') - 1));
          for (let c = 0; c < 20; c++)
            if (Math.abs(Math.log(someCookie(kitchen, 'crusted', rng)) - crusted.mean) <= Z_90 * crusted.sigma)
              inside[day] = (inside[day] as number) + 1;
        }
      }
      const at = (list: number[], share: number) => [...list].sort((a, b) => a - b)[Math.floor(share * list.length)] as number;
      return {
        name,
        colour,
        covered: inside.map((n) => (100 * n) / (20 * KITCHENS)),
        low: errors.map((e) => at(e, 0.1)),
        mid: errors.map((e) => at(e, 0.5)),
        high: errors.map((e) => at(e, 0.9)),
      };
    });
    for (const k of kinds) expect(k.covered.at(-1)).toBeGreaterThan(74);
    const x = scaleLinear([1, DAYS], [60, 400]);
    const covered = scaleLinear([50, 100], [250, 40]);
    const off = scaleLinear([-40, 40], [250, 40]);
    const days = [...Array(DAYS).keys()].map((d) => d + 1);
    const axis = (y: typeof covered, ticks: readonly number[], unit: string, title: string) =>
      [
        `<text x="60" y="24" font-weight="600">${title}</text>`,
        ...ticks.map(
          (t) => `<path d="M60 ${y(t)}H400" stroke="#d8d8d4"/><text x="52" y="${y(t) + 4}" text-anchor="end">${t}${unit}</text>`,
        ),
        ...[1, 5, 10, 15, 20].map((d) => `<text x="${x(d)}" y="272" text-anchor="middle">${d}</text>`),
        '<text x="230" y="292" text-anchor="middle">days at the bench</text>',
      ].join('');
    const path = (y: typeof covered, values: readonly number[]) =>
      line<number>(
        (_, i) => x(days[i] as number),
        (v) => y(v),
      )([...values]) ?? '';
    const band = (low: readonly number[], high: readonly number[]) =>
      area<number>()
        .x((_, i) => x(days[i] as number))
        .y0((_, i) => off(low[i] as number))
        .y1((_, i) => off(high[i] as number))([...low]) ?? '';
    const left = `${axis(covered, [50, 60, 70, 80, 90, 100], ' %', 'next crust inside its 80 % interval')}<path d="M60 ${covered(80)}H400" stroke="#333" stroke-dasharray="4 3"/>${kinds
      .map((k) => `<path d="${path(covered, k.covered)}" fill="none" stroke="${k.colour}" stroke-width="2.5"/>`)
      .join('')}`;
    const right = `${axis(off, [-40, -20, 0, 20, 40], ' %', 'factor as believed against the true one')}${kinds
      .map(
        (k) =>
          `<path d="${band(k.low, k.high)}" fill="${k.colour}" opacity=".13"/><path d="${path(off, k.mid)}" fill="none" stroke="${k.colour}" stroke-width="2.5"/>`,
      )
      .join('')}`;
    const legend = kinds
      .map(
        (k, i) =>
          `<g transform="translate(${60 + 170 * i} 318)"><path d="M0 -4H24" stroke="${k.colour}" stroke-width="2.5"/><text x="32">${k.name}</text></g>`,
      )
      .join('');
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 880 335" font-family="sans-serif" font-size="12" fill="#222" role="img" aria-label="How well kitchens are known after so many days"><rect width="880" height="335" fill="#fdfdfb"/>${left}<g transform="translate(440 0)">${right}</g>${legend}<text x="860" y="318" text-anchor="end">${KITCHENS} kitchens each; lines are medians, bands eight in ten</text></svg>\n`;
    writeFileSync(new URL('../../docs/figures/learning.svg', import.meta.url), svg);
  });

  it('honesty.svg: the chance that was shown, and how often it came true', { timeout: 900_000 }, () => {
    const bins = honestyBins();
    const x = scaleLinear([0, 100], [60, 340]);
    const y = scaleLinear([0, 100], [320, 40]);
    const most = Math.max(...bins.map((b) => b.n));
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 660 380" font-family="sans-serif" font-size="12" fill="#222" role="img"
  aria-label="The chance of being packed in time that was shown, against how often it came true">
<rect width="660" height="380" fill="#fff"/>
<text x="60" y="24" font-weight="600">Packed in time: shown, and come true</text>
${[0, 20, 40, 60, 80, 100]
  .map(
    (t) =>
      `<path d="M60 ${y(t)}H340M${x(t)} 40V320" stroke="#e4e4e0"/><text x="52" y="${y(t) + 4}" text-anchor="end">${t} %</text><text x="${x(t)}" y="338" text-anchor="middle">${t} %</text>`,
  )
  .join('\n')}
<path d="M${x(0)} ${y(0)}L${x(100)} ${y(100)}" stroke="#777" stroke-dasharray="4 4"/>
<path d="M${x(0)} ${y(7)}L${x(93)} ${y(100)}M${x(7)} ${y(0)}L${x(100)} ${y(93)}" stroke="#bbb"/>
<path d="${line()(bins.map((b) => [x(100 * b.shown), y(100 * b.came)]))}" fill="none" stroke="#1f6f78" stroke-width="2"/>
${bins.map((b) => `<circle cx="${x(100 * b.shown).toFixed(1)}" cy="${y(100 * b.came).toFixed(1)}" r="${(4 + 6 * Math.sqrt(b.n / most)).toFixed(1)}" fill="#1f6f78"/>`).join('\n')}
<text x="200" y="360" text-anchor="middle">chance that was shown</text>
<text transform="translate(14 180) rotate(-90)" text-anchor="middle">share of evenings in time</text>
${[
  `Six plans, ${EVENINGS} evenings of each in kitchens`,
  'as likely as any, worked cookie by cookie;',
  'every plan due a little sooner or later.',
  'Between the grey lines: within 7 points.',
  ...bins.map((b) => `${(100 * b.shown).toFixed(0)} % shown, ${(100 * b.came).toFixed(0)} % came true (${b.n})`),
]
  .map((t, i) => `<text x="370" y="${60 + 20 * i}">${t}</text>`)
  .join('\n')}
</svg>
`;
    writeFileSync(new URL('../../docs/figures/honesty.svg', import.meta.url), svg);
    for (const b of bins) expect(b.n).toBeGreaterThan(0);
  });
});
