import { z } from 'zod';
import { checked, type FormatDefinition, openFormat } from '../../units/format.js';
import { msg } from '../../words/index.js';
import { patternIds } from '../patterns/index.js';
import { detailTechniques, markTechniques, orderings, sectionTechniques } from '../technique-names.js';
import { type DesignDocument, type DesignEdit, MAX_EDITS, MOST_TOGETHER, SAYABLE, type SingleEdit } from './document.js';

const colour = z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour such as #f6f3ea');
const id = z.string().min(1).max(200);
const point = z.object({ x: z.number().min(-2000).max(2000), y: z.number().min(-2000).max(2000) });
const points = z.array(point).min(1).max(4000);
/** What one stroke of the hand may hold, all its copies together. */
const MOST_DRAWN_POINTS = 12_000;
const angleDeg = z.number().min(-360).max(360);

/** Movements keep a part on the bench: no farther than a sheet, no larger than ten times. */
const factor = z.number().min(-10).max(10);
const far = z.number().min(-4000).max(4000);
const matrix = z.tuple([factor, factor, factor, factor, far, far]);
const ids = z.array(id).min(1).max(400);
const ask = z.object({
  sizeMm: z.number().min(0.3).max(40),
  spacingMm: z.number().min(0.5).max(100),
  angleDeg,
  count: z.number().min(1).max(60).transform(Math.round),
  seed: z.number().min(0).max(1e9).transform(Math.round),
});
const patternFields = {
  id: z.string().min(1).max(60),
  pattern: z.enum(patternIds as never),
  ask,
  colours: z.array(colour).min(1).max(24),
  seconds: z.number().min(1.5).max(120).nullable(),
};
const parts = z.number().min(2).max(24).transform(Math.round);
/** How much of the whole each piece has; only their proportions count. */
const shares = z.array(z.number().min(0.001).max(1000)).min(2).max(24).optional();
const division = z.discriminatedUnion('way', [
  z.object({ way: z.literal('stripes'), parts, angleDeg, shares }),
  z.object({ way: z.literal('radial'), parts, angleDeg, shares }),
  z.object({ way: z.literal('line'), points }),
]);

const singleEdits = [
  z.object({ type: z.literal('rename'), name: z.string().min(1).max(80) }),
  z.object({ type: z.literal('resize'), widthMm: z.number().min(10).max(400) }),
  z.object({
    type: z.literal('say'),
    part: id,
    said: z.partialRecord(z.enum(SAYABLE as never as [string, ...string[]]), z.string().max(200)),
    ofColour: colour.optional(),
  }),
  z.object({ type: z.literal('move'), part: id, before: id.nullable() }),
  z.object({ type: z.literal('remove'), part: id }),
  z.object({ type: z.literal('pattern'), sectionId: id, ...patternFields }),
  z.object({ type: z.literal('pattern-again'), ...patternFields }),
  z.object({ type: z.literal('divide'), sectionId: id, division, colours: z.array(colour).max(24) }),
  z.object({ type: z.literal('divide-again'), sectionId: id, division }),
  z.object({ type: z.literal('set-free'), part: id }),
  z.object({
    type: z.literal('arrange'),
    moves: z
      .array(z.object({ part: id, matrix }))
      .min(1)
      .max(400),
  }),
  z.object({ type: z.literal('copy'), part: id, id: z.string().min(1).max(60), matrix }),
  z.object({ type: z.literal('part-islands'), part: id }),
  z.object({ type: z.literal('unite'), parts: ids }),
  z.object({ type: z.literal('cut-out'), part: id, by: ids, gapMm: z.number().min(0).max(20) }),
  z.object({
    type: z.literal('detail'),
    id: z.string().min(1).max(60),
    name: z.string().min(1).max(80),
    technique: z.enum(detailTechniques),
    points,
    closed: z.boolean().default(false),
    area: z.boolean().default(false),
    colour,
    widthMm: z.number().min(0).max(30),
  }),
  z.object({
    type: z.literal('draw'),
    id: z.string().min(1).max(60),
    name: z.string().min(1).max(80),
    technique: z.enum([...sectionTechniques, ...markTechniques, ...detailTechniques, 'guide']),
    strokes: z
      .array(z.object({ points, closed: z.boolean() }))
      .min(1)
      .max(600)
      .refine(
        (strokes) => strokes.reduce((n, s) => n + s.points.length, 0) <= MOST_DRAWN_POINTS,
        msg`must have at most ${MOST_DRAWN_POINTS} points in all`,
      ),
    area: z.boolean(),
    layer: z.boolean(),
    colour,
    widthMm: z.number().min(0.2).max(30),
    spells: z.string().max(60).optional(),
  }),
  z.object({ type: z.literal('first'), first: id, next: id }),
  z.object({ type: z.literal('either'), a: id, b: id }),
  z.object({ type: z.literal('recolour'), from: colour, to: colour }),
  z.object({ type: z.literal('transfer'), on: z.boolean() }),
  z.object({ type: z.literal('ordering'), ordering: z.enum(orderings) }),
] as const;
const single: z.ZodType<SingleEdit> = z.discriminatedUnion('type', singleEdits) as never;
const edit: z.ZodType<DesignEdit> = z.discriminatedUnion('type', [
  ...singleEdits,
  z.object({ type: z.literal('together'), edits: z.array(single).min(1).max(MOST_TOGETHER) }),
  z.object({ type: z.literal('undo') }),
  z.object({ type: z.literal('redo') }),
]) as never;

/**
 * `kestfog-design`: a drawing and its edits. Version 2 is one stack: a part may be moved past any other, and has words of
 * its own. Version 3 says how drops are laid and when a stencil is washed. Every edit of an earlier version means what it meant,
 * so nothing but the version changes.
 */
export const designFormat: FormatDefinition<DesignDocument> = {
  name: 'kestfog-design',
  version: 3,
  migrations: { 1: (json) => json, 2: (json) => json },
  schema: z.object({
    format: z.literal('kestfog-design/3'),
    name: z.string().min(1).max(200),
    svg: z.string().max(5_000_000),
    edits: z.array(edit).max(MAX_EDITS),
  }),
};

/** Checks one edit from outside; throws a BadInput that names the place. */
export const parseEdit = (json: unknown, place: string): DesignEdit => checked(edit, json, place);

/** A design's document of any released version. Throws a BadInput that names the place. */
export const openDesign = (json: unknown): DesignDocument => openFormat(designFormat, json);
