import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { brokenOnCard, type Card } from '../../test/check-card.js';
import { readDesign } from '../design/read-design.js';
import { deriveSteps } from './derive.js';
import { type SchoolId, schoolById } from './school.js';

const at = (file: string) => new URL(`../../test/fixtures/cards/${file}`, import.meta.url);
const cards = JSON.parse(readFileSync(at('cards.json'), 'utf8')) as Record<string, Card & { readonly what: string }>;

// Common practice, no published source: the order a decorator keeps on each of these cookies.
describe('cookies with the order a practitioner keeps', () => {
  for (const [file, card] of Object.entries(cards)) {
    const design = readDesign(readFileSync(at(file), 'utf8'), file);
    const graphFor = (school: string) => deriveSteps(design, schoolById(school as SchoolId));
    const own = card.school ?? 'two-bags';
    it(`${file}: ${card.what}`, () => expect(brokenOnCard(card, graphFor(own), own, graphFor)).toEqual([]));
    for (const [school, more] of Object.entries(card.bySchool ?? {}))
      it(`${file} in the school ${school}`, () => expect(brokenOnCard(more, graphFor(school), school, graphFor)).toEqual([]));
  }
  it('the checker notices a gap that is missing', () => {
    const design = readDesign(readFileSync(at('hills.svg'), 'utf8'), 'hills');
    const graph = deriveSteps(design, schoolById('kit'));
    const without = { ...graph, gaps: graph.gaps.filter((g) => g.rule !== 'touching-sections') };
    expect(brokenOnCard(cards['hills.svg'] as Card, without, 'kit', () => graph).length).toBeGreaterThan(0);
  });
});

// A cookie is the same cookie whichever way round it is drawn.
describe('mirrored, turned and turned over', () => {
  const demo = ['life-ring', 'lighthouse', 'mackerel', 'gull', 'compass-badge', 'signal-flag'].map(
    (f) => `../../../../server/demo/${f}.svg`,
  );
  const ways = ['scale(-1 1)', 'rotate(90)', 'rotate(37) scale(1 -1)'];
  it.each([...Object.keys(cards), ...demo].flatMap((file) => ways.map((by) => [file, by] as const)))(
    '%s by %s: the same waits',
    (file, by) => {
      const waits = (svg: string) =>
        deriveSteps(readDesign(svg, file), schoolById('two-bags'))
          .gaps.map((g) => `${g.from} ${g.to} ${g.rule} ${g.minState} ${g.maxState}`)
          .sort();
      const svg = readFileSync(at(file), 'utf8');
      expect(waits(svg.replace(/(<svg[^>]*>)([\s\S]*)(<\/svg>)/, `$1<g transform="${by}">$2</g>$3`))).toEqual(waits(svg));
    },
  );
});
