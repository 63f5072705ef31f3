import { describe, expect, it } from 'vitest';
import { type Meeting, meetingsOf } from './meetings.js';
import { readDesign } from './read-design.js';

const svg = (inner: string) => `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">${inner}</svg>`;
const flood = (id: string, d: string, more = '') => `<path id="${id}" data-part="section" fill="#dddddd" d="${d}" ${more}/>`;
const line = (id: string, d: string, more = '') =>
  `<path id="${id}" data-part="line" data-technique="piped-line" fill="none" stroke="#333333" stroke-width="1.6" d="${d}" ${more}/>`;
const found = (inner: string): string[] =>
  meetingsOf(readDesign(svg(inner)))
    .map(told)
    .sort();
const told = (m: Meeting) => `${m.a} ${m.kind} ${m.b}${m.drawn ? ` ${m.drawn}` : ''}`;
const [A, RIGHT] = ['M10 10H40V40H10Z', 'M40 10H70V40H40Z'];

describe('meetings, found once by geometry', () => {
  it.each([
    ['edges within half a millimetre over a millimetre', flood('a', A) + flood('b', 'M40.4 10H70V40H40.4Z'), ['a beside b']],
    ['further apart they do not meet', flood('a', A) + flood('b', 'M40.7 10H70V40H40.7Z'), []],
    ['corners do not touch', flood('a', A) + flood('b', 'M40 40H70V70H40Z'), []],
    [
      'an overlap that holds a circle of a millimetre is drawn over',
      flood('a', A) + flood('b', 'M38.9 10H70V40H38.9Z'),
      ['a beside b over'],
    ],
    ['a thinner one is an edge drawn twice: free', flood('a', A) + flood('b', 'M39.2 10H70V40H39.2Z'), ['a beside b']],
    ['a snout on a face is an inlay wholly inside', flood('a', A) + flood('b', 'M15 15H35V35H15Z'), ['a beside b inside']],
    [
      'a band drawn edge to edge is inside, with half a millimetre to spare',
      flood('a', A) + flood('b', 'M9.6 20H40.4V30H9.6Z'),
      ['a beside b inside'],
    ],
    ['a wing past the edge is not', flood('a', A) + flood('b', 'M30 20H50V30H30Z'), ['a beside b over']],
    ['a layer lies on', flood('a', A) + flood('b', 'M15 15H35V35H15Z', 'data-over="layer"'), ['a on b over']],
    [
      'covered in between by a third, only the order is left',
      flood('a', A) + flood('m', 'M20 5H60V45H20Z') + flood('b', 'M36 12H70V30H36Z'),
      ['a beside m over', 'a over b over', 'm beside b over'],
    ],
    [
      'a line lies on what it runs over for a millimetre',
      flood('a', A) + flood('b', RIGHT) + line('l', 'M20 25H38'),
      ['a beside b', 'a on l'],
    ],
    ['along a boundary it rests on both', flood('a', A) + flood('b', RIGHT) + line('l', 'M40 12V38'), ['a beside b', 'a on l', 'b on l']],
    [
      'laid first along their edge it parts two floods',
      line('l', 'M40 8V42') + flood('a', A) + flood('b', RIGHT),
      ['l beside a', 'l beside b'],
    ],
    ['a bead that a flood covers is under it', line('l', 'M20 25H30') + flood('a', A), ['l on a']],
    [
      'lines that cross meet, lines apart do not',
      line('p', 'M10 10H30') + line('q', 'M20 5V20') + line('r', 'M10 30H30') + flood('z', 'M60 60H80V80H60Z'),
      ['p on q'],
    ],
    [
      'a mark lies in its flood',
      `${flood('a', A)}<circle id="d" data-part="mark" data-technique="wet-drop" fill="#ff0000" cx="20" cy="20" r="2"/>`,
      ['a in d'],
    ],
    [
      'a drop on a wet bead lies in the bead',
      flood('a', A) +
        line('l', 'M15 20H30').replace('1.6', '5') +
        '<circle id="d" data-part="mark" data-technique="wet-drop" fill="#ff0000" cx="20" cy="20" r="0.5"/>',
      ['a on l', 'l in d'],
    ],
    [
      'a drag over a flush join belongs to both',
      flood('a', A) +
        flood('b', RIGHT, 'data-flush="a"') +
        '<path id="d" data-part="mark" data-technique="drag" fill="none" stroke="#000" stroke-width="0.4" d="M30 20H50"/>',
      ['a beside b', 'a in d', 'b in d'],
    ],
  ])('%s', (_what, inner, expected) => expect(found(inner)).toEqual(expected));
  it('guides what is named, else every later part that overlaps it', () => {
    const guide = (more: string) => `<path id="g" data-part="guide" ${more} fill="none" stroke="#999999" d="M12 25H38"/>`;
    expect(found(flood('a', A) + guide('data-guide="ruled"') + line('l', 'M12 25H38'))).toEqual(['a on g', 'a on l', 'g guides l']);
    expect(found(flood('a', A) + line('l', 'M12 25H38') + guide('data-guide="traced" data-guides="l"'))).toEqual([
      'a on g',
      'a on l',
      'g guides l',
    ]);
    // Traced on the bare cookie for a flood drawn before it: it does not lie on what it guides.
    expect(found(flood('a', A) + guide('data-guide="traced" data-guides="a"'))).toEqual(['g guides a']);
  });
  it('a mark over floods that are not flush is cut into one for each, specks dropped, and that is reported', () => {
    const stripes = '<path id="m" data-part="mark" data-technique="wet-line" fill="none" stroke="#b3261e" stroke-width="2" d="M20 20H60"/>';
    const design = readDesign(svg(flood('a', A) + flood('b', RIGHT) + stripes));
    expect(design.parts.filter((p) => p.role === 'mark').map((p) => (p.role === 'mark' ? [p.id, p.sectionId] : []))).toEqual([
      ['m', 'a'],
      ['m.2', 'b'],
    ]);
    expect(design.notes.map((n) => n.text)).toContainEqual(
      expect.stringMatching(/"m" lies over "a" and "b", which are not flooded together: it was cut into one for each/),
    );
    const speck = '<circle id="d" data-part="mark" data-technique="wet-drop" fill="#ff0000" cx="39" cy="20" r="1.2"/>';
    expect(
      readDesign(svg(flood('a', A) + flood('b', RIGHT) + speck))
        .parts.filter((p) => p.role === 'mark')
        .map((p) => p.id),
    ).toEqual(['d']);
  });
  it('only neighbours are looked at: a long row of tiles meets its neighbours and nobody else', () => {
    const n = 40;
    const tiles = [...Array(n).keys()].map((i) => flood(`t${i}`, `M${i * 2.4} 10h2.4v20h-2.4Z`)).join('');
    expect(found(tiles)).toHaveLength(n - 1);
  });
});
