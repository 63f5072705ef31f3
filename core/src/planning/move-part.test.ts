import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { partById } from '../design/design.js';
import type { DesignDocument, DesignEdit } from '../design/document/document.js';
import { foldDesign } from '../design/document/fold.js';
import { deriveSteps } from '../steps/derive.js';
import { schoolById } from '../steps/school.js';
import { movePart } from './move-part.js';

const school = schoolById('two-bags');
const doc = (svg: string, ...edits: DesignEdit[]): DesignDocument => ({ format: 'kestfog-design/3', name: 'd', svg, edits });
const demo = (file: string) => doc(readFileSync(new URL(`../../../server/demo/${file}.svg`, import.meta.url), 'utf8'));
const svg = (inner: string) => `<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm" viewBox="0 0 90 90">${inner}</svg>`;
const wings =
  svg(`<path id="lee" data-part="section" fill="#eeeeee" d="M10 10H45V45H10Z"/><path id="far" data-part="section" fill="#dddddd" d="M40 10H75V45H40Z"/>
  <path id="dot" data-part="mark" data-technique="wet-drop" fill="#cc3333" d="M15 15h5v5h-5Z"/><path id="ring" data-part="mark" data-technique="wet-drop" fill="#3333cc" d="M16 16h3v3h-3Z"/>
  <path id="rope" data-part="line" data-technique="piped-line" fill="none" stroke="#885533" stroke-width="2" d="M12 30H38"/>
  <path id="knot" data-part="line" data-technique="piped-line" fill="none" stroke="#553311" stroke-width="2" d="M25 25V35"/>`);

/** Whether every gap of the moved design has its edits and its said sentence. */
const after = (d: DesignDocument, edits: readonly DesignEdit[]) => deriveSteps(foldDesign({ ...d, edits: [...d.edits, ...edits] }), school);

describe('moving a part in the stack', () => {
  it('a wing drawn over another goes behind it: the wait turns round', () => {
    const d = doc(wings);
    const found = movePart(d, school, ['far'], 'lee');
    expect(found).toMatchObject({ ok: true, edits: [{ type: 'move', part: 'far', before: 'lee' }] });
    if (!found.ok) return;
    expect(found.effect).toMatchObject({
      moved: 'far',
      moreRounds: 0,
      now: { facts: { kind: 'meeting', earlier: 'far', later: 'lee', state: 'crusted' } },
    });
    expect(after(d, found.edits).gaps).toContainEqual(expect.objectContaining({ from: 'flood.far', to: 'flood.lee', minState: 'crusted' }));
  });
  it('a line over a line of another colour: what lay on top is waited for now', () => {
    const d = doc(wings);
    const found = movePart(d, school, ['knot'], 'rope');
    expect(found.ok && after(d, found.edits).gaps).toContainEqual(
      expect.objectContaining({ from: 'piped-line.knot', to: 'piped-line.rope', minState: 'crusted' }),
    );
  });
  it('marks change their order in their flood, and do not leave it', () => {
    const d = doc(wings);
    const found = movePart(d, school, ['ring'], 'dot');
    expect(found.ok && after(d, found.edits).gaps).toContainEqual(
      expect.objectContaining({ from: 'wet-drop.ring', to: 'wet-drop.dot', rule: 'marks-in-order' }),
    );
    expect(movePart(d, school, ['ring'], 'far')).toMatchObject({
      ok: false,
      refused: { message: 'ring is laid while lee is wet, so it stays with it.' },
    });
  });
  it('side by side the stack says nothing, so the order is kept as one’s own word', () => {
    const found = movePart(demo('signal-flag'), school, ['upper-right'], 'upper-left');
    expect(found).toMatchObject({ ok: true, edits: [{ type: 'first', first: 'upper-right', next: 'upper-left' }] });
    const again = found.ok ? movePart({ ...demo('signal-flag'), edits: found.edits }, school, ['upper-right'], 'upper-left') : found;
    expect(again).toMatchObject({ ok: false, refused: { message: expect.stringMatching(/Nothing follows/) } });
  });
  it('what would be hidden, or contradicts another order, is refused in one sentence', () => {
    expect(movePart(demo('gull'), school, ['near-wing'], 'body')).toMatchObject({
      ok: false,
      refused: { message: 'It cannot go there: near wing would be wholly covered by what is laid over it.' },
    });
    const pinned = doc(
      wings,
      { type: 'say', part: 'knot', said: { after: 'rope' } },
      { type: 'say', part: 'rope', said: { after: 'far' } },
    );
    const refused = movePart(pinned, school, ['knot'], 'lee');
    expect(refused.ok).toBe(false);
    expect(partById(foldDesign(pinned), 'knot')?.words?.after).toEqual(['rope']);
  });
});
