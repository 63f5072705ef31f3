import { type Plan, planIndex } from '@kestfog/core/formats';
import {
  believedKitchen,
  type Evenings,
  type Kitchen,
  type Proof,
  playEvening,
  slower,
  TRUSTING,
  truthOf,
  type WorstMoment,
} from '@kestfog/core/rehearsal';
import { defectById } from '@kestfog/core/steps';
import { seededRng } from '@kestfog/core/time';
import { msg } from '@kestfog/core/words';
import { type ReactNode, useState } from 'react';
import { Link, useParams } from 'react-router';
import { usePlan } from '../api/queries.js';
import { Going, readKept } from '../features/rehearsal/Going.js';
import type { KeptRehearsal } from '../features/rehearsal/use-rehearsal.js';
import { percent } from '../text/amounts.js';
import { dayClock } from '../text/time.js';
import { Choice } from '../ui/Choice.js';
import { FinishDefs } from '../ui/FinishDefs.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { Loading, Notice } from '../ui/Notice.js';
import { NumberField, readNumber } from '../ui/NumberField.js';
import { RunsGoing } from '../ui/RunsGoing.js';
import { useTitle } from '../ui/use-title.js';
import { type Beside, eveningsBeside, proofBeside } from '../workers/plan-client.js';
import { useBeside } from '../workers/use-beside.js';

/** How icing behaves in the rehearsal, as words say it; what it really is on each cookie stays hidden. */
const KITCHENS = {
  believed: msg`as the plan believes`,
  slow: msg`a damp one, slower by a third`,
  fast: msg`a dry one, quicker by a quarter`,
  any: msg`one you do not know`,
} as const;
type KitchenId = keyof typeof KITCHENS;
const MOST_SEED = 9999;

function kitchenOf(id: KitchenId, plan: Plan, seed: number): Kitchen {
  switch (id) {
    case 'believed':
      return believedKitchen(plan.factors);
    case 'slow':
      return slower(4 / 3);
    case 'fast':
      return slower(3 / 4);
    case 'any':
      return believedKitchen(plan.factors, seededRng(seed));
  }
}

/** Any plan played without sugar: the real bench, on icing of which only the rehearsal knows how it behaves. */
export function RehearsalPage() {
  const { orderId = '' } = useParams();
  const plan = usePlan(orderId);
  useTitle(plan.data ? msg`Rehearsal of ${plan.data.orderName}` : null);
  if (plan.isError && !plan.data)
    return (
      <div className="p-8">
        <Notice title={msg`There is nothing to rehearse`} tone="closing">
          {plan.error.message}{' '}
          <Link to={`/orders/${orderId}`} className="link">
            {msg`To the order`}
          </Link>
        </Notice>
      </div>
    );
  if (!plan.data) return <Loading what={msg`laying out the trays`} />;
  return (
    <>
      <FinishDefs />
      <RunsGoing />
      <Rehearsed key={plan.data.id} plan={plan.data.plan} orderId={orderId} name={plan.data.orderName} />
    </>
  );
}

function Rehearsed({ plan, orderId, name }: { readonly plan: Plan; readonly orderId: string; readonly name: string }) {
  const [kept, setKept] = useState(() => readKept(orderId, Object.keys(KITCHENS)));
  const [going, setGoing] = useState<(Pick<KeptRehearsal, 'seed' | 'kitchen'> & { readonly round: number }) | null>(
    kept && { ...kept, round: 0 },
  );
  const [kitchen, setKitchen] = useState<KitchenId>('believed');
  const [seedText, setSeedText] = useState('1');
  const seed = readNumber(seedText, 1, MOST_SEED, msg`The evening`, '');
  if (going)
    return (
      <Going
        key={going.round}
        plan={plan}
        keptAs={orderId}
        home={{ to: `/orders/${orderId}`, label: msg`To the order` }}
        name={name}
        truth={truthOf(kitchenOf(going.kitchen as KitchenId, plan, going.seed), going.seed)}
        seed={going.seed}
        kitchen={going.kitchen}
        kept={going.round === 0 ? kept : null}
        onAgain={() => setGoing({ ...going, round: going.round + 1 })}
        onLeave={() => setGoing(null)}
      />
    );
  return (
    <main className="max-w-3xl mx-auto px-6 py-10 text-xl grid gap-6">
      <p>
        <Link to={`/orders/${orderId}`} className="link link-hover">
          {name}
        </Link>
      </p>
      <h1 className="text-[44px] leading-tight font-semibold">{msg`Rehearsal`}</h1>
      <p>
        {msg`The real bench, on simulated icing: floods level, skin and crust, a neighbour too early runs together, a pen too early pokes
          through. Nothing of it is kept: not in the log, not in what is learned, not in the stock.`}
      </p>
      <div className="grid gap-2">
        <span>{msg`the kitchen`}</span>
        <Choice
          label={msg`the kitchen`}
          size="min-h-16 text-xl"
          value={kitchen}
          options={(Object.keys(KITCHENS) as KitchenId[]).map((id) => ({ id, label: KITCHENS[id] }))}
          onChange={setKitchen}
        />
      </div>
      <NumberField
        label={msg`the evening, by its number: the same number is the same icing`}
        text={seedText}
        typed={seed}
        onText={setSeedText}
      />
      <button
        type="button"
        className="btn btn-primary min-h-16 text-2xl justify-self-start"
        disabled={'problem' in seed}
        onClick={() => 'value' in seed && setGoing({ seed: Math.round(seed.value), kitchen, round: 1 })}
      >
        {msg`To the bench`}
      </button>
      <Thousand
        plan={plan}
        onStepInto={(moment) => {
          // As it was played up to then; from there on it is yours.
          const truth = truthOf(kitchenOf('any', plan, moment.worstSeed), moment.worstSeed);
          const events = playEvening(plan, truth, TRUSTING);
          const begunMs = events.find((e) => e.type === 'taskBegun' && e.data.taskId === moment.taskId)?.atMs ?? 0;
          setKept({ seed: moment.worstSeed, kitchen: 'any', events: events.filter((e) => e.atMs < begunMs), nowMs: begunMs - STEPS_IN_MS });
          setGoing({ seed: moment.worstSeed, kitchen: 'any', round: 0 });
        }}
      />
      <Fifty plan={plan} />
    </main>
  );
}

/** So long before its moment an evening is stepped into. */
const STEPS_IN_MS = 60_000;
const EVENINGS = 1000;
const WORKED_EVENINGS = 50;

interface ManyProps<T> {
  readonly plan: Plan;
  readonly title: string;
  readonly intro: string;
  readonly ask: string;
  readonly begin: (onProgress: (share: number) => void) => Beside<T>;
  readonly children: (value: T) => ReactNode;
}
/** Many evenings of a plan, reckoned beside the page once they are asked for; they can be stopped. */
function Many<T>({ plan, title, intro, ask, begin, children }: ManyProps<T>) {
  const [wanted, setWanted] = useState(false);
  const [done, setDone] = useState(0);
  const { value, pending, failure } = useBeside<T>(wanted ? `${title} ${plan.epoch}` : null, () => begin(setDone));
  return (
    <section aria-label={title} className="grid gap-3">
      <h2 className="text-2xl font-semibold">{title}</h2>
      <p>{intro}</p>
      {!wanted && (
        <button
          type="button"
          className="btn min-h-16 text-xl justify-self-start"
          onClick={() => {
            setDone(0);
            setWanted(true);
          }}
        >
          {ask}
        </button>
      )}
      {pending && (
        <div className="flex flex-wrap items-center gap-4">
          <Loading what={msg`so far ${percent(done)} of them`} />
          <button type="button" className="btn min-h-16 text-xl" onClick={() => setWanted(false)}>
            {msg`Stop`}
          </button>
        </div>
      )}
      {failure && (
        <Notice title={msg`They could not be reckoned`} tone="closing">
          {failure}
        </Notice>
      )}
      {value && children(value)}
    </section>
  );
}

/** The plan played a thousand times by who goes by the bench alone: how much comes out right, and where it is lost. */
function Thousand({ plan, onStepInto }: { readonly plan: Plan; readonly onStepInto: (moment: WorstMoment) => void }) {
  return (
    <Many<Evenings>
      plan={plan}
      title={msg`A thousand evenings`}
      intro={msg`The bench alone decides, and nobody ever puts a finger to anything: where would cookies be lost?`}
      ask={msg`Play it a thousand times`}
      begin={(onProgress) => eveningsBeside(plan, EVENINGS, onProgress)}
    >
      {(v) => (
        <>
          <p>
            {msgNodes`${<b>{percent(v.saved)}</b>} of the cookies come out right, in one evening of ten ${percent(v.savedInTen)} or less;
              nothing at all comes wrong in ${percent(v.whole)} of the evenings.`}
          </p>
          {v.worst.length > 0 && <h3 className="text-xl font-semibold">{msg`Where most are lost`}</h3>}
          <ul className="divide-y divide-base-300">
            {v.worst.map((m) => {
              const task = plan.tasks.find((t) => t.id === m.taskId);
              return (
                <li key={`${m.taskId} ${m.seen} ${m.when}`} className="py-2 flex flex-wrap items-center gap-x-4 gap-y-2">
                  <span className="grow basis-80">
                    {msgNodes`${defectById(m.seen).seen}: ${task?.title}, tray ${task?.trayId}; in ${percent(m.share)} of the evenings`}
                  </span>
                  <button type="button" className="btn min-h-11" onClick={() => onStepInto(m)}>
                    {msg`Step into the worst`}
                  </button>
                </li>
              );
            })}
          </ul>
        </>
      )}
    </Many>
  );
}

const WORKED = [msg`in the planned order`, msg`planned again`] as const;

/** The plan worked at one's own pace with a finger on the icing, in its own order and with a bench that plans again. */
function Fifty({ plan }: { readonly plan: Plan }) {
  const { msOf } = planIndex(plan);
  return (
    <Many<readonly [Proof, Proof]>
      plan={plan}
      title={msg`Fifty evenings, planned again`}
      intro={msg`A finger is put to all icing before it is worked on, hands are quicker or slower than planned, and the bench plans what
        is left again.`}
      ask={msg`Work fifty evenings`}
      begin={(onProgress) => proofBeside(plan, WORKED_EVENINGS, onProgress)}
    >
      {(proofs) => (
        <div className="overflow-x-auto">
          <table className="table text-lg">
            <thead className="text-base text-base-content">
              <tr>
                <th scope="col">{msg`worked`}</th>
                <th scope="col">{msg`in time`}</th>
                <th scope="col">{msg`all packed, in the middle`}</th>
                <th scope="col">{msg`in the latest of ten`}</th>
                <th scope="col">{msg`came out right`}</th>
              </tr>
            </thead>
            <tbody>
              {proofs.map((proof, i) => (
                <tr key={WORKED[i]} className="whitespace-nowrap">
                  <th scope="row" className="font-normal">
                    {WORKED[i]}
                  </th>
                  <td>{proof.onTime === null ? msg`nothing is due` : percent(proof.onTime)}</td>
                  <td>{dayClock(msOf(proof.endS.median))}</td>
                  <td>{dayClock(msOf(proof.endS.inTen))}</td>
                  <td>{percent(proof.saved)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Many>
  );
}
