import type { Plan } from '@kestfog/core/formats';
import { Cookie } from '../../ui/Cookie.js';
import type { TrayNow } from './tray-state.js';

/** Every tray as it is now; touched, it shows its cookies. */
export function RackStrip({ plan, trays, onTray }: { readonly plan: Plan; readonly trays: readonly TrayNow[]; readonly onTray: (trayId: string) => void }) {
  return (
    <section aria-label="Trays">
      <ul aria-label="The trays now" className="flex flex-wrap gap-x-4 gap-y-2 pb-3 border-t border-base-300 pt-2">
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
                  <Cookie key={lot.id} design={design.drawing} look={look} className="h-14 w-14" label={`${design.drawing.name} on tray ${t.trayId}`} />
                ) : null;
              })}
              <span>
                {t.packed ? 'packed' : t.inHand ? 'in hand' : (t.least ?? 'bare')}
                {t.away && (t.away === 'fan' ? ', at the fan' : ', in the dehydrator')}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
