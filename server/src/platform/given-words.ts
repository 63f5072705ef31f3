import { existsSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { ACCENTED, accented, type Words } from '@kestfog/core/words';

const CATALOGUES = new URL('../../../words/', import.meta.url);
const catalogueOf = (name: string): Record<string, string> => JSON.parse(readFileSync(new URL(`${name}.json`, CATALOGUES), 'utf8'));

/** The catalogue of the language a kitchen is started in; none is needed for English. Throws where there is none. */
export function givenWords(language: string | undefined): Words | undefined {
  if (!language || language === 'en') return undefined;
  if (language === ACCENTED) return { language, catalogue: accented(catalogueOf('en')) };
  if (!/^[a-z]{2,3}(-[A-Za-z0-9]+)*$/.test(language) || !existsSync(fileURLToPath(new URL(`${language}.json`, CATALOGUES))))
    throw new Error(`There is no catalogue for the language "${language}": put words/${language}.json there, or start in English.`);
  return { language, catalogue: catalogueOf(language) };
}
