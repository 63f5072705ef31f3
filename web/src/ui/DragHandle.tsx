import type { Point } from '@kestfog/core/geometry';
import { arrowStep } from './arrow-step.js';

interface Props {
  /** where it is drawn, in the picture's own units */
  readonly at: Point;
  readonly radius: number;
  readonly label: string;
  /** the place it stands for, as it is told */
  readonly told: Point;
  readonly colour: string;
  readonly fill: string;
  readonly onHold: (e: React.PointerEvent) => void;
  /** an arrow key moved it, in the units it is told in */
  readonly onNudge: (by: Point) => void;
}

const STEP = 1;
const FAR_STEP = 20;

/** A point of a picture that is dragged, or moved by the arrow keys. */
export function DragHandle({ at, radius, label, told, colour, fill, onHold, onNudge }: Props) {
  return (
    <circle
      cx={at.x}
      cy={at.y}
      r={radius}
      fill={fill}
      fillOpacity="0.4"
      stroke={colour}
      strokeWidth={radius / 6}
      className="cursor-move"
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={Math.round(told.x)}
      aria-valuetext={`${Math.round(told.x)} across, ${Math.round(told.y)} down`}
      onPointerDown={onHold}
      onKeyDown={(e) => {
        const by = arrowStep(e, STEP, FAR_STEP);
        if (!by) return;
        e.preventDefault();
        e.stopPropagation();
        onNudge(by);
      }}
    />
  );
}
