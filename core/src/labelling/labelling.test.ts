import { describe, expect, it } from 'vitest';
import { colourName } from '../design/colour-names.js';
import { readDesign } from '../design/read-design.js';
import { USUAL_RECIPES } from '../icing/recipe.js';
import { allergens, type KnownAllergens, NOTHING_KNOWN } from './allergens.js';
import { allergenLabel, containsText, icingIngredients, laidOn } from './label.js';

const design = (inner: string) =>
  readDesign(
    `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60">
      <path id="cookie" data-part="cookie" fill="#d9a566" d="M0 0H60V60H0Z"/>
      <path id="sea" data-part="section" fill="#1f4e79" d="M5 5H55V55H5Z"/>${inner}</svg>`,
    'buoy',
  );
const plain = design('');
const sugared = design(
  '<path id="foam" data-part="line" data-technique="dipped-bead" stroke="#ffffff" stroke-width="2" fill="none" d="M10 20H50"/>',
);
const SUGAR = laidOn([sugared], colourName)[0]?.item as string;
const known = (more: Partial<KnownAllergens>): KnownAllergens => ({ ...NOTHING_KNOWN, ...more });

describe('what must be named', () => {
  it('is annex II of Regulation (EU) 1169/2011 (from memory: fourteen, cereals with gluten as one), in its order', () => {
    const annex = [
      'gluten',
      'crustaceans',
      'egg',
      'fish',
      'peanuts',
      'soya',
      'milk',
      'nuts',
      'celery',
      'mustard',
      'sesame',
      'sulphites',
      'lupin',
      'molluscs',
    ];
    expect(allergens.map((a) => a.id).filter((id) => id !== 'wheat')).toEqual(annex);
  });
  it('has the nine of US law (Food Allergen Labeling and Consumer Protection Act 2004, FASTER Act 2021, from memory)', () => {
    const nine = ['crustaceans', 'egg', 'fish', 'milk', 'nuts', 'peanuts', 'sesame', 'soya', 'wheat'];
    expect(allergens.flatMap((a) => (a.us ? [a.id as string] : [])).sort()).toEqual(nine);
  });
});

describe('a label', () => {
  it('names the egg of the icing, and says of all else that nobody has looked', () => {
    expect(allergenLabel(sugared, NOTHING_KNOWN, colourName)).toEqual({
      contains: [{ id: 'egg', from: ['the icing'] }],
      unknown: ['the cookie', 'sanding sugar or sprinkles, white'],
      traces: [],
    });
    expect(allergenLabel(plain, NOTHING_KNOWN, colourName).unknown).toEqual(['the cookie']);
  });
  it('names each once with all that brings it; what is in it is no trace besides', () => {
    const label = allergenLabel(sugared, { cookie: ['wheat', 'egg'], laidOn: { [SUGAR]: ['soya'] }, traces: ['soya', 'nuts'] }, colourName);
    expect(containsText(label)).toBe('WHEAT (the cookie), EGG (the icing; the cookie), SOYA (sanding sugar or sprinkles, white)');
    expect([label.unknown, label.traces]).toEqual([[], ['nuts']]);
    // What is laid on another design is not on this one.
    expect(allergenLabel(plain, known({ cookie: [], laidOn: { [SUGAR]: ['soya'] }, traces: ['soya'] }), colourName)).toEqual({
      contains: [{ id: 'egg', from: ['the icing'] }],
      unknown: [],
      traces: ['soya'],
    });
  });
  it('lists what icing is made of by falling weight', () => {
    expect(icingIngredients(USUAL_RECIPES.fresh, ['navy', 'white'])).toBe(
      'powdered sugar, fresh egg white, water, food colours (navy, white)',
    );
    expect(icingIngredients({ ...USUAL_RECIPES.dried, lemonG: 40 }, ['navy'])).toBe(
      'powdered sugar, lemon juice, dried egg white, water, food colours (navy)',
    );
  });
});
