import { ACCENTED, accented } from './accented.js';
import type { Words } from './language.js';

/**
 * The catalogue of the language a kitchen is started in; none for English, which needs none. `read` gives the text of words/NAME.json,
 * null where there is no such file. Throws a plain Error that says what to do: it is read by whoever starts the kitchen.
 */
export function givenWords(language: string | undefined, read: (name: string) => string | null): Words | undefined {
  if (!language || language === 'en') return undefined;
  const isTag = /^[a-z]{2,3}(-[A-Za-z0-9]+)*$/.test(language);
  const text = isTag ? read(language === ACCENTED ? 'en' : language) : null;
  if (text === null)
    throw new Error(`There is no catalogue for the language "${language}": put words/${language}.json there, or start in English.`);
  const catalogue = JSON.parse(text) as Words['catalogue'];
  return { language, catalogue: language === ACCENTED ? accented(catalogue) : catalogue };
}
