import { givenWords } from './given-words.js';

// Imported before all else by whatever is started by itself: tables of words are made as their modules are read.
globalThis.kestfogWords = givenWords(process.env['KESTFOG_LANGUAGE']);
