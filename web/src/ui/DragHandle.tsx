import type { Point } from '@kestfog/core/geometry';
import { msg } from '@kestfog/core/words';
import { arrowStep } from './arrow-step.js';

interface Props {
  /** where it is drawn, in the picture's own units */
  readonly at: Point;
  readonly radius: number;
  readonly label: string;
  /** the place it stands for, as it is read out */
  readonly value: Point;
  readonly colour: string;
  readonly fill: string;
  readonly onHold: (e: React.PointerEvent) => void;
  /** an arrow key moved it, in the units it is read out in */
  readonly onNudge: (by: Point) => void;
}

const STEP = 1;
const FAR_STEP = 20;

/** A point of a picture that is dragged, or moved by the arrow keys. */
export function DragHandle({ at, radius, label, value, colour, fill, onHold, onNudge }: Props) {
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
      aria-valuenow={Math.round(value.x)}
      aria-valuetext={msg`${Math.round(value.x)} across, ${Math.round(value.y)} down`}
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
