import { msg } from './msg.js';

/** "A", "A and B", "A, B and C" */
export const listed = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : msg`${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
