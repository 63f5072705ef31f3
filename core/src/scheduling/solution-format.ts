import { z } from 'zod';
import { type FormatDefinition, openFormat } from '../units/format.js';
import type { Outcome } from './problem.js';

const number = z.number();
const answered = z.looseObject({
  format: z.literal('kestfog-solution/1'),
  makespan: number,
  tardiness: number.optional(),
  start: z.record(z.string(), number),
  proven: z.union([z.boolean(), z.array(z.boolean())]),
  lowerBound: number,
});
const refused = z.looseObject({
  format: z.literal('kestfog-solution/1'),
  infeasible: z.literal(true),
  because: z.looseObject({ kind: z.enum(['positive-cycle', 'resource', 'calendar']), links: z.array(z.int()), tasks: z.array(z.string()) }),
  message: z.string(),
});
const open = z.looseObject({ format: z.literal('kestfog-solution/1'), unsolved: z.literal(true), message: z.string() });

/** `kestfog-solution`: starts of tasks, or why there are none. */
export const solutionFormat: FormatDefinition<Outcome> = {
  name: 'kestfog-solution',
  version: 1,
  migrations: {},
  schema: z.union([answered, refused, open]) as unknown as z.ZodType<Outcome>,
};

/** A solution of any released version. Throws a BadInput that names the place. */
export const openSolution = (json: unknown): Outcome => openFormat(solutionFormat, json);
