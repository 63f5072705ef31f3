import { msg } from '@kestfog/core/words';
import type { NextFunction, Request, Response } from 'express';
import { MOST_DEEP, Refusal, TOO_DEEP } from './errors.js';

const [QUOTE, BACKSLASH, OPEN, CLOSE, OPEN_LIST, CLOSE_LIST] = [...'"\\{}[]'].map((c) => c.charCodeAt(0));

/** Refuses JSON that nests deeper than anything here does, before it is parsed: what walks it would run out of stack. */
export function refuseDeepJson(_req: unknown, _res: unknown, body: Buffer): void {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < body.length; i++) {
    const c = body[i];
    if (quoted) {
      if (c === BACKSLASH) i += 1;
      else if (c === QUOTE) quoted = false;
    } else if (c === QUOTE) quoted = true;
    else if (c === OPEN || c === OPEN_LIST) {
      depth += 1;
      if (depth > MOST_DEEP)
        // The parser gives whatever is thrown a status of its own: its message says what it was.
        throw new Error(TOO_DEEP);
    } else if (c === CLOSE || c === CLOSE_LIST) depth -= 1;
  }
}

/** Refuses text that cannot be kept: the database knows no zero character, and half a character is none. */
export function refuseUnsoundText(req: Request, _res: Response, next: NextFunction): void {
  const place = unsoundIn(req.body, '') ?? unsoundIn(req.query, '');
  next(place === null ? undefined : new Refusal(400, 'bad-text', msg`"${place}" holds a character that cannot be kept: type it anew.`));
}

/** Where the first such text is; null where all is sound. */
function unsoundIn(value: unknown, place: string): string | null {
  const bad = (s: string) => s.includes('\0') || !isWellFormed(s);
  if (typeof value === 'string') return bad(value) ? place || msg`the text` : null;
  // Bytes are no text.
  if (typeof value !== 'object' || value === null || Buffer.isBuffer(value)) return null;
  for (const [key, inner] of Object.entries(value)) {
    if (bad(key)) return place || msg`a name`;
    const found = unsoundIn(inner, place === '' ? key : `${place}.${key}`);
    if (found !== null) return found;
  }
  return null;
}

/** Whether no half of a surrogate pair stands alone. */
const isWellFormed = (s: string): boolean => !/[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/.test(s);
