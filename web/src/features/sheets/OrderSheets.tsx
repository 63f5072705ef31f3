import { keptPlan } from '@kestfog/core/calendar';
import { laidOn } from '@kestfog/core/labelling';
import { planTable, type TableKind, tableKinds, type WorkKind, workKinds } from '@kestfog/core/paper';
import { suppliesOf } from '@kestfog/core/stock';
import type { Kitchen, OrderView, PlanView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { amountsOf, useStock } from '../../api/stock.js';
import { useClockHours } from '../../app/clock.js';
import { useColourName } from '../../app/colour-names.js';
import { useUnits } from '../../app/units.js';
import { useLooked } from '../../app/use-looked.js';
import { Choice } from '../../ui/Choice.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';
import { fileName, saveFile } from '../../ui/save-file.js';
import { useKeptForm } from '../../ui/use-kept-form.js';
import type { SheetAsk } from '../../workers/sheet.worker.js';
import { Allergens } from '../kitchen/Allergens.js';
import { InTheHouse } from '../stock/InTheHouse.js';
import { useSupplied } from '../stock/use-supplied.js';
import { DesignSheets } from './DesignSheets.js';
import { calendarFile } from './given-calendar.js';
import { LeftForTheHour } from './LeftForTheHour.js';
import { OwnWords } from './OwnWords.js';
import { Printing } from './Printing.js';
import { Subscription } from './Subscription.js';

const WORDS: Readonly<Record<WorkKind, { readonly label: string; readonly what: string }>> = {
  run: {
    label: msg`run sheet`,
    what: msg`The evening by the clock, with a box to tick for each tray: enough to go on from when a tablet dies.`,
  },
  trays: { label: msg`tray cards`, what: msg`What each tray gets, one after the other, to lie beside it.` },
  mixing: { label: msg`mixing`, what: msg`Bowls, water and bags in the order to mix them.` },
  labels: { label: msg`bag labels`, what: msg`To cut apart and tape on: colour, count, opening, what for.` },
  shopping: { label: msg`shopping`, what: msg`Everything that has to be in the house.` },
  boxes: { label: msg`box labels`, what: msg`One for each carton, of the size that stands in Kitchen.` },
  care: {
    label: msg`ingredients`,
    what: msg`What is in it and how it keeps, for each design. Local food law decides what must stand there.`,
  },
  cards: {
    label: msg`design cards`,
    what: msg`Of each design what makes it come out the same again: icing, counts, openings, waits, cookies at a time.`,
  },
  offer: { label: msg`offer`, what: msg`To give to whoever ordered: what goes into it by your prices, or a price for each cookie.` },
};
const TABLES: Readonly<Record<TableKind, string>> = { plan: msg`the plan`, bags: msg`the bags`, waits: msg`the waits` };
/** Templates, guides and transfers of one design, as it was planned. */
const TRUE_SIZE = 'true-size';
const isKind = (kind: string): kind is WorkKind => (workKinds as readonly string[]).includes(kind);

/** Sheets to work from, a calendar and tables of one planned order. */
export function OrderSheets({
  order,
  planned,
  kitchen,
}: {
  readonly order: OrderView;
  readonly planned: PlanView;
  readonly kitchen: Kitchen;
}) {
  const { plan } = planned;
  const [looked, look] = useLooked<'sheet' | 'design'>();
  const kind: WorkKind = isKind(looked('sheet')) ? (looked('sheet') as WorkKind) : 'run';
  const [units] = useUnits();
  const hours = useClockHours();
  const nameOf = useColourName();
  const supplied = useSupplied(plan, order.id);
  const stock = useStock().data;
  const { form } = useKeptForm({ name: `offer.${order.id}`, begin: () => ({ each: '' }) });
  const each = form.watch('each');
  const asked = each.trim() === '' ? null : readNumber(each, 0, 1000, msg`The price`, kitchen.prices.currency);
  const askedEach = asked && 'value' in asked && asked.value > 0 ? asked.value : null;
  const ask = useMemo(
    (): SheetAsk => ({
      kind,
      plan,
      hours,
      units,
      colourNames: kitchen.colourNames,
      kitchen: {
        ...supplied,
        prices: kitchen.prices,
        bakedOf: kitchen.bakedOf,
        allergens: kitchen.allergens,
        taxLine: kitchen.taxLine,
        stock: amountsOf(stock),
        ...(askedEach === null ? {} : { askedEach }),
      },
    }),
    [kind, plan, hours, units, kitchen, supplied, stock, askedEach],
  );
  const supplies = useMemo(
    () => (kind === 'shopping' && supplied ? suppliesOf(plan, supplied, nameOf) : null),
    [kind, plan, supplied, nameOf],
  );
  const laid = useMemo(
    () =>
      laidOn(
        plan.designs.map((d) => d.drawing),
        nameOf,
      ),
    [plan, nameOf],
  );
  const choice = (value: WorkKind | typeof TRUE_SIZE) => (
    <Choice
      label={msg`sheet`}
      value={value}
      options={[...workKinds.map((id) => ({ id, label: WORDS[id].label })), { id: TRUE_SIZE, label: msg`at true size` }]}
      onChange={(id) => look({ sheet: id })}
    />
  );
  const drawn = plan.designs.find((d) => d.id === looked('design')) ?? plan.designs[0];
  if (looked('sheet') === TRUE_SIZE && drawn)
    return (
      <DesignSheets key={drawn.id} design={drawn.drawing} school={plan.order.school} pieces={drawn}>
        {choice(TRUE_SIZE)}
        <label className="grid gap-1">
          <span className="text-lg">{msg`of the design`}</span>
          <select className="select" value={drawn.id} onChange={(e) => look({ design: e.target.value })}>
            {plan.designs.map((d) => (
              <option key={d.id} value={d.id}>
                {d.drawing.name}
              </option>
            ))}
          </select>
        </label>
      </DesignSheets>
    );
  return (
    <Printing ask={ask} name={order.name} trueSize={false} what={WORDS[kind].label}>
      <div className="grid gap-2">
        {choice(kind)}
        <p className="text-lg">{WORDS[kind].what}</p>
      </div>
      {kind === 'shopping' && supplies && <InTheHouse supplies={supplies} />}
      {kind === 'care' && (
        <>
          <OwnWords what={msg`what the cookie is baked of`} field="bakedOf" most={400} kitchen={kitchen} />
          <Allergens kitchen={kitchen} laid={laid} />
        </>
      )}
      {kind === 'offer' && (
        <>
          <NumberField
            small
            label={msg`one cookie, ${kitchen.prices.currency}`}
            placeholder={msg`as listed`}
            text={each}
            typed={asked ?? { value: 0 }}
            onText={(text) => form.setValue('each', text)}
          />
          <p className="text-lg">
            <Link to="/kitchen#prices" className="link">
              {msg`Prices`}
            </Link>
            {msg` are said once, in Kitchen.`}
          </p>
          <LeftForTheHour plan={plan} kitchen={kitchen} each={askedEach} />
          <OwnWords what={msg`what it says of taxes`} field="taxLine" most={200} kitchen={kitchen} />
        </>
      )}
      <div className="grid gap-2 order-last">
        <h2 className="text-xl font-semibold">{msg`For other programs`}</h2>
        <p className="text-base opacity-85">
          {msg`After another plan, save the calendar again: it moves what it has, takes out what is no longer planned, and shows nothing
            twice. Or subscribe to it:`}
        </p>
        <Subscription />
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="btn"
            onClick={() =>
              saveFile(
                fileName(order.name, 'ics'),
                'text/calendar',
                calendarFile(keptPlan(plan, order.id, Date.parse(planned.createdAt)), order.name),
              )
            }
          >
            {msg`Calendar`}
          </button>
          {tableKinds.map((t) => (
            <button
              key={t}
              type="button"
              className="btn"
              onClick={() => saveFile(fileName(`${order.name} ${t}`, 'csv'), 'text/csv', planTable(plan, t, nameOf))}
            >
              {msgNodes`Table of ${TABLES[t]}`}
            </button>
          ))}
        </div>
      </div>
    </Printing>
  );
}
