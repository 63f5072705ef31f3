import { type Design, partById } from '@kestfog/core/design';
import type { SequencedStep } from '@kestfog/core/planning';

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
  readonly technique: string;
  readonly round: number;
  readonly sectionId: string | null;
  readonly waits: SequencedStep['waitedFor'];
  readonly endS: number;
}

/** Rows of the stack from the steps of one cookie: floods with their marks, then details, as they come. */
export function stackRows(design: Design, sequence: readonly SequencedStep[]): StackRow[] {
  const taken = new Set<string>();
  return sequence.flatMap(({ step, waitedFor, endS }): StackRow[] => {
    const part = partById(design, step.part);
    if ((step.kind === 'prepare' && part?.role !== 'guide') || step.kind === 'dam' || step.kind === 'pack') return [];
    const kind = step.kind === 'flood' ? 'section' : step.kind === 'mark' ? 'marks' : 'detail';
    if (!part || step.technique === 'needle') return [];
    const whole = kind === 'marks' ? step.part.replace(/\.\d+$/, '') : step.part;
    const id = taken.has(whole) ? step.part : whole;
    taken.add(id);
    return [
      {
        id,
        whole,
        parts: step.parts,
        kind,
        name: step.label,
        colour: part.colour,
        technique: step.technique,
        round: step.round,
        sectionId: step.sectionId,
        waits: waitedFor,
        endS,
      },
    ];
  });
}

/** The row a touched part belongs to. */
export const rowOfPart = (rows: readonly StackRow[], part: string): StackRow | undefined => rows.find((r) => r.parts.includes(part));

/** Colours of a design, each once, in the order they come. */
export const paletteOf = (design: Design): string[] => [
  ...new Set(design.parts.filter((p) => p.role !== 'guide' && p.technique !== 'drag').map((p) => p.colour)),
];
