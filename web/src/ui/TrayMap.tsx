import type { Plan } from '@kestfog/core/formats';
import { shapeAt } from '@kestfog/core/planning';
import { msg } from '@kestfog/core/words';
import { useUnits } from '../app/units.js';
import { millimetres } from '../text/amounts.js';
import { msgNodes } from '../ui/msg-nodes.js';

/** How the cookies of a tray lie on it, where the tray is given by its size: outlines to scale, numbered as the steps count them. */
export function TrayMap({ plan, trayId, className }: { readonly plan: Plan; readonly trayId: string; readonly className: string }) {
  const [units] = useUnits();
  const tray = plan.trays.find((t) => t.id === trayId);
  const size = plan.order.trays.find((t) => t.id === trayId);
  if (!tray || !size || size.places !== undefined) return null;
  const laid = tray.lots.flatMap((lot) => {
    const design = plan.designs.find((d) => d.id === lot.designId);
    return (lot.at ?? []).flatMap((at, i) =>
      design ? [{ key: `${lot.id} ${i}`, number: i + 1, at, shape: shapeAt(design.drawing.cookie, at) }] : [],
    );
  });
  if (laid.length === 0) return null;
  const { widthMm, depthMm } = size;
  return (
    <figure className={className}>
      <svg
        viewBox={`-2 -2 ${widthMm + 4} ${depthMm + 4}`}
        className="w-full h-auto"
        role="img"
        aria-label={msg`Tray ${trayId}: how ${laid.length} cookies lie`}
      >
        <rect width={widthMm} height={depthMm} rx="6" className="fill-base-200 stroke-base-content" strokeWidth="1.5" />
        {laid.map(({ key, number, at, shape }) => (
          <g key={key}>
            <path
              d={shape.map((ring) => `M${ring.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join('L')}Z`).join('')}
              fillRule="evenodd"
              className="fill-base-100 stroke-base-content"
              strokeWidth="0.8"
            />
            <text x={at.xMm} y={at.yMm} fontSize="16" textAnchor="middle" dominantBaseline="central" className="fill-base-content">
              {number}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="text-base opacity-80">
        {msgNodes`As the cookies lie: ${millimetres(plan.order.handGapMm, units)} for a hand between them.`}
      </figcaption>
    </figure>
  );
}
