import { type Design, partById } from '@kestfog/core/design';
import type { SequencedStep } from '@kestfog/core/planning';
import type { TechniqueId } from '@kestfog/core/steps';
import { msg } from '@kestfog/core/words';

/** One row of the stack: a section, a mark or a run of marks, a detail, in the order it is piped. */
export interface StackRow {
  /** the part, or the pattern; of a pattern's further layers that of their first mark */
  readonly id: string;
  /** the part or the pattern as a whole: what is moved, arranged or taken off */
  readonly whole: string;
  /** parts that light up with it */
  readonly parts: readonly string[];
  readonly kind: 'section' | 'marks' | 'detail';
  readonly name: string;
  readonly colour: string;
  readonly technique: TechniqueId;
  readonly round: number;
  readonly sectionId: string | null;
  readonly waits: SequencedStep['waitedFor'];
  readonly endS: number;
}

/** A pattern whose colours come by turns in more steps than this is a row for each colour, not for each turn. */
const MOST_TURNS = 8;

/** Rows of the stack from the steps of one cookie: floods with their marks, then details, as they come. */
export function stackRows(design: Design, sequence: readonly SequencedStep[]): StackRow[] {
  const wholeOf = ({ kind, part }: SequencedStep['step']) => (kind === 'mark' ? part.replace(/\.\d+$/, '') : part);
  const turns = new Map<string, number>();
  for (const { step } of sequence) turns.set(wholeOf(step), (turns.get(wholeOf(step)) ?? 0) + 1);
  const taken = new Set<string>();
  const byTurns = new Map<string, string[]>();
  return sequence.flatMap(({ step, waitedFor, endS }): StackRow[] => {
    const part = partById(design, step.part);
    if ((step.kind === 'prepare' && part?.role !== 'guide') || step.kind === 'dam' || step.kind === 'pack') return [];
    const kind = step.kind === 'flood' ? 'section' : step.kind === 'mark' ? 'marks' : 'detail';
    if (!part || step.technique === 'needle') return [];
    const whole = wholeOf(step);
    const isByTurns = kind === 'marks' && (turns.get(whole) as number) > MOST_TURNS;
    const layer = `${whole} ${part.colour} ${step.technique}`;
    const begun = byTurns.get(layer);
    if (isByTurns && begun) {
      begun.push(...step.parts);
      return [];
    }
    const id = taken.has(whole) ? step.part : whole;
    taken.add(id);
    const parts = [...step.parts];
    const row = {
      id,
      whole,
      parts,
      kind,
      name: isByTurns ? msg`${step.label}, by turns` : step.label,
      colour: part.colour,
      technique: step.technique,
      round: step.round,
      sectionId: step.sectionId,
      waits: waitedFor,
      endS,
    } as const;
    if (isByTurns) byTurns.set(layer, parts);
    return [row];
  });
}

/** The row a touched part belongs to. */
export const rowOfPart = (rows: readonly StackRow[], part: string): StackRow | undefined => rows.find((r) => r.parts.includes(part));

/** Colours of a design, each once, in the order they come. */
export const paletteOf = (design: Design): string[] => [
  ...new Set(design.parts.filter((p) => p.role !== 'guide' && p.technique !== 'drag').map((p) => p.colour)),
];
