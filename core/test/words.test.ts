import { afterEach, describe, expect, test, vi } from 'vitest';
import type * as WordsModule from '../src/words/index.js';
import { ACCENTED, accented, givenWords, keyOf, msg, plural, type Words } from '../src/words/index.js';
import { readCatalogue } from './catalogue.js';

/** The module as a kitchen of that language has it. */
async function spoken(words: Words): Promise<typeof WordsModule> {
  vi.resetModules();
  globalThis.kestfogWords = words;
  return import('../src/words/index.js');
}
afterEach(() => {
  globalThis.kestfogWords = undefined;
  vi.resetModules();
});

describe('the catalogue', () => {
  const { words, context, unsaid } = readCatalogue();

  test('holds every word that is said: where this fails, npm run words writes it anew', async () => {
    await expect(`${JSON.stringify(words, null, 2)}\n`).toMatchFileSnapshot('../../words/en.json');
    await expect(`${JSON.stringify(context, null, 2)}\n`).toMatchFileSnapshot('../../words/context.json');
  });

  test('no text of a page and no whole sentence is said past it', () => {
    expect(unsaid).toEqual([]);
  });

  test('says of each sentence what is put in, in its order', () => {
    for (const [key, { with: values }] of Object.entries(context)) {
      const named = [...key.matchAll(/\{\{(\d+)\}\}/g)].map((m) => Number(m[1]));
      expect([key, named]).toEqual([key, (values ?? []).map((_, k) => k)]);
    }
  });
});

describe('the language a kitchen is started in', () => {
  const read = (name: string) => ({ en: '{"tray":"tray"}', nl: '{"tray":"blad"}' })[name] ?? null;
  test('is that of its catalogue; English needs none, and accented English is made of it', () => {
    expect([givenWords(undefined, read), givenWords('en', read)]).toEqual([undefined, undefined]);
    expect(givenWords('nl', read)).toEqual({ language: 'nl', catalogue: { tray: 'blad' } });
    expect(givenWords(ACCENTED, read)?.catalogue).toEqual({ tray: 'ťŕàý' });
  });
  test('without a catalogue is refused, and never looked for as a path', () => {
    expect(() => givenWords('de', read)).toThrow(
      'There is no catalogue for the language "de": put words/de.json there, or start in English.',
    );
    expect(() => givenWords('../secrets', () => '{}')).toThrow('There is no catalogue');
  });
});

describe('a sentence', () => {
  test('in English is what stands in the source', () => {
    expect(msg`tray ${'A'} is dry, ${3} of ${4}`).toBe('tray A is dry, 3 of 4');
    expect([plural(1, 'tray', 'trays'), plural(0, 'tray', 'trays'), plural(2, 'tray', 'trays')]).toEqual(['tray', 'trays', 'trays']);
  });

  test('may be broken in the source, and keeps a line break that is meant', () => {
    expect(msg`one ${1}
      two`).toBe('one 1 two');
    expect(msg`one\ntwo`).toBe('one\ntwo');
    expect(keyOf(['a ', ' b\n  c ', ''], ['a ', ' b\n  c ', ''])).toBe('a {{0}} b c {{1}}');
  });

  test('in another language has its own order, and stays English where it is not translated yet', async () => {
    const nl = { 'tray {{0}} waits for {{1}}': 'op {{1}} wacht blad {{0}}', empty: '' };
    const { msg } = await spoken({ language: 'nl', catalogue: nl });
    expect(msg`tray ${'A'} waits for ${'B'}`).toBe('op B wacht blad A');
    expect(msg`tray ${'A'} is dry`).toBe('tray A is dry');
    expect(msg`empty`).toBe('empty');
  });

  test('what is put in is never read as a sentence itself', async () => {
    const { msg } = await spoken({ language: 'nl', catalogue: { 'look: {{0}}': 'kijk: {{0}}', secret: 'geheim' } });
    expect(msg`look: ${'{{0}} $t(secret)'}`).toBe('kijk: {{0}} $t(secret)');
  });

  // Polish has one, few and many: Unicode CLDR, Language Plural Rules.
  test('words for several have as many forms as the language has', async () => {
    const catalogue = { tray_one: 'blacha', tray_few: 'blachy', tray_many: 'blach' };
    const { plural } = await spoken({ language: 'pl', catalogue });
    expect([1, 2, 5, 22].map((n) => plural(n, 'tray', 'trays'))).toEqual(['blacha', 'blachy', 'blach', 'blachy']);
    expect([1, 2].map((n) => plural(n, 'bag', 'bags'))).toEqual(['bag', 'bags']);
  });

  test('accented, every letter of the catalogue shows that it comes from there', async () => {
    const { msg, plural } = await spoken({
      language: ACCENTED,
      catalogue: accented({ 'tray {{0}} is dry': 'tray {{0}} is dry', bag_one: 'bag', bag_other: 'bags' }),
    });
    expect(msg`tray ${'A'} is dry`).toBe('ťŕàý A îš ďŕý');
    expect(plural(2, 'bag', 'bags')).toBe('ƀàğš');
  });
});
