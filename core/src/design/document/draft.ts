import { belongs } from '../arrange.js';
import type { Design } from '../design.js';
import type { DrawnPath } from '../drawn-path.js';
import { type Drawing, designOf } from '../read-design.js';
import type { Ordering } from '../technique-names.js';

/** A design in the middle of its edits: its paths as a stack, and what was said of the whole. */
export interface Draft {
  readonly drawing: Drawing;
  /** parts taken off one by one, where others of their path stay */
  readonly gone: ReadonlySet<string>;
  readonly name: string;
  readonly before: readonly (readonly [string, string])[];
  readonly transfer: boolean | undefined;
  readonly ordering: Ordering | undefined;
}

/** One for all, so that a design of which nothing is gone is known again. */
export const NOTHING_GONE: ReadonlySet<string> = new Set();

const settledDrafts = new WeakMap<readonly DrawnPath[], { gone: ReadonlySet<string>; design: Design }>();

/** The design as it stands in the middle of its edits; worked out once for each state of its paths. */
export function designIn(draft: Draft): Design {
  const known = settledDrafts.get(draft.drawing.paths);
  const design = known?.gone === draft.gone ? known.design : designOf(draft.drawing, draft.name, draft.gone);
  settledDrafts.set(draft.drawing.paths, { gone: draft.gone, design });
  const ids = new Set(design.parts.map((p) => p.id));
  const before = draft.before.filter((pair) => pair.every((id) => ids.has(id)));
  return {
    ...design,
    name: draft.name,
    ...(before.length > 0 ? { before } : {}),
    ...(draft.transfer === undefined ? {} : { transfer: draft.transfer }),
    ...((draft.ordering ?? design.ordering) ? { ordering: draft.ordering ?? (design.ordering as Ordering) } : {}),
  };
}

export const withPaths = (d: Draft, paths: readonly DrawnPath[]): Draft => ({ ...d, drawing: { ...d.drawing, paths } });

/** A name nobody of the stack has: the one wished for, or that with a number. */
export function freshName(d: Draft, wished: string): string {
  const isTaken = (name: string) => d.drawing.paths.some((p) => belongs(p.id, name));
  let name = wished;
  for (let n = 2; isTaken(name); n++) name = `${wished}-${n}`;
  return name;
}
