import { type DesignDocument, foldDesign, marksOf, patternIds, startingDrawing, startingShapes } from '@kestfog/core/design';
import { stepSequence } from '@kestfog/core/planning';
import { deriveSteps, schoolById } from '@kestfog/core/steps';
import { expect, it } from 'vitest';
import { stackRows } from './parts.js';

it.each(patternIds)('every row of the stack has a name of its own, and says what whole it is of: %s', (pattern) => {
  const svg = startingDrawing(startingShapes[0] as (typeof startingShapes)[number], '#ffffff');
  const ask = { sizeMm: 3, spacingMm: 14, angleDeg: 0, count: 5, seed: 1 };
  const edit = {
    type: 'pattern',
    id: 'm',
    sectionId: 'base',
    pattern,
    ask,
    colours: ['#b3261e', '#1f3f6b', '#f2c14e', '#3f7f86'],
    seconds: null,
  };
  const design = foldDesign({ format: 'kestfog-design/3', name: 'd', svg, edits: [edit] } as DesignDocument);
  const school = schoolById('two-bags');
  const rows = stackRows(design, stepSequence(deriveSteps(design, school), { tempC: 22, humidityFrac: 0.5, airMPerS: 0.1 }, school.margin));
  expect(rows.length).toBeGreaterThan(1);
  expect(new Set(rows.map((r) => r.id)).size).toBe(rows.length);
  // A pattern whose colours come by turns is a row for each colour, and every mark of it is in one of them.
  expect(rows.length).toBeLessThanOrEqual(10);
  expect(rows.flatMap((r) => (r.kind === 'marks' ? r.parts : [])).sort()).toEqual(
    marksOf(design)
      .map((m) => m.id)
      .sort(),
  );
  for (const r of rows) expect(r.whole).toBe(r.kind === 'marks' ? 'm' : r.kind === 'section' ? 'base' : r.id);
});
