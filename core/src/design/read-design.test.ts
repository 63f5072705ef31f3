import { describe, expect, it } from 'vitest';
import { areaMm2, boundingBox } from '../geometry/shape.js';
import { linesOf, marksOf, sectionsOf } from './design.js';
import type { DesignDocument, DesignEdit } from './document/document.js';
import { foldDesign } from './document/fold.js';
import { readDesign } from './read-design.js';

const svg = (inner: string, head = 'width="80mm" height="80mm" viewBox="0 0 80 80"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${head}>${inner}</svg>`;
const area = (text: string, id: string) => areaMm2(sectionsOf(readDesign(text)).find((s) => s.id === id)?.shape ?? []);

describe('a plain drawing is read by what it looks like', () => {
  const plain = svg(`
    <circle id="edge" cx="40" cy="40" r="38" fill="none" stroke="#000"/>
    <rect id="left" x="10" y="20" width="30" height="40" fill="#ffffff"/>
    <rect id="right" x="40" y="20" width="30" height="40" style="fill:#c00000"/>
    <circle id="dot" cx="20" cy="30" r="2" fill="#000"/>
    <path id="line" d="M12 50H68" fill="none" stroke="#222" stroke-width="1.5"/>
    <rect id="leaf" x="48" y="30" width="8" height="8" fill="#2e7d32"/>`);
  const design = readDesign(plain);
  it('closed fills are sections, small ones wet marks, open strokes piped lines, the ring round all the cookie', () => {
    expect(sectionsOf(design).map((s) => s.id)).toEqual(['left', 'right', 'leaf']);
    expect(marksOf(design)).toMatchObject([{ id: 'dot', technique: 'wet-drop', sectionId: 'left' }]);
    expect(linesOf(design)).toMatchObject([
      { id: 'line', technique: 'piped-line', widthMm: 1.5, restsOn: expect.arrayContaining(['left', 'right']) },
    ]);
    expect(areaMm2(design.cookie) / (Math.PI * 38 ** 2)).toBeCloseTo(1, 3);
  });
  it('a fill inside another is a second layer, and every guess is reported', () => {
    expect(sectionsOf(design).find((s) => s.id === 'leaf')?.layerOn).toEqual(['right']);
    expect(design.notes.map((n) => n.place)).toEqual(expect.arrayContaining(['edge', 'dot', 'line', 'leaf']));
  });
  it('an overlap that reaches the edge or covers a quarter is an inlay, knocked out; data-over says otherwise', () => {
    const over = (more: string, w = 20) =>
      svg(
        `<rect id="under" width="40" height="40" fill="#fff"/><rect id="over" x="10" y="10" width="${w}" height="30" fill="#c00" ${more}/>`,
      );
    expect(area(over(''), 'under')).toBeCloseTo(1600 - 600, 3);
    expect(sectionsOf(readDesign(over('')))[1]?.layerOn).toEqual([]);
    expect(area(over('data-over="layer"'), 'under')).toBeCloseTo(1600, 3);
    expect(sectionsOf(readDesign(over('data-over="layer"')))[1]?.layerOn).toEqual(['under']);
  });
  it('without an outline the cookie reaches 2 mm beyond the icing', () => {
    const { minX, maxX } = boundingBox(readDesign(svg('<rect x="10" y="10" width="30" height="30"/>')).cookie.flat());
    expect([minX, maxX]).toEqual([8, 42]);
  });
});

describe('sizes and styles', () => {
  it.each([
    ['width="4in" height="4in" viewBox="0 0 4 4"', 'width="1" height="1"', 25.4 ** 2],
    ['width="10cm" height="10cm" viewBox="0 0 1000 1000"', 'width="100" height="100"', 100],
    ['viewBox="0 0 96 96"', 'width="96" height="96"', 25.4 ** 2],
    ['width="72pt" height="72pt" viewBox="0 0 72 72"', 'width="72" height="72"', 25.4 ** 2],
    ['', 'width="96" height="96"', 25.4 ** 2],
  ])('%s gives square millimetres', (head, size, mm2) => {
    expect(area(svg(`<rect id="r" ${size} fill="#aaa"/>`, head), 'r')).toBeCloseTo(mm2, 2);
  });
  it('nested transforms, use, style sheets and holes', () => {
    const text = svg(`<style>.a{fill:#123456} #hid{display:none}</style><defs><path id="sq" d="M0 0h10v10h-10Z"/></defs>
      <g transform="translate(10 10)"><g transform="scale(2)"><rect id="big" class="a" width="10" height="10"/></g></g>
      <use href="#sq" id="copy" x="50" y="50" fill="#ff0000"/><rect id="hid" width="30" height="30"/>
      <path id="ring" fill-rule="evenodd" d="M40 10h20v20h-20Z M45 15h10v10h-10Z" fill="rgb(0,128,0)"/>`);
    const d = readDesign(text);
    expect(sectionsOf(d).map((s) => [s.id, Math.round(areaMm2(s.shape)), s.colour])).toEqual([
      ['big', 400, '#123456'],
      ['copy', 100, '#ff0000'],
      ['ring', 300, '#008000'],
    ]);
  });
  it('attributes are inherited from groups and checked', () => {
    const d = readDesign(svg('<g data-grade="thick-flood" data-depth-mm="1.5"><rect id="r" width="20" height="20"/></g>'));
    expect(sectionsOf(d)[0]).toMatchObject({ seconds: 20, depthMm: 1.5 });
    expect(() => readDesign(svg('<rect id="r" width="20" height="20" data-technique="weave"/>'))).toThrow(
      /"r" says data-technique="weave"/,
    );
    expect(() => readDesign(svg('<rect id="r" width="20" height="20" data-seconds="900"/>'))).toThrow(/1.5 to 120/);
  });
});

describe('what drawing programs leave', () => {
  it('a gradient is one icing: its mean, wherever its stops come from, and it is said', () => {
    const d = readDesign(
      svg(`<defs><linearGradient id="far"><stop offset="0" stop-color="#000000"/><stop offset="100%" style="stop-color:#ffffff"/></linearGradient>
      <linearGradient id="near" xlink:href="#far"/><radialGradient id="three"><stop offset="0.5" stop-color="#ff0000"/><stop offset="0.5" stop-color="#0000ff"/></radialGradient>
      <pattern id="dots"/></defs>
      <rect id="a" width="20" height="20" fill="url(#near)"/><rect id="b" x="30" width="20" height="20" fill="url(#three)"/>
      <rect id="c" y="30" width="20" height="20" fill="url(#dots) #00ff00"/><rect id="d" x="30" y="30" width="20" height="20" fill="url(#nobody)"/>`),
    );
    expect(sectionsOf(d).map((s) => s.colour)).toEqual(['#808080', '#800080', '#00ff00', '#808080']);
    expect(d.notes.filter((n) => /gradient|pattern/.test(n.text)).map((n) => n.place)).toEqual(['a', 'b', 'c', 'd']);
  });
  it('loose pieces near each other are held by one cookie, far ones are said to be several', () => {
    const two = (x: number) => readDesign(svg(`<rect id="a" width="20" height="20"/><rect id="b" x="${x}" width="20" height="20"/>`));
    const outers = (d: ReturnType<typeof two>) => d.cookie.filter((r) => areaMm2([r]) > 0).length;
    expect(outers(two(30))).toBe(1);
    expect(
      two(30)
        .notes.map((n) => n.text)
        .join(' '),
    ).toContain('made to hold them together');
    expect(outers(two(70))).toBe(2);
    expect(
      two(70)
        .notes.map((n) => n.text)
        .join(' '),
    ).toContain('2 pieces too far apart');
  });
  it('parts without a name get one that can be said, and keep it apart', () => {
    const d = readDesign(
      svg(`<rect width="80" height="80" data-part="cookie" fill="#d9a566"/><circle cx="12" cy="12" r="6" fill="#b3261e"/><circle cx="14" cy="24" r="6" fill="#b3261e"/>
      <circle cx="40" cy="40" r="6" fill="#1f3f6b"/><circle id="sun" cx="66" cy="40" r="6" fill="#f2c14e"/><path data-name="seam" d="M5 70H75" stroke="#000" fill="none"/>`),
    );
    expect(d.parts.map((p) => p.name)).toEqual(['red, top left', 'red, top left 2', 'navy, middle', 'sun', 'seam']);
  });
  it('every guess that can be wrong says what to say if it was right, and if not: both leave nothing guessed', () => {
    const text =
      svg(`<circle id="edge" cx="40" cy="40" r="38" fill="none" stroke="#000"/><rect id="base" x="10" y="10" width="60" height="60" fill="#fff"/>
      <circle id="dot" cx="30" cy="30" r="2" fill="#000"/><path id="way" d="M12 50H68" fill="none" stroke="#222"/><rect id="leaf" x="48" y="30" width="8" height="8" fill="#2e7d32"/>`);
    const doc = (edits: DesignEdit[]) => foldDesign({ format: 'kestfog-design/3', name: 'd', svg: text, edits } as DesignDocument);
    const guesses = doc([]).notes.filter((n) => n.answers);
    expect(guesses.map((n) => n.place).sort()).toEqual(['dot', 'edge', 'leaf', 'way']);
    const right = doc(guesses.map((n) => ({ type: 'say', part: n.place, said: n.answers?.right ?? {} })));
    expect(right.notes.filter((n) => n.answers)).toEqual([]);
    expect(right.parts.map((p) => [p.id, p.role])).toEqual(doc([]).parts.map((p) => [p.id, p.role]));
    for (const n of guesses) {
      const other = doc([{ type: 'say', part: n.place, said: n.answers?.otherwise.said ?? {} }]);
      expect(
        other.notes.filter((x) => x.place === n.place && x.answers?.right.part === n.answers?.right.part && x.text === n.text),
      ).toEqual([]);
    }
  });
});

describe('hostile and broken drawings are refused in one sentence', () => {
  const bomb = `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]>${svg('<rect width="20" height="20"/><title>&b;</title>')}`;
  it.each([
    ['script', svg('<script>alert(1)</script><rect width="20" height="20"/>')],
    ['script', svg('<rect width="20" height="20" onclick="x()"/>')],
    ['external-reference', svg('<image href="http://example.invalid/a.png"/>')],
    ['external-reference', svg('<use xlink:href="other.svg#a"/>')],
    ['external-reference', svg('<rect width="20" height="20" style="fill:url(http://example.invalid/p#g)"/>')],
    ['external-reference', svg('<style>@import "x.css";</style><rect width="20" height="20"/>')],
    ['entities', bomb],
    ['malformed', '<svg xmlns="http://www.w3.org/2000/svg"><rect></svg>'],
    ['malformed', 'not a drawing'],
    ['not-svg', '<html xmlns="http://www.w3.org/1999/xhtml"></html>'],
    ['path-data', svg('<path id="p" d="M0 0 L banana"/>')],
    ['no-section', svg('<path d="M0 0L10 10" fill="none" stroke="#000"/>')],
    ['too-deep', svg(`${'<g>'.repeat(80)}<rect width="20" height="20"/>${'</g>'.repeat(80)}`)],
    ['too-large', svg(`<desc>${'x'.repeat(2_100_000)}</desc>`)],
  ])('%s: %#', (code, text) => {
    let caught: unknown;
    try {
      readDesign(text);
    } catch (e) {
      caught = e;
    }
    expect(caught).toMatchObject({ name: 'BadInput', code });
    expect((caught as Error).message).toMatch(/^[^\n]+[.]$/);
  });
  it('a drawing that names itself recursively is cut off', () => {
    expect(sectionsOf(readDesign(svg('<g id="a"><use href="#a"/><rect width="20" height="20"/></g>'))).length).toBeGreaterThan(0);
  });
  it('text and pictures are skipped with a notice', () => {
    expect(readDesign(svg('<text>ahoy</text><rect width="20" height="20"/>')).notes[0]?.text).toMatch(/turn it into paths/);
  });
});

/** Drawings as several kinds of program write them; all invented for this test. */
describe('drawings as programs write them', () => {
  const sections = (svg: string) => sectionsOf(readDesign(svg)).map((s) => [s.id, Math.round(areaMm2(s.shape))]);
  it('layers with transforms, styles in attributes, millimetres and a namespace of its own', () => {
    expect(
      sections(
        `<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" xmlns:own="http://own.invalid/ns" width="80mm" height="80mm" viewBox="0 0 80 80" own:version="1">
         <own:view zoom="2"/><g id="layer1" own:label="Layer 1" transform="translate(10,10)"><g transform="matrix(2,0,0,2,0,0)">
         <rect id="field" style="fill:#ffffff;stroke:none" width="20" height="10" x="0" y="0"/></g></g></svg>`,
      ),
    ).toEqual([['field', 800]]);
  });
  it('classes in a style sheet, pixels, comma-joined paths', () => {
    expect(
      sections(
        `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 302.36 302.36" width="302.36"><defs><style>.cls-1{fill:#b3261e;}.cls-2{fill:none;stroke:#000;stroke-width:2px;}</style></defs>
         <path id="disc" class="cls-1" d="M151.18,37.8c62.6,0,113.38,50.78,113.38,113.38s-50.78,113.38-113.38,113.38-113.38-50.78-113.38-113.38S88.58,37.8,151.18,37.8Z"/></svg>`,
      ),
    ).toEqual([['disc', 2827]]);
  });
  it('symbols used again, clip paths, holes by the even-odd rule', () => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="100mm" viewBox="0 0 100 100">
      <defs><path id="tile" d="M0 0H20V20H0Z"/><clipPath id="half"><rect x="0" y="0" width="50" height="100"/></clipPath></defs>
      <use id="one" xlink:href="#tile" x="70" y="10" fill="#3f7f86"/>
      <circle id="moon" cx="50" cy="50" r="20" fill="#fff" clip-path="url(#half)"/>
      <path id="frame" fill="#222" fill-rule="evenodd" d="M5 5H25V25H5ZM10 10H20V20H10Z"/></svg>`;
    const found = new Map(sections(svg) as [string, number][]);
    expect(found.get('one')).toBe(400);
    expect(found.get('moon')).toBe(Math.round((Math.PI * 400) / 2));
    expect(found.get('frame')).toBe(300);
  });
});
