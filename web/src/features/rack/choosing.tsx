import type { TimeAxis } from './time-axis.js';

/** Width of the names at the left of the rack. */
export const LABEL_PX = 132;

/** Which step is looked at, and how another is chosen: the same for pointer, finger and keyboard. */
export interface Choosing {
  readonly chosenId: string | null;
  readonly onChoose: (id: string) => void;
  /** a pointer is over a step, or over none any more */
  readonly onHover: (id: string | null) => void;
  /** tasks that set the end, where that is shown; all others step back */
  readonly chain: ReadonlySet<string>;
  readonly nowS: number;
}

/** Off the chain that is shown, a task steps back. */
export const opacityOf = (chain: ReadonlySet<string>, id: string) => (chain.size > 0 && !chain.has(id) ? 0.25 : 1);

export function NowLine({ axis, nowS, height }: { readonly axis: TimeAxis; readonly nowS: number; readonly height: number }) {
  const domain = axis.scale.domain();
  if (nowS < (domain[0] as number) || nowS > (domain.at(-1) as number)) return null;
  return <line x1={axis.scale(nowS)} x2={axis.scale(nowS)} y1={0} y2={height} stroke="var(--color-primary)" strokeWidth="3" />;
}
