import type { RunIndex } from '@kestfog/core/bench';
import type { Plan } from '@kestfog/core/formats';
import { msg } from '@kestfog/core/words';
import { memo } from 'react';
import { Cookie } from '../../ui/Cookie.js';
import { traysNow } from './tray-state.js';

/** Icing changes its look over minutes: the trays are drawn anew this often, and with every tap. */
const LOOK_AGAIN_MS = 15_000;

interface Props {
  readonly plan: Plan;
  readonly index: RunIndex;
  readonly nowMs: number;
  readonly onTray: (trayId: string) => void;
}

/** Every tray as it is now; touched, it shows its cookies. */
export const RackStrip = memo(Strip, (was, is) => was.index === is.index && is.nowMs >= was.nowMs && is.nowMs - was.nowMs < LOOK_AGAIN_MS);

function Strip({ plan, index, nowMs, onTray }: Props) {
  const trays = traysNow(index, nowMs);
  return (
    <section aria-label={msg`Trays`}>
      <ul aria-label={msg`The trays now`} className="flex flex-wrap gap-x-4 gap-y-2 pb-3 border-t border-base-300 pt-2">
        {trays.map((t) => (
          <li key={t.trayId}>
            <button
              type="button"
              className="btn btn-ghost h-auto min-h-16 px-2 py-1 flex items-center gap-3 text-xl font-normal"
              onClick={() => onTray(t.trayId)}
            >
              <b className="text-3xl">{t.trayId}</b>
              {t.lots.slice(0, 3).map(({ lot, look }) => {
                const design = plan.designs.find((d) => d.id === lot.designId);
                return design ? (
                  <Cookie
                    key={lot.id}
                    design={design.drawing}
                    look={look}
                    className="h-14 w-14"
                    label={msg`${design.drawing.name} on tray ${t.trayId}`}
                  />
                ) : null;
              })}
              <span>
                {t.packed ? msg`packed` : t.inHand ? msg`in hand` : (t.least ?? msg`bare`)}
                {t.away && (t.away === 'fan' ? msg`, at the fan` : msg`, in the dehydrator`)}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
