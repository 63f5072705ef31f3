import { existsSync, readFileSync } from 'node:fs';
import { givenWords } from '@kestfog/core/words';

// Imported before all else by whatever is started by itself: tables of words are made as their modules are read.
globalThis.kestfogWords = givenWords(process.env['KESTFOG_LANGUAGE'], (name) => {
  const file = new URL(`../../../words/${name}.json`, import.meta.url);
  return existsSync(file) ? readFileSync(file, 'utf8') : null;
});
