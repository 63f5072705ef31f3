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
