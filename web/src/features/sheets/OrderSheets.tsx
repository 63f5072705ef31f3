import { keptPlan, plansCalendar } from '@kestfog/core/calendar';
import { planTable, type TableKind, tableKinds, type WorkKind, workKinds } from '@kestfog/core/paper';
import { bagsOf } from '@kestfog/core/planning';
import { bagKey } from '@kestfog/core/steps';
import type { Kitchen, OrderView, PlanView } from '@kestfog/core/wire';
import { useMemo, useState } from 'react';
import { useLeftovers, useThinningSteps } from '../../api/queries.js';
import { useClockHours } from '../../app/clock.js';
import { useColourName } from '../../app/colour-names.js';
import { useUnits } from '../../app/units.js';
import { useLooked } from '../../app/use-looked.js';
import { Choice } from '../../ui/Choice.js';
import { fileName, saveFile } from '../../ui/save-file.js';
import type { SheetAsk } from '../../workers/sheet.worker.js';
import { recipeOf } from '../icing/BaseRecipe.js';
import { stillToMixG } from '../icing/leftovers.js';
import { curveOf } from '../icing/thinning-flow.js';
import { Printing } from './Printing.js';
import { Subscription } from './Subscription.js';

const WORDS: Readonly<Record<WorkKind, { readonly label: string; readonly what: string }>> = {
  run: { label: 'run sheet', what: 'The evening by the clock, with a box to tick for each tray: enough to go on from when a tablet dies.' },
  trays: { label: 'tray cards', what: 'What each tray gets, one after the other, to lie beside it.' },
  mixing: { label: 'mixing', what: 'Bowls, water and bags in the order to mix them.' },
  labels: { label: 'bag labels', what: 'To cut apart and tape on: colour, count, opening, what for.' },
  shopping: { label: 'shopping', what: 'Everything that has to be in the house.' },
  boxes: { label: 'box labels', what: 'One for each carton, of the size that stands in Kitchen.' },
  care: { label: 'ingredients', what: 'What is in it and how it keeps, for each design. Local food law decides what must stand there.' },
  offer: { label: 'offer', what: 'What it costs, by your prices in Kitchen.' },
};
const TABLES: Readonly<Record<TableKind, string>> = { plan: 'the plan', bags: 'the bags', waits: 'the waits' };
const isKind = (kind: string): kind is WorkKind => (workKinds as readonly string[]).includes(kind);
/** What the cookie is baked of, as it was last typed on this device. */
const BAKED_OF = 'kestfog.baked-of';

/** Sheets to work from, a calendar and tables of one planned order. */
export function OrderSheets({ order, planned, kitchen }: { readonly order: OrderView; readonly planned: PlanView; readonly kitchen: Kitchen }) {
  const { plan } = planned;
  const [looked, look] = useLooked<'sheet'>();
  const kind: WorkKind = isKind(looked('sheet')) ? (looked('sheet') as WorkKind) : 'run';
  const [units] = useUnits();
  const hours = useClockHours();
  const nameOf = useColourName();
  const leftovers = useLeftovers().list.data;
  const steps = useThinningSteps().list.data;
  const [bakedOf, setBakedOf] = useState(() => localStorage.getItem(BAKED_OF) ?? '');
  // The same water, and the same icing still to mix, as the Icing place says.
  const ask = useMemo((): SheetAsk => {
    const { curve } = curveOf(steps ?? [], kitchen.recipe);
    const toMixG = Object.fromEntries(bagsOf(plan).map((b) => [bagKey(b), stillToMixG(b, leftovers ?? [], order.id)]));
    return {
      kind,
      plan,
      hours,
      units,
      colourNames: kitchen.colourNames,
      kitchen: {
        mix: recipeOf(kitchen),
        prices: kitchen.prices,
        carton: kitchen.carton,
        slope: curve.slope,
        toMixG,
        ...(bakedOf.trim() ? { bakedOf: bakedOf.trim() } : {}),
      },
    };
  }, [kind, plan, hours, units, kitchen, steps, leftovers, order.id, bakedOf]);
  return (
    <Printing ask={ask} name={order.name} trueSize={false} what={WORDS[kind].label}>
      <div className="grid gap-2">
        <Choice label="sheet" value={kind} options={workKinds.map((id) => ({ id, label: WORDS[id].label }))} onChange={(id) => look({ sheet: id })} />
        <p className="text-lg">{WORDS[kind].what}</p>
      </div>
      {kind === 'care' && (
        <label className="grid gap-1">
          <span className="text-lg">what the cookie is baked of</span>
          <textarea
            className="textarea w-full"
            maxLength={400}
            value={bakedOf}
            onChange={(e) => {
              setBakedOf(e.target.value);
              localStorage.setItem(BAKED_OF, e.target.value);
            }}
          />
        </label>
      )}
      <div className="grid gap-2 order-last">
        <h2 className="text-xl font-semibold">For other programs</h2>
        <p className="text-base opacity-85">After another plan, save the calendar again: it moves what it has, and shows nothing twice. Or subscribe to it:</p>
        <Subscription />
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="btn"
            onClick={() =>
              saveFile(fileName(order.name, 'ics'), 'text/calendar', plansCalendar([keptPlan(plan, order.id, Date.parse(planned.createdAt))], order.name))
            }
          >
            Calendar
          </button>
          {tableKinds.map((t) => (
            <button
              key={t}
              type="button"
              className="btn"
              onClick={() => saveFile(fileName(`${order.name} ${t}`, 'csv'), 'text/csv', planTable(plan, t, nameOf))}
            >
              Table of {TABLES[t]}
            </button>
          ))}
        </div>
      </div>
    </Printing>
  );
}
