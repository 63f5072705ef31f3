import { awayTrays, cookiesOf, lookNow, mayTouchInPassing, type RunState, runIndex } from '@kestfog/core/bench';
import type { Finding } from '@kestfog/core/drying';
import { cookieKey, type PlanTask } from '@kestfog/core/formats';
import { lookAfter } from '@kestfog/core/planning';
import { msg, word } from '@kestfog/core/words';
import { clockTime } from '../../text/time.js';
import { capital, cookiesText } from '../../text/words.js';
import { Cookie } from '../../ui/Cookie.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Sheet } from '../../ui/Sheet.js';
import { TrayMap } from '../../ui/TrayMap.js';
import { outcomeText } from './defect-text.js';
import type { Run } from './use-run.js';

interface Props {
  readonly bench: Run;
  readonly trayId: string;
  readonly onCookie: (lotId: string, cookie: number) => void;
  readonly onClose: () => void;
}

/** One tray: its cookies as they are, and its steps as pictures; touching the picture one is at says "I am here". */
export function TraySheet({ bench, trayId, onCookie, onClose }: Props) {
  const { state, nowMs } = bench;
  if (!state) return null;
  const { plan } = state;
  const index = runIndex(state);
  const tray = plan.trays.find((t) => t.id === trayId);
  const own = index.plan.tasksOnTray(trayId);
  const here = (task: PlanTask) => {
    bench.send({ type: 'imHere', data: { taskId: task.id } });
    onClose();
  };
  return (
    <Sheet title={msg`Tray ${trayId}`} onClose={onClose}>
      <TrayMap plan={plan} trayId={trayId} className="mb-4 max-w-2xl" />
      {tray?.lots.map((lot) => {
        const design = index.plan.design(lot.designId);
        if (!design) return null;
        return (
          <section key={lot.id} aria-label={design.drawing.name} className="mb-4">
            <h3 className="text-2xl font-semibold">{design.drawing.name}</h3>
            <ul className="flex flex-wrap gap-2 mt-1">
              {cookiesOf(lot).map((c) => {
                const out = state.out.get(cookieKey(lot.id, c));
                return (
                  <li key={c}>
                    <button
                      type="button"
                      className={`btn btn-ghost h-auto p-1 flex-col text-xl font-normal ${out ? 'opacity-60' : ''}`}
                      aria-label={msg`cookie ${c + 1}${out ? `, ${outcomeText(out)}` : ''}: report something on it`}
                      disabled={out !== undefined}
                      onClick={() => onCookie(lot.id, c)}
                    >
                      <Cookie
                        design={design.drawing}
                        look={lookNow(index, lot, c, nowMs)}
                        className="h-24 w-24"
                        label={msg`${design.drawing.name}, cookie ${c + 1}`}
                      />
                      {out ? outcomeText(out) : c + 1}
                    </button>
                  </li>
                );
              })}
            </ul>
          </section>
        );
      })}
      <InPassing bench={bench} state={state} trayId={trayId} onClose={onClose} />
      <Carrying bench={bench} state={state} trayId={trayId} onClose={onClose} />
      <h3 className="text-2xl font-semibold">{msg`Where are you on this tray?`}</h3>
      <p>{msg`Touch the picture you are working on: what comes before it is taken as done.`}</p>
      <ol className="flex flex-wrap gap-2 mt-2">
        {own.map((t) => {
          const doneAtMs = index.doneMs(t.id);
          const design = index.plan.designOf(t);
          return (
            <li key={t.id} className="w-44">
              <button
                type="button"
                className="btn btn-ghost h-auto w-full p-2 flex-col items-start justify-start text-left text-xl font-normal leading-tight disabled:text-base-content/75"
                disabled={doneAtMs !== null}
                onClick={() => here(t)}
              >
                {design && (
                  <Cookie
                    design={design.drawing}
                    look={lookAfter(plan, t, design.drawing)}
                    className="h-20 w-20"
                    label={msg`after: ${t.title}`}
                  />
                )}
                <span>{capital(t.title)}</span>
                <span className="opacity-80">
                  {doneAtMs === null ? (t.lotId ? cookiesText(plan, t) : msg`the whole tray`) : msg`done ${clockTime(doneAtMs)}`}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
    </Sheet>
  );
}

/** What a finger finds on a tray nobody works on: said, it ends or lengthens that tray's wait, and teaches how this kitchen dries. */
function InPassing({ bench, state, trayId, onClose }: { readonly state: RunState } & Pick<Props, 'bench' | 'trayId' | 'onClose'>) {
  const touch = mayTouchInPassing(runIndex(state), trayId, bench.nowMs);
  if (!touch) return null;
  const { task, body } = touch;
  const { cookie, stepId } = body.body;
  const button = (label: string, found: Finding) => (
    <button
      type="button"
      className="btn min-h-16 text-xl"
      onClick={() => {
        bench.send({ type: 'touched', data: { taskId: task.id, cookie, part: stepId, state: body.state, found } });
        onClose();
      }}
    >
      {label}
    </button>
  );
  return (
    <section aria-label={msg`Touched in passing`} className="mb-4">
      <h3 className="text-2xl font-semibold">{msgNodes`Touched cookie ${cookie + 1} in passing?`}</h3>
      <p>{msgNodes`It is the one that is furthest behind for “${task.title}”. Touch where it will be covered, or on the edge.`}</p>
      <div className="flex flex-wrap gap-2 mt-1">
        {button(msg`not ${word(body.state)} yet`, 'not-yet')}
        {button(msg`${word(body.state)} already`, 'reached')}
      </div>
    </section>
  );
}

/** Minutes usually given to a tray that is carried away: small pools want few in the dehydrator, a skin wants more before the fan. */
const MINUTES = { fan: [10, 20, 30], dehydrator: [3, 10, 20] } as const;

/** A tray carried away though no plan said so, and brought back: what dries meanwhile is counted. */
function Carrying({
  bench,
  state,
  trayId,
  onClose,
}: {
  readonly bench: Run;
  readonly state: RunState;
  readonly trayId: string;
  readonly onClose: () => void;
}) {
  const { plan } = state;
  const away = awayTrays(runIndex(state), bench.nowMs).find((a) => a.trayId === trayId);
  const places = (['fan', 'dehydrator'] as const).filter((where) => plan.order[where] !== null);
  if (state.startedAtMs === null || (places.length === 0 && !away)) return null;
  const said = away && away.stayId === null;
  return (
    <section aria-label={msg`Where it stands`} className="mb-4">
      <h3 className="text-2xl font-semibold">
        {away
          ? msg`It is ${away.where === 'fan' ? msg`before the fan` : msg`in the dehydrator`}${said ? '' : msg`, as planned`}`
          : msg`Carried somewhere to dry?`}
      </h3>
      <div className="flex flex-wrap gap-2 mt-1">
        {said && (
          <button
            type="button"
            className="btn min-h-16 text-xl"
            onClick={() => {
              bench.send({ type: 'broughtBack', data: { trayId } });
              onClose();
            }}
          >
            {msg`it is back on the bench`}
          </button>
        )}
        {!away &&
          places.flatMap((where) =>
            MINUTES[where].map((minutes) => (
              <button
                key={`${where} ${minutes}`}
                type="button"
                className="btn min-h-16 text-xl"
                onClick={() => {
                  bench.send({ type: 'carried', data: { trayId, where, minutes } });
                  onClose();
                }}
              >
                {msgNodes`${where === 'fan' ? msg`before the fan` : msg`in the dehydrator`}, ${minutes} min`}
              </button>
            )),
          )}
      </div>
      {places.includes('dehydrator') && !away && (
        <p>{msg`Warm air: about 35 °C, never left running with food forgotten in it; mind burns.`}</p>
      )}
    </section>
  );
}
