import { expect, it } from 'vitest';
import { readDesign } from '../design/read-design.js';
import { contains } from '../geometry/shape.js';
import { finishedLook } from '../planning/look.js';
import { flawsOn } from './flaws.js';
import { paint } from './paint.js';
import { sceneOf } from './scene.js';

const design = readDesign(
  `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60"><rect id="cookie" data-part="cookie" width="80" height="60" fill="#d9a566"/>
  <rect id="left" data-part="section" x="4" y="4" width="36" height="52" fill="#f6f3ea"/><rect id="right" data-part="section" x="40" y="4" width="36" height="52" fill="#b3261e"/>
  <rect id="small" data-part="section" data-over="layer" x="60" y="10" width="4" height="4" fill="#2e3a46"/><path id="rope" data-part="line" d="M8 30H36" fill="none" stroke="#22343c" stroke-width="2"/></svg>`,
);

it.each(['crater', 'dent', 'ridge', 'smudge'] as const)('a %s lies where its part is widest, no larger than there is room', (kind) => {
  const [flaw] = flawsOn(design, 'left', kind);
  const left = design.parts[0]?.role === 'section' ? design.parts[0].shape : [];
  expect(contains(left, { x: flaw?.x ?? 0, y: flaw?.y ?? 0 })).toBe(true);
  expect(flawsOn(design, 'small', kind)[0]?.sizeMm).toBeLessThanOrEqual(3.3);
  expect(flawsOn(design, 'rope', kind)[0]).toMatchObject({ x: 22, y: 30 });
  expect(flawsOn(design, 'nobody', kind)).toEqual([]);
});
it('a colour bleeds along the join it has with its neighbour, in the neighbour’s colour', () => {
  const flaws = flawsOn(design, 'left', 'bleed');
  expect(flaws.length).toBeGreaterThan(5);
  for (const f of flaws) {
    expect(f.colour).toBe('#b3261e');
    expect(Math.abs(f.x - 40)).toBeLessThan(0.7);
  }
  expect(
    flawsOn(
      readDesign(
        '<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="20mm" viewBox="0 0 20 20"><rect id="a" width="20" height="20" fill="#fff"/></svg>',
      ),
      'a',
      'bleed',
    ),
  ).toEqual([]);
});
it('and is seen in the picture there, and nowhere else', () => {
  const look = finishedLook(design, 'dry');
  const [whole, spoilt] = [[], flawsOn(design, 'left', 'crater')].map((flaws) => paint(sceneOf(design, look, [], flaws), 200));
  const [flaw] = flawsOn(design, 'left', 'crater');
  let [near, far] = [0, 0];
  const perMm = 200 / 84;
  for (let i = 0; i < (whole?.width ?? 0) * (whole?.height ?? 0); i++) {
    const d = Math.abs((whole?.rgba[4 * i] as number) - (spoilt?.rgba[4 * i] as number));
    const at = { x: (i % 200) / perMm - 2, y: Math.floor(i / 200) / perMm - 2 };
    if (Math.hypot(at.x - (flaw?.x ?? 0), at.y - (flaw?.y ?? 0)) < 8) near = Math.max(near, d);
    else far = Math.max(far, d);
  }
  expect(near).toBeGreaterThan(20);
  expect(far).toBeLessThan(3);
});
