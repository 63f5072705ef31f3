import { benchView, type RunEvent, runIndex } from '@kestfog/core/bench';
import { type DryingState, dryingStates } from '@kestfog/core/drying';
import type { Plan } from '@kestfog/core/formats';
import { anyKitchen, judge, type Kitchen, slower, truthOf } from '@kestfog/core/rehearsal';
import { seededRng } from '@kestfog/core/time';
import type { TaskId } from '@kestfog/core/units';
import { useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { usePlan } from '../api/queries.js';
import { Bench } from '../features/bench/Bench.js';
import { Feel } from '../features/rehearsal/Feel.js';
import { type KeptRehearsal, keyOfRehearsal, SPEEDS, useRehearsal } from '../features/rehearsal/use-rehearsal.js';
import { VerdictView } from '../features/rehearsal/VerdictView.js';
import { Choice } from '../ui/Choice.js';
import { FinishDefs } from '../ui/FinishDefs.js';
import { Loading, Notice } from '../ui/Notice.js';
import { NumberField, readNumber } from '../ui/NumberField.js';
import { useTitle } from '../ui/use-title.js';

/** How icing behaves in the rehearsal, as words say it; what it really is on each cookie stays hidden. */
const KITCHENS = {
  believed: 'as the plan believes',
  slow: 'a damp one, slower by a third',
  fast: 'a dry one, quicker by a quarter',
  any: 'one you do not know',
} as const;
type KitchenId = keyof typeof KITCHENS;
const MOST_SEED = 9999;

function kitchenOf(id: KitchenId, plan: Plan, seed: number): Kitchen {
  switch (id) {
    case 'believed':
      return {
        all: 0,
        own: Object.fromEntries(dryingStates.map((s): [DryingState, number] => [s, plan.factors[s].mean])),
        whole: plan.factors.firm.mean,
      };
    case 'slow':
      return slower(4 / 3);
    case 'fast':
      return slower(3 / 4);
    case 'any':
      return anyKitchen(seededRng(seed));
  }
}

/** Any plan played without sugar: the real bench, on icing of which only the rehearsal knows how it behaves. */
export function RehearsalPage() {
  const { orderId = '' } = useParams();
  const plan = usePlan(orderId);
  useTitle(plan.data ? `Rehearsal of ${plan.data.orderName}` : null);
  if (plan.isError && !plan.data)
    return (
      <div className="p-8">
        <Notice title="There is nothing to rehearse" tone="closing">
          {plan.error.message}{' '}
          <Link to={`/orders/${orderId}`} className="link">
            To the order
          </Link>
        </Notice>
      </div>
    );
  if (!plan.data) return <Loading what="laying out the trays" />;
  return (
    <>
      <FinishDefs />
      <Rehearsed key={plan.data.id} plan={plan.data.plan} orderId={orderId} name={plan.data.orderName} />
    </>
  );
}

function Rehearsed({ plan, orderId, name }: { readonly plan: Plan; readonly orderId: string; readonly name: string }) {
  const [kept] = useState(() => readKept(orderId));
  const [going, setGoing] = useState<(Pick<KeptRehearsal, 'seed' | 'kitchen'> & { readonly round: number }) | null>(kept && { ...kept, round: 0 });
  const [kitchen, setKitchen] = useState<KitchenId>('believed');
  const [seedText, setSeedText] = useState('1');
  const seed = readNumber(seedText, 1, MOST_SEED, 'The evening', '');
  if (going)
    return (
      <Going
        key={going.round}
        plan={plan}
        orderId={orderId}
        name={name}
        seed={going.seed}
        kitchen={going.kitchen as KitchenId}
        kept={going.round === 0 ? kept : null}
        onAgain={() => {
          sessionStorage.removeItem(keyOfRehearsal(orderId));
          setGoing({ ...going, round: going.round + 1 });
        }}
        onLeave={() => {
          sessionStorage.removeItem(keyOfRehearsal(orderId));
          setGoing(null);
        }}
      />
    );
  return (
    <main className="max-w-3xl mx-auto px-6 py-10 text-xl grid gap-6">
      <p>
        <Link to={`/orders/${orderId}`} className="link link-hover">
          {name}
        </Link>
      </p>
      <h1 className="text-[44px] leading-tight font-semibold">Rehearsal</h1>
      <p>
        The real bench, on simulated icing: floods level, skin and crust, a neighbour too early runs together, a pen too early pokes through. Nothing of it is
        kept: not in the log, not in what is learned, not in the stock.
      </p>
      <div className="grid gap-2">
        <span>the kitchen</span>
        <Choice
          label="the kitchen"
          size="min-h-16 text-xl"
          value={kitchen}
          options={(Object.keys(KITCHENS) as KitchenId[]).map((id) => ({ id, label: KITCHENS[id] }))}
          onChange={setKitchen}
        />
      </div>
      <NumberField label="the evening, by its number: the same number is the same icing" text={seedText} typed={seed} onText={setSeedText} />
      <button
        type="button"
        className="btn btn-primary min-h-16 text-2xl justify-self-start"
        disabled={'problem' in seed}
        onClick={() => 'value' in seed && setGoing({ seed: Math.round(seed.value), kitchen, round: 1 })}
      >
        To the bench
      </button>
    </main>
  );
}

interface GoingProps {
  readonly plan: Plan;
  readonly orderId: string;
  readonly name: string;
  readonly seed: number;
  readonly kitchen: KitchenId;
  readonly kept: KeptRehearsal | null;
  readonly onAgain: () => void;
  readonly onLeave: () => void;
}
function Going({ plan, orderId, name, seed, kitchen, kept, onAgain, onLeave }: GoingProps) {
  const { bench, speed, setSpeed, jumpTo, backTo, events } = useRehearsal(plan, orderId, name, kept);
  const truth = useMemo(() => truthOf(kitchenOf(kitchen, plan, seed), seed), [kitchen, plan, seed]);
  const [feeling, setFeeling] = useState<TaskId | null>(null);
  const { state, nowMs } = bench;
  const index = state ? runIndex(state) : null;
  const view = index ? benchView(index, nowMs, null) : null;
  useEffect(() => {
    const rest: KeptRehearsal = { seed, kitchen, events, nowMs };
    try {
      sessionStorage.setItem(keyOfRehearsal(orderId), JSON.stringify(rest));
    } catch {
      // A window that keeps nothing: a reload begins anew.
    }
  }, [seed, kitchen, events, nowMs, orderId]);
  const verdict = useMemo(() => (state?.finished ? judge(plan, events, truth) : null), [state?.finished, plan, events, truth]);
  if (!index || !view) return null;
  if (verdict) return <VerdictView index={index} verdict={verdict} orderId={orderId} onBackTo={backTo} onAgain={onAgain} />;
  const now = view.now;
  const waitMs = now && view.waiting ? now.startMs : null;
  return (
    <>
      <div className="bg-base-200 px-4 md:px-6 py-2 flex flex-wrap items-center gap-x-5 gap-y-2 text-lg">
        <b title={`${KITCHENS[kitchen]}, evening ${seed}`}>Rehearsal: nothing is kept</b>
        <button type="button" className="btn min-h-11" disabled={!now} onClick={() => now && setFeeling(now.task.id)}>
          Put a finger to it
        </button>
        <button type="button" className="btn min-h-11" disabled={waitMs === null} onClick={() => waitMs !== null && jumpTo(waitMs)}>
          Skip the wait
        </button>
        <span className="grow" />
        <Choice
          label="how fast the clock runs"
          size="btn-sm min-h-11"
          value={String(speed)}
          options={SPEEDS.map((s) => ({ id: String(s), label: s === 0 ? 'stopped' : `${s} ×` }))}
          onChange={(s) => setSpeed(Number(s) as typeof speed)}
        />
        <button type="button" className="btn btn-ghost min-h-11" onClick={onLeave}>
          Leave it
        </button>
      </div>
      <Bench bench={bench} />
      {feeling && <Feel bench={bench} index={index} taskId={feeling} truth={truth} onClose={() => setFeeling(null)} />}
    </>
  );
}

function readKept(orderId: string): KeptRehearsal | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(keyOfRehearsal(orderId)) ?? 'null') as KeptRehearsal | null;
    return kept && Array.isArray(kept.events) && kept.kitchen in KITCHENS ? { ...kept, events: kept.events as readonly RunEvent[] } : null;
  } catch {
    return null;
  }
}
