import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { dividedShape } from '../design/divide.js';
import type { DesignDocument, DesignEdit } from '../design/document/document.js';
import { foldDesign } from '../design/document/fold.js';
import { readDesign } from '../design/read-design.js';
import { REFERENCE_AIR } from '../drying/air.js';
import { areaMm2, type Shape } from '../geometry/shape.js';
import { checkDesign } from '../planning/design-checks.js';
import { deriveSteps, type StepGraph } from './derive.js';
import { parseSchool, type School, schoolById, schoolIds, schoolParameters, schools } from './school.js';

const svg = (inner: string, more = '') =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100" ${more}>${inner}</svg>`;
const flood = (id: string, d: string, more = '') => `<path id="${id}" data-part="section" fill="#dddddd" d="${d}" ${more}/>`;
const line = (id: string, d: string, more = '') =>
  `<path id="${id}" data-part="line" data-technique="piped-line" fill="none" stroke="#333333" stroke-width="1.6" d="${d}" ${more}/>`;
const mark = (id: string, technique: string, d: string, more = '') =>
  `<path id="${id}" data-part="mark" data-technique="${technique}" fill="#b3261e" d="${d}" ${more}/>`;
const derive = (inner: string, school: (typeof schoolIds)[number] = 'two-bags', more = '') =>
  deriveSteps(readDesign(svg(inner, more)), schoolById(school));
const gap = (g: StepGraph, from: string, to: string) => g.gaps.find((x) => x.from === from && x.to === to);
const round = (g: StepGraph) => Object.fromEntries(g.sections.map((s) => [s.id, s.round]));
const BASE = flood('base', 'M10 10H60V60H10Z');

describe('order on one cookie', () => {
  it('a line drawn under a layer is piped under it, and one drawn after it on top, in every school', () => {
    const leaf = flood('leaf', 'M25 20H45V50H25Z', 'data-over="layer"');
    for (const school of schoolIds)
      for (const d of ['M28 35H42', 'M20 35H35', 'M12 35H58', 'M30 30h8v8h-8z']) {
        const under = derive(`${BASE}${line('vine', d)}${leaf}`, school);
        expect(gap(under, 'piped-line.vine', 'flood.leaf'), `${school} ${d}`).toBeDefined();
        expect(gap(under, 'flood.leaf', 'piped-line.vine'), `${school} ${d}`).toBeUndefined();
        const over = derive(`${BASE}${leaf}${line('vine', d)}`, school);
        expect(gap(over, 'flood.leaf', 'piped-line.vine'), `${school} ${d}`).toBeDefined();
      }
  });
  it('a pale front comes after the dark back it covers, and a centre after its petals', () => {
    const g = derive(
      '<path id="back" data-part="section" fill="#22343c" d="M10 10H60V40H10Z"/><path id="front" data-part="section" fill="#f6f3ea" d="M10 36H60V60H10Z"/>',
    );
    expect(round(g)).toEqual({ back: 1, front: 2 });
    const petals = [0, 90, 180, 270]
      .map((deg) => flood(`p${deg}`, 'M-6 -24 H6 V-8 H-6 Z', `transform="translate(50 50) rotate(${deg})"`))
      .join('');
    expect(round(derive(petals + flood('centre', 'M40 50 a10 10 0 1 0 20 0 a10 10 0 1 0 -20 0 Z'))).centre).toBe(2);
  });
  it('extremities come before the middle, or the middle first, as the design asks', () => {
    const row = [10, 30, 50].map((x, i) => flood(`s${i}`, `M${x} 10h20v20h-20Z`)).join('');
    expect(round(derive(row))).toEqual({ s0: 1, s1: 2, s2: 1 });
    expect(round(derive(row.replace('id="s0"', 'id="s0" data-order="middle"')))).toEqual({ s0: 2, s1: 1, s2: 2 });
  });
  it('a background coat is spread whole: what is drawn on it lies on it and comes after, however large', () => {
    const coat = '<path id="coat" data-technique="thin-coat" fill="#cfe0e8" d="M10 10H60V60H10Z"/>';
    const g = derive(coat + flood('figure', 'M12 12H58V40H12Z'));
    expect(round(g)).toEqual({ coat: 1, figure: 2 });
    expect(gap(g, 'thin-coat.coat', 'outline.figure')).toMatchObject({ rule: 'second-layer' });
  });
  it('a guide is followed: before the dam on a bare cookie, on firm icing where it lies on some', () => {
    const guide = '<path id="g" data-part="guide" data-guide="scratched" data-guides="base" fill="none" stroke="#999" d="M12 12H58"/>';
    const bare = derive(BASE + guide);
    expect(gap(bare, 'guide-scratched.g', 'outline.base')).toMatchObject({ rule: 'guide-first' });
    expect(bare.steps.find((s) => s.part === 'g')?.seconds).toBeGreaterThan(0);
    const on = derive(
      `${BASE}<path id="g" data-part="guide" data-guide="ruled" fill="none" stroke="#999" d="M12 30H58"/>${line('l', 'M12 30H58')}`,
    );
    expect(gap(on, 'flood.base', 'guide-ruled.g')).toMatchObject({ minState: 'firm' });
    expect(gap(on, 'guide-ruled.g', 'piped-line.l')).toBeDefined();
  });
  it('beads within a stencil’s reach follow it, unless a flood under it needs them or it was said otherwise', () => {
    const stencil = '<path id="word" data-technique="stencil" fill="#1f3f6b" d="M25 25H45V35H25Z"/>';
    const near = derive(BASE + line('rim', 'M20 20H50') + stencil);
    expect(gap(near, 'stencil.word', 'piped-line.rim')).toMatchObject({ rule: 'stencil-reach' });
    expect(gap(derive(BASE + line('rim', 'M12 58H58') + stencil), 'stencil.word', 'piped-line.rim')).toBeUndefined();
    const said = derive(BASE + line('rim', 'M20 20H50') + stencil.replace('<path', '<path data-after="rim"'));
    expect(gap(said, 'piped-line.rim', 'stencil.word')).toMatchObject({ rule: 'as-you-said' });
    expect(gap(said, 'stencil.word', 'piped-line.rim')).toBeUndefined();
    const design = readDesign(svg(BASE + line('rim', 'M20 20H50') + stencil.replace('<path', '<path data-after="rim"')));
    const checks = checkDesign(design, said, { school: schoolById('two-bags'), air: REFERENCE_AIR, margin: 'normal' });
    expect(checks).toContainEqual(
      expect.objectContaining({
        kind: 'hollow',
        part: 'word',
        text: 'the stencil of word will lie hollow on rim, which is piped before it',
      }),
    );
    expect(
      checkDesign(readDesign(svg(BASE + line('rim', 'M20 20H50') + stencil)), near, {
        school: schoolById('two-bags'),
        air: REFERENCE_AIR,
        margin: 'normal',
      }).some((c) => c.kind === 'hollow'),
    ).toBe(false);
  });
  it('grains: everything within reach is as dry as the school asks, or laid later', () => {
    const sugared = `${flood('far', 'M70 70H90V90H70Z')}${BASE}${mark('grains', 'sprinkle', 'M12 12H58V58H12Z')}${line('late', 'M72 80H88')}`;
    const g = derive(sugared, 'patient');
    // One round serves both, so what is not beside it comes after the grains rather than a day before.
    expect(g.rounds).toBe(1);
    expect(gap(g, 'sprinkle.grains', 'flood.far')).toMatchObject({ rule: 'grains-reach' });
    expect(gap(g, 'sprinkle.grains', 'piped-line.late')).toMatchObject({ rule: 'grains-reach' });
    const before = derive(flood('near', 'M60 10H90V60H60Z') + BASE + mark('grains', 'sprinkle', 'M12 12H58V58H12Z'), 'two-bags');
    expect(round(before)).toEqual({ near: 1, base: 2 });
    expect(gap(before, 'flood.near', 'sprinkle.grains')).toMatchObject({ minState: 'set', rule: 'grains-reach' });
  });
  it('mist reaches the cookie unless it is held to an edge', () => {
    const mist = (more = '') => `<path id="mist" data-technique="airbrush" ${more} fill="#c6d3dc" d="M12 12H40V40H12Z"/>`;
    const far = flood('far', 'M70 70H90V90H70Z');
    expect(gap(derive(BASE + far + mist()), 'flood.far', 'airbrush.mist')).toMatchObject({ minState: 'crusted', rule: 'airbrush-reach' });
    expect(gap(derive(BASE + mist() + far), 'airbrush.mist', 'flood.far')).toMatchObject({ minSeconds: 600 });
    expect(gap(derive(BASE + far + mist('data-tool="edge"')), 'flood.far', 'airbrush.mist')).toBeUndefined();
    expect(gap(derive(BASE + mist('data-tool="stencil"')), 'flood.base', 'airbrush.mist')).toMatchObject({ minState: 'firm' });
  });
  it('where two colours lie flush a needle is run along the join, and one dam goes round both', () => {
    const flush = (colour: string) =>
      `${flood('a', 'M10 10H40V40H10Z')}<path id="b" data-part="section" data-flush="a" fill="${colour}" d="M40 10H70V40H40Z"/>`;
    const g = derive(flush('#b3261e'));
    expect(g.rounds).toBe(1);
    const needle = g.steps.find((s) => s.technique === 'needle');
    expect(needle?.seconds).toBeGreaterThan(1);
    expect(gap(g, 'flood.a', needle?.id as string)).toMatchObject({ maxState: 'thickening' });
    expect(gap(g, 'flood.b', needle?.id as string)).toMatchObject({ maxState: 'thickening' });
    expect(g.steps.find((s) => s.id === 'outline.a')?.seconds).toBeCloseTo(90 / 11, 1);
    expect(derive(flush('#dddddd')).steps.some((s) => s.technique === 'needle')).toBe(false);
    const crossed = derive(
      `${flush('#b3261e')}<path id="d" data-part="mark" data-technique="drag" fill="none" stroke="#000" d="M30 20H50"/>`,
    );
    expect(crossed.steps.some((s) => s.technique === 'needle')).toBe(false);
  });
  it('lines from one bag keep the order they were drawn in, whatever their length', () => {
    const g = derive(BASE + line('short', 'M15 20H20') + line('upright', 'M30 15V55').replace('1.6', '2.2') + line('long', 'M15 40H55'));
    expect(gap(g, 'piped-line.short', 'piped-line.upright')).toMatchObject({ minSeconds: 0 });
    expect(gap(g, 'piped-line.upright', 'piped-line.long')).toMatchObject({ minSeconds: 0 });
  });
});

describe('a part’s own words', () => {
  const on = (more: string) =>
    derive(
      BASE +
        (more.includes('data-technique')
          ? line('l', 'M15 30H50', more).replace('data-technique="piped-line" ', '')
          : line('l', 'M15 30H50', more)),
    );
  it('ask another state, count minutes, and close a window', () => {
    expect(gap(on('data-needs="crusted"'), 'flood.base', 'piped-line.l')).toMatchObject({ minState: 'crusted' });
    const minutes = gap(on('data-wait-min="45"'), 'flood.base', 'piped-line.l');
    expect(minutes).toMatchObject({ minSeconds: 2700 });
    expect(minutes?.minState).toBeUndefined();
    expect(gap(on('data-needs="skinned" data-wait-min="45" data-within-min="90"'), 'flood.base', 'piped-line.l')).toMatchObject({
      minState: 'skinned',
      minSeconds: 2700,
      maxSeconds: 5400,
    });
    const pen = derive(`${BASE}<path id="p" data-technique="pen" data-needs="dry" fill="none" stroke="#000" d="M15 30H50"/>`);
    expect(gap(pen, 'flood.base', 'pen.p')).toMatchObject({ minState: 'dry', careful: true });
  });
  it('put parts after others, and first of all', () => {
    const g = derive(
      `${flood('a', 'M10 10H30V30H10Z')}${flood('b', 'M50 10H70V30H50Z')}${flood('c', 'M10 50H30V70H10Z', 'data-first="true"')}${line('l', 'M12 20H28', 'data-after="b"')}`,
    );
    expect(gap(g, 'flood.b', 'piped-line.l')).toMatchObject({ rule: 'as-you-said' });
    for (const id of ['a', 'b']) expect(gap(g, 'flood.c', `flood.${id}`)).toMatchObject({ rule: 'as-you-said' });
    expect(g.rounds).toBe(1);
  });
  it.each([
    ['data-wait-min="90" data-within-min="30"', /"l" says data-wait-min="90" and data-within-min="30", which contradict each other/],
    ['data-first="true" data-after="base"', /"l" says data-first and data-after="base", which contradict each other/],
    ['data-needs="moist"', /"l" says data-needs="moist": use one of thickening, skinned, crusted, set, firm, dry/],
    ['data-after="nobody"', /"l" says data-after="nobody", which is no part of this design/],
    ['data-technique="trace" data-guides="nothing"', /"l" says data-guides="nothing", which is no part of this design/],
    ['data-wait-min="soon"', /"l" says data-wait-min="soon": give a number from 0 to 4320 minutes/],
    ['data-opening-mm="90"', /give a number from 0.3 to 20 mm/],
  ])('%s is refused', (words, sentence) => expect(() => on(words)).toThrow(sentence));
  it.each([
    [
      BASE.replace('/>', ' data-dam="none" data-dam-colour="#112233"/>'),
      /"base" says data-dam="none" and data-dam-colour="#112233", which contradict/,
    ],
    [BASE.replace('/>', ' data-dam="contrast"/>'), /say its colour with data-dam-colour/],
    [BASE.replace('/>', ' data-technique="thin-coat" data-dam="double"/>'), /a coat has no dam/],
    [
      BASE +
        line('l', 'M15 30H50') +
        line('k', 'M15 40H50', 'data-after="l"') +
        line('j', 'M70 70H90', 'data-after="k"') +
        flood('z', 'M70 10H90V30H70Z', 'data-after="j"') +
        line('y', 'M72 20H88', '').replace('id="y"', 'id="y" data-after="z"'),
      null,
    ],
    [
      `${BASE}${line('l', 'M15 30H50')}`.replace('id="base"', 'id="base" data-after="l"'),
      /"l" lies on "base", so "base"|cannot come before/,
    ],
    [
      BASE +
        flood('w', 'M20 20H30V30H20Z', 'data-over="layer"').replace('id="w"', 'id="w"') +
        flood('q', 'M70 70H90V90H70Z', 'data-after="w"') +
        line('v', 'M72 80H88', ''),
      null,
    ],
    [`${flood('a', 'M10 10H30V30H10Z', 'data-after="b"')}${flood('b', 'M50 10H70V30H50Z', 'data-after="a"')}`, /contradict each other/],
    [BASE + mark('m', 'wet-drop', 'M20 20h4v4h-4Z', 'data-needs="set"'), /"m" says data-needs="set", but wet drops go into wet icing/],
    [
      `${BASE}<path id="c" data-technique="crackle" data-needs="set" fill="#ccc" d="M20 20H40V40H20Z"/>`,
      /possible only until the crust shuts/,
    ],
  ])('words that contradict each other, or what can be: %#', (inner, sentence) => {
    if (sentence) expect(() => derive(inner)).toThrow(sentence);
    else expect(() => derive(inner)).not.toThrow();
  });
  it('mean the same on drawn, divided and made parts, and are undone by undo', () => {
    const doc = (...edits: DesignEdit[]): DesignDocument => ({ format: 'kestfog-design/3', name: 'd', svg: svg(BASE), edits });
    const steps = (...edits: DesignEdit[]) => deriveSteps(foldDesign(doc(...edits)), schoolById('two-bags'));
    const halves: DesignEdit = {
      type: 'divide',
      sectionId: 'base',
      division: { way: 'stripes', parts: 2, angleDeg: 0 },
      colours: ['#dddddd', '#b3261e'],
    };
    const bead: DesignEdit = {
      type: 'detail',
      id: 'l',
      name: 'l',
      technique: 'piped-line',
      points: [
        { x: 15, y: 20 },
        { x: 50, y: 20 },
      ],
      closed: false,
      area: false,
      colour: '#333333',
      widthMm: 1.5,
    };
    const dam: DesignEdit = { type: 'say', part: 'base.2', said: { dam: 'none', 'depth-mm': '1.5', technique: 'flood' } };
    expect(steps(halves).steps.some((s) => s.id === 'outline.base.2')).toBe(true);
    const said = steps(halves, dam);
    expect(said.steps.some((s) => s.id === 'outline.base.2')).toBe(false);
    expect(said.steps.find((s) => s.id === 'flood.base.2')?.region?.depthMm).toBe(1.5);
    expect(steps(halves, dam, { type: 'undo' }).steps.some((s) => s.id === 'outline.base.2')).toBe(true);
    expect(gap(steps(bead, { type: 'say', part: 'l', said: { needs: 'crusted' } }), 'flood.base', 'piped-line.l')).toMatchObject({
      minState: 'crusted',
    });
    expect(steps(bead, { type: 'say', part: 'l', said: { technique: 'pen' } }).steps.some((s) => s.id === 'pen.l')).toBe(true);
    expect(
      gap(steps(bead, { type: 'say', part: 'l', said: { needs: 'crusted' } }, { type: 'undo' }), 'flood.base', 'piped-line.l'),
    ).toMatchObject({
      minState: 'set',
    });
  });
});

describe('what must not matter', () => {
  const at = (file: string) => readFileSync(new URL(`../../test/fixtures/cards/${file}`, import.meta.url), 'utf8');
  const cards = [
    'dragonfly',
    'hills',
    'oven-mitt',
    'bath',
    'toasted-marshmallow',
    'harbour-sign',
    'garden-gate',
    'toggle-coat',
    'slate-sign',
    'shell-garland',
  ];
  const keyed = (g: StepGraph, name = (id: string) => id) =>
    g.gaps
      .map(
        (x) =>
          `${name(x.from)} ${name(x.to)} ${x.minState ?? ''} ${x.minLossKgPerM2?.toFixed(6) ?? ''} ${x.minSeconds ?? ''} ${x.maxState ?? ''}`,
      )
      .sort();
  const within = (text: string, transform: string) =>
    text.replace(/(<title>[^<]*<\/title>)/, `$1<g transform="${transform}">`).replace('</svg>', '</g></svg>');
  it.each(cards)('%s: mirrored, turned and renamed it is piped in the same order', (card) => {
    const text = at(`${card}.svg`);
    for (const school of ['kit', 'two-bags'] as const) {
      const own = deriveSteps(readDesign(text), schoolById(school));
      for (const transform of ['translate(100 0) scale(-1 1)', 'translate(100 0) rotate(90)'])
        expect(keyed(deriveSteps(readDesign(within(text, transform)), schoolById(school))), transform).toEqual(keyed(own));
      const renamed = text.replace(/\b(id|data-after|data-flush|data-guides)="([^"]+)"/g, (_, key, id) => `${key}="x-${id}"`);
      const bare = (id: string) => id.replace(/\bx-/g, '');
      expect(keyed(deriveSteps(readDesign(renamed), schoolById(school)), bare)).toEqual(keyed(own));
    }
  });
});

describe('random partitions with no details', () => {
  const cut = (shapes: readonly Shape[], [x, y, deg]: readonly [number, number, number]): Shape[] => {
    const a = (deg * Math.PI) / 180;
    const points = [
      { x: x - Math.cos(a), y: y - Math.sin(a) },
      { x: x + Math.cos(a), y: y + Math.sin(a) },
    ];
    return shapes.flatMap((p) => dividedShape(p, { way: 'line', points })).filter((p) => areaMm2(p) > 8);
  };
  it('take as many rounds as before the stack (120 of them, kept from the release before)', () => {
    const kept = JSON.parse(readFileSync(new URL('../../test/fixtures/partitions.json', import.meta.url), 'utf8')) as [
      [number, number, number][],
      number,
      number,
    ][];
    const whole: Shape = [
      [...Array(90).keys()].map((i) => ({ x: 45 + 45 * Math.cos((Math.PI * i) / 45), y: 45 + 45 * Math.sin((Math.PI * i) / 45) })),
    ];
    for (const [cuts, pieces, rounds] of kept) {
      const shapes = cuts.reduce<Shape[]>(cut, [whole]);
      expect(shapes).toHaveLength(pieces);
      const parts = shapes.map((shape, i) => ({
        role: 'section' as const,
        id: `s${i}`,
        name: `piece ${i}`,
        shape,
        drawn: shape,
        colour: i % 2 ? '#f6f3ea' : '#e9eef0',
        depthMm: 2.5,
        layerOn: [],
      }));
      const graph = deriveSteps({ name: 'cut', cookie: whole, parts, notes: [] }, schoolById('two-bags'));
      expect([graph.rounds, graph.roundsProven]).toEqual([rounds, true]);
    }
  });
});

describe('schools', () => {
  it('every row is a parameter, with its range shown and every preset within it', () => {
    const keys = schoolParameters.map((p) => p.key);
    expect(new Set(keys).size).toBe(keys.length);
    expect([...keys, 'id', 'label'].sort()).toEqual(Object.keys(schools[0] as School).sort());
    for (const s of schools) expect(parseSchool(JSON.parse(JSON.stringify(s)))).toEqual(s);
    for (const p of schoolParameters) expect(p.inPractice.length).toBeGreaterThan(3);
  });
  it.each([
    [{ grainsOn: 'damp' }, /school.grainsOn: must be one of crusted, set, dry/],
    [{ neighbourCrusts: 9 }, /school.neighbourCrusts: must be a number from 0.3 to 4/],
    [{ quickSets: 'yes' }, /school.quickSets: must be true or false/],
    [{ fog: 1 }, /school.fog: is not known here/],
  ])('%j is refused', (more, sentence) => expect(() => parseSchool({ ...schoolById('kit'), id: 'own', ...more })).toThrow(sentence));
  it('one of one’s own from the release before means what it meant', () => {
    const {
      bags: _b,
      contrastOn: _c,
      layerOn: _l,
      reliefOn: _r,
      grainsOn: _g,
      transfer: _t,
      gluedOn: _o,
      driedNeighbour: _d,
      quickSets: _q,
      ...rest
    } = schoolById('kit');
    const { quickSetDehydratorMin: _x, quickSetFanMin: _f, wiping: _w, fill: _i, edgeMm: _e, glue: _u, working: _k, ...old } = rest;
    expect(parseSchool({ ...old, id: 'mine', label: 'Mine', wipesScribe: true })).toMatchObject({
      id: 'mine',
      neighbourCrusts: 0.5,
      contrastOn: 'set',
      layerOn: 'light-crusted',
      grainsOn: 'crusted',
      wiping: 'always',
      bags: 'one',
    });
  });
  it('switching one row changes only what hangs on it', () => {
    const text = svg(
      `${BASE}${flood('beside', 'M60 10H90V60H60Z')}${flood('wing', 'M20 20H40V40H20Z', 'data-over="layer"')}${line('l', 'M62 30H88')}<path id="p" data-technique="pen" fill="none" stroke="#000" d="M62 50H88"/>`,
    );
    const design = readDesign(text);
    const own = schoolById('two-bags');
    const rules = (more: Partial<School>) => {
      const [a, b] = [deriveSteps(design, own), deriveSteps(design, { ...own, ...more })];
      const key = (g: StepGraph) => new Map(g.gaps.map((x) => [`${x.from} ${x.to}`, `${x.minState} ${x.minLossKgPerM2}`]));
      const [was, is] = [key(a), key(b)];
      return [...new Set(b.gaps.filter((x) => was.get(`${x.from} ${x.to}`) !== is.get(`${x.from} ${x.to}`)).map((x) => x.rule))].sort();
    };
    expect(rules({ neighbourCrusts: 2 })).toEqual(['touching-sections']);
    expect(rules({ layerOn: 'crusted' })).toEqual(['second-layer']);
    expect(rules({ detailsOn: 'crusted' })).toEqual(['detail-rests-on']);
    expect(rules({ pensOn: 'dry' })).toEqual(['pen-needs-firm']);
    for (const silent of [
      { grainsOn: 'dry' },
      { gluedOn: 'dry' },
      { contrastOn: 'crusted' },
      { transfer: 'laid-wet' },
      { levelling: 'tap' },
    ] as const)
      expect(rules(silent), JSON.stringify(silent)).toEqual([]);
  });
});
