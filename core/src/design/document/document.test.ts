import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { areaMm2, boundingBox } from '../../geometry/shape.js';
import { deriveSteps } from '../../steps/derive.js';
import { schoolById } from '../../steps/school.js';
import { BadInput } from '../../units/bad-input.js';
import { linesOf, marksOf, recoloured, sectionsOf } from '../design.js';
import { parseEdit } from './design-format.js';
import { commonEdits, type DesignDocument, type DesignEdit, editsGoOn, editsOnTop, standingEdits } from './document.js';
import { foldDesign } from './fold.js';

const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60"><rect id="cookie" data-part="cookie" width="80" height="60" fill="#d9a566"/>
  <rect id="left" x="4" y="4" width="36" height="52" fill="#f6f3ea"/><rect id="right" x="40" y="4" width="36" height="52" fill="#b3261e"/>
  <rect id="wing" x="50" y="20" width="12" height="10" fill="#2e3a46" data-over="layer"/><path id="rope" d="M8 30H72" fill="none" stroke="#e3c58a" stroke-width="2"/></svg>`;
const doc = (...edits: DesignEdit[]): DesignDocument => ({ format: 'kestfog-design/3', name: 'flag', svg, edits });
const ask = { sizeMm: 3, spacingMm: 9, angleDeg: 0, count: 6, seed: 1 };
const dots: DesignEdit = { type: 'pattern', id: 'm1', sectionId: 'left', pattern: 'dots-grid', ask, colours: ['#2e3a46'], seconds: 12 };

describe('a design as a document', () => {
  it('without edits it is its drawing; each edit does what it says', () => {
    expect(sectionsOf(foldDesign(doc())).map((s) => s.id)).toEqual(['left', 'right', 'wing']);
    expect(foldDesign(doc({ type: 'rename', name: 'pennant' })).name).toBe('pennant');
    const wide = foldDesign(doc({ type: 'resize', widthMm: 160 }));
    const box = boundingBox(wide.cookie.flat());
    expect([box.maxX - box.minX, areaMm2(sectionsOf(wide)[0]?.shape ?? [])]).toEqual([160, expect.closeTo(4 * 36 * 52, 3)]);
    const said = foldDesign(
      doc({ type: 'say', part: 'left', said: { name: 'sail', colour: '#112233', seconds: '20', 'depth-mm': '3', flush: 'right' } }),
    );
    expect(sectionsOf(said)[0]).toMatchObject({ name: 'sail', colour: '#112233', seconds: 20, depthMm: 3, flushWith: ['right'] });
    expect(sectionsOf(said)[1]?.flushWith).toEqual(['left']);
    expect(
      linesOf(foldDesign(doc({ type: 'say', part: 'wing', said: { part: 'line', technique: 'glued-transfer' } }))).map((l) => [
        l.id,
        l.technique,
        l.area,
      ]),
    ).toContainEqual(['wing', 'glued-transfer', true]);
    expect(sectionsOf(foldDesign(doc({ type: 'recolour', from: '#b3261e', to: '#1f3f6b' })))[1]?.colour).toBe('#1f3f6b');
    expect(foldDesign(doc({ type: 'transfer', on: true })).transfer).toBe(true);
    expect(foldDesign(doc({ type: 'first', first: 'right', next: 'left' })).before).toEqual([['right', 'left']]);
    expect(
      foldDesign(doc({ type: 'first', first: 'right', next: 'left' }, { type: 'first', first: 'left', next: 'right' })).before,
    ).toEqual([['left', 'right']]);
    expect(
      foldDesign(doc({ type: 'first', first: 'right', next: 'left' }, { type: 'either', a: 'left', b: 'right' })).before ?? [],
    ).toEqual([]);
  });
  it('a dam of another colour is recoloured with it, and shares the bag that is used for both', () => {
    const dam: DesignEdit = { type: 'say', part: 'left', said: { dam: 'contrast', 'dam-colour': '#2E3A46' } };
    const damOf = (d: ReturnType<typeof foldDesign>) => sectionsOf(d)[0]?.words?.damColour;
    expect(damOf(foldDesign(doc(dam)))).toBe('#2e3a46');
    expect(damOf(foldDesign(doc(dam, { type: 'recolour', from: '#2e3a46', to: '#1f3f6b' })))).toBe('#1f3f6b');
    expect(damOf(foldDesign(doc({ type: 'recolour', from: '#2e3a46', to: '#1f3f6b' }, dam)))).toBe('#2e3a46');
    const merged = recoloured(foldDesign(doc(dam)), [{ from: '#2e3a46', to: '#1f3f6b' }]);
    expect(damOf(merged)).toBe('#1f3f6b');
    expect(deriveSteps(merged, schoolById('two-bags')).steps.some((s) => s.bag?.colour === '#2e3a46')).toBe(false);
  });
  it('patterns lay marks that are one part together: moved, said of and taken off as one', () => {
    const laid = foldDesign(doc(dots));
    expect(marksOf(laid).length).toBeGreaterThan(8);
    expect(marksOf(laid)[0]).toMatchObject({ id: 'm1.1', sectionId: 'left', seconds: 12, technique: 'wet-drop' });
    expect(
      marksOf(foldDesign(doc(dots, { type: 'say', part: 'm1', said: { colour: '#abcdef' } }))).every((m) => m.colour === '#abcdef'),
    ).toBe(true);
    const drag: DesignEdit = { ...dots, id: 'd1', pattern: 'drag-straight' };
    expect(marksOf(foldDesign(doc(dots, drag, { type: 'move', part: 'd1', before: 'm1' })))[0]?.id).toBe('d1.1');
    expect(marksOf(foldDesign(doc(dots, drag, { type: 'remove', part: 'm1' }))).every((m) => m.id.startsWith('d1.'))).toBe(true);
  });
  it('of a pattern in several colours one layer is recoloured alone', () => {
    const eyes: DesignEdit = { ...dots, id: 'e', pattern: 'stacked-drops', colours: ['#b3261e', '#1f3f6b', '#f2c14e'] };
    const colours = (...edits: DesignEdit[]) => [...new Set(marksOf(foldDesign(doc(eyes, ...edits))).map((m) => m.colour))].sort();
    expect(colours()).toEqual(['#1f3f6b', '#b3261e', '#f2c14e']);
    expect(colours({ type: 'say', part: 'e', said: { colour: '#ffffff' }, ofColour: '#1f3f6b' })).toEqual([
      '#b3261e',
      '#f2c14e',
      '#ffffff',
    ]);
    expect(
      colours(
        { type: 'say', part: 'e', said: { colour: '#ffffff' }, ofColour: '#1f3f6b' },
        { type: 'say', part: 'e', said: { colour: '#000000' }, ofColour: '#ffffff' },
      ),
    ).toEqual(['#000000', '#b3261e', '#f2c14e']);
  });
  it('what is said of made and divided parts works on them: level, on top, covered otherwise', () => {
    const halves: DesignEdit = {
      type: 'divide',
      sectionId: 'left',
      division: { way: 'stripes', parts: 2, angleDeg: 0 },
      colours: ['#f6f3ea', '#3f7f86'],
    };
    const after = (part: string, said: Record<string, string>) => foldDesign(doc(halves, { type: 'say', part, said }));
    expect(sectionsOf(after('left.1', { flush: 'left.2' })).find((s) => s.id === 'left.2')?.flushWith).toEqual(['left.1']);
    expect(linesOf(after('left.2', { part: 'line', technique: 'crackle' })).find((l) => l.id === 'left.2')).toMatchObject({
      technique: 'crackle',
      area: true,
    });
    expect(sectionsOf(after('left.2', { technique: 'thin-coat' })).find((s) => s.id === 'left.2')?.technique).toBe('thin-coat');
    const made: DesignEdit = {
      type: 'draw',
      id: 'cap',
      name: 'cap',
      technique: 'flood',
      strokes: [
        {
          points: [
            { x: 8, y: 8 },
            { x: 20, y: 8 },
            { x: 20, y: 20 },
            { x: 8, y: 20 },
          ],
          closed: true,
        },
      ],
      area: true,
      layer: false,
      colour: '#112233',
      widthMm: 2,
    };
    const cap = (over: string) =>
      sectionsOf(foldDesign(doc(made, { type: 'say', part: 'cap', said: { over } }))).find((s) => s.id === 'cap')?.layerOn;
    expect([cap('layer'), cap('inlay')]).toEqual([['left'], []]);
  });
  it('dividing parts a section, its marks and what rests on it', () => {
    const d = foldDesign(
      doc(dots, {
        type: 'divide',
        sectionId: 'left',
        division: { way: 'stripes', parts: 2, angleDeg: 0 },
        colours: ['#f6f3ea', '#3f7f86'],
      }),
    );
    expect(sectionsOf(d).map((s) => [s.id, s.colour])).toEqual([
      ['left.1', '#f6f3ea'],
      ['left.2', '#3f7f86'],
      ['right', '#b3261e'],
      ['wing', '#2e3a46'],
    ]);
    expect(new Set(marksOf(d).map((m) => m.sectionId))).toEqual(new Set(['left.1', 'left.2']));
    expect(linesOf(d)[0]?.restsOn.filter((id) => id.startsWith('left')).length).toBeGreaterThan(0);
  });
  it('what speaks of something that is gone is left out and reported; a cookie keeps a section', () => {
    const d = foldDesign(doc({ type: 'remove', part: 'left' }, dots));
    expect(marksOf(d)).toEqual([]);
    expect(d.notes.at(-1)).toMatchObject({ code: 'skipped', place: 'left' });
    const last = foldDesign(doc(...['left', 'right', 'wing'].map((part): DesignEdit => ({ type: 'remove', part }))));
    expect(sectionsOf(last)).toHaveLength(1);
  });
  it('an attribute that makes no sense is refused with its place', () => {
    expect(() => foldDesign(doc({ type: 'say', part: 'left', said: { 'depth-mm': '40' } }))).toThrow(
      /"left" says data-depth-mm="40": give a number from 0.3 to 10 mm/,
    );
  });
  it('undo and redo without end: any run of them is the edits that stand (seed 9)', () => {
    const step = fc.constantFrom('a', 'b', 'undo', 'redo');
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        const edits = steps.map((s): DesignEdit => (s === 'undo' || s === 'redo' ? { type: s } : { type: 'rename', name: s }));
        // A plain model: a list and where one stands in it.
        let list: string[] = [];
        let at = 0;
        for (const s of steps) {
          if (s === 'undo') at = Math.max(0, at - 1);
          else if (s === 'redo') at = Math.min(list.length, at + 1);
          else {
            list = [...list.slice(0, at), s];
            at += 1;
          }
        }
        const { standing, redoable } = standingEdits(edits);
        expect(standing.map((e) => (e.type === 'rename' ? e.name : ''))).toEqual(list.slice(0, at));
        expect(redoable).toBe(list.length - at);
        expect(foldDesign(doc(...edits)).name).toBe(list[at - 1] ?? 'flag');
      }),
      { seed: 9, numRuns: 60, endOnFailure: true },
    );
  });
  it.each([
    [null, /^edits\.3: must be an object, not null\.$/],
    [{ type: 'paint' }, /^edits\.3\.type: must be one of rename, resize, say, .*, not "paint"\./],
    [{ type: 'resize', widthMm: -3 }, /^edits\.3\.widthMm: must be 10 or more, not -3\.$/],
    [{ type: 'say', part: 'x', said: { onclick: 'x' } }, /^edits\.3\.said/],
    [{ type: 'pattern', id: 'a', sectionId: 'b', pattern: 'lace', ask }, /^edits\.3\.pattern: must be one of/],
    [
      { type: 'divide', sectionId: 'a', division: { way: 'stripes', parts: 99, angleDeg: 0 }, colours: [] },
      /^edits\.3\.division\.parts: must be 24 or less, not 99\.$/,
    ],
    [{ type: 'recolour', from: 'red', to: '#112233' }, /^edits\.3\.from: must be a colour such as/],
    [{ type: 'detail', id: 'a', name: 'b', technique: 'drip', points: [] }, /^edits\.3\.technique: must be one of/],
    [{ type: 'transfer', on: 'yes' }, /^edits\.3\.on: must be true or false/],
  ])('from outside, %j is refused', (json, sentence) => {
    expect(() => parseEdit(json, 'edits.3')).toThrow(BadInput);
    expect(() => parseEdit(json, 'edits.3')).toThrow(sentence);
  });
  it('edits of two devices: one goes on from the other whatever the order of its keys, or what stands of it is done on top', () => {
    const said: DesignEdit = { type: 'say', part: 'a', said: { colour: '#ffffff', seconds: '20' } };
    const shuffled = JSON.parse('{"said":{"seconds":"20","colour":"#ffffff"},"part":"a","type":"say"}') as DesignEdit;
    const name = (n: string): DesignEdit => ({ type: 'rename', name: n });
    expect(editsGoOn([shuffled, name('x')], [said])).toBe(true);
    expect(editsGoOn([said], [shuffled, name('x')])).toBe(false);
    expect(commonEdits([said, name('x')], [shuffled, name('y')])).toBe(1);
    // A step of mine that I took back is not done; taking back what was there before both is left to the hand.
    expect(editsOnTop([said, name('x'), name('z'), { type: 'undo' }], [shuffled, name('y')])).toEqual([shuffled, name('y'), name('x')]);
    expect(editsOnTop([said, { type: 'undo' }], [shuffled, name('y')])).toEqual([shuffled, name('y')]);
  });
  it('what is taken from outside comes back equal', () => {
    const edits: DesignEdit[] = [
      dots,
      { type: 'divide', sectionId: 'left', division: { way: 'line', points: [{ x: 1, y: 2 }] }, colours: [] },
      {
        type: 'detail',
        id: 'l',
        name: 'line',
        technique: 'pen',
        points: [{ x: 1, y: 2 }],
        closed: false,
        area: false,
        colour: '#112233',
        widthMm: 0.5,
      },
      { type: 'move', part: 'a', before: null },
      { type: 'undo' },
    ];
    expect(edits.map((e, i) => parseEdit(JSON.parse(JSON.stringify(e)), `edits.${i}`))).toEqual(edits);
  });
});

describe('what an edit does not touch stays known', () => {
  // A drawing of its own, of which nothing is known yet.
  const own = (...edits: DesignEdit[]): DesignDocument => ({ ...doc(...edits), svg: svg.replaceAll('wing', 'pennant') });
  const rename: DesignEdit = { type: 'say', part: 'right', said: { name: 'Red field' } };
  const stacks = fc.array(
    fc.constantFrom<DesignEdit>(rename, dots, { type: 'say', part: 'pennant', said: { over: 'inlay' } }, { type: 'remove', part: 'rope' }),
    {
      maxLength: 4,
    },
  );
  it('the same edits are the same design, and a flood beside what was changed is the very same object', () => {
    expect(foldDesign(own(rename))).toBe(foldDesign(own(rename)));
    const [was, is] = [foldDesign(own()), foldDesign(own(rename))];
    expect(sectionsOf(is).find((s) => s.id === 'left')).toBe(sectionsOf(was).find((s) => s.id === 'left'));
    expect(sectionsOf(is).find((s) => s.id === 'right')?.name).toBe('Red field');
  });
  it('however it was come by, a design is that of its edits folded from nothing', () => {
    fc.assert(
      fc.property(stacks, (edits) => {
        const before = foldDesign(own(...edits.slice(0, -1)));
        const onTop = foldDesign(own(...edits));
        // Another drawing in between: nothing is remembered of this one.
        foldDesign(doc());
        const anew = foldDesign(own(...edits.map((e) => structuredClone(e))));
        expect(anew).toEqual(onTop);
        expect(deriveSteps(anew, schoolById('two-bags'))).toEqual(deriveSteps(onTop, schoolById('two-bags')));
        expect(before.parts.length).toBeGreaterThan(0);
      }),
      { numRuns: 60 },
    );
  });
});
