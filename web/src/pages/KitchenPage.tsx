import { msg } from '@kestfog/core/words';
import { useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { useKitchen } from '../api/queries.js';
import { RecipeForm } from '../features/icing/BaseRecipe.js';
import { OwnCount } from '../features/icing/OwnCount.js';
import { Paces } from '../features/icing/Paces.js';
import { Allergens } from '../features/kitchen/Allergens.js';
import { Archive } from '../features/kitchen/Archive.js';
import { Devices } from '../features/kitchen/Devices.js';
import { FanSetUp } from '../features/kitchen/FanSetUp.js';
import { Schools } from '../features/kitchen/Schools.js';
import { TakeOver } from '../features/kitchen/TakeOver.js';
import { ThisDevice } from '../features/kitchen/ThisDevice.js';
import { Tips } from '../features/kitchen/Tips.js';
import type { FromKitchen } from '../features/kitchen/taken-over.js';
import { UsualWeek } from '../features/kitchen/UsualWeek.js';
import { PricesForm } from '../features/orders/PricesForm.js';
import { UsualBench } from '../features/orders/UsualBench.js';
import { OwnWords } from '../features/sheets/OwnWords.js';
import { Stock } from '../features/stock/Stock.js';
import { Loading, Notice } from '../ui/Notice.js';
import { NotKeptHere } from '../ui/NotKept.js';
import { Sections } from '../ui/Sections.js';
import { useTitle } from '../ui/use-title.js';

const PARTS = [
  ['bench', msg`the usual bench`],
  ['week', msg`the usual week`],
  ['hands', msg`hands and pace`],
  ['fan', msg`fan and dehydrator`],
  ['schools', msg`schools`],
  ['tips', msg`tips`],
  ['allergens', msg`allergens`],
  ['stock', msg`in the house`],
  ['recipe', msg`the recipe`],
  ['count', msg`how I count`],
  ['prices', msg`prices and carton`],
  ['archive', msg`archive`],
  ['devices', msg`devices`],
  ['device', msg`this device`],
] as const;

/** What does not change from order to order, said once. */
export function KitchenPage() {
  useTitle(msg`Kitchen`);
  const kitchen = useKitchen();
  const [change, setChange] = useState<{ readonly before: FromKitchen; readonly after: FromKitchen } | null>(null);
  // Whoever is sent to a part of it comes there once it is drawn.
  const { hash } = useLocation();
  const isThere = kitchen.data !== undefined;
  useEffect(() => {
    if (isThere && hash) document.getElementById(hash.slice(1))?.scrollIntoView();
  }, [isThere, hash]);
  if (kitchen.isError)
    return (
      <Notice title={msg`The kitchen could not be read`} tone="closing">
        {kitchen.error.message}
      </Notice>
    );
  if (!kitchen.data) return <Loading what={msg`looking round the kitchen`} />;
  const k = kitchen.data;
  const changed = (before: FromKitchen, after: FromKitchen) => setChange({ before, after });
  return (
    <>
      <h1 className="text-5xl font-semibold pt-6 pb-4">{msg`Kitchen`}</h1>
      <Sections parts={PARTS} />
      <NotKeptHere place="/kitchen" />
      {change && <TakeOver {...change} onClose={() => setChange(null)} />}
      <div className="grid grid-cols-[minmax(0,1fr)] lg:grid-cols-[repeat(2,minmax(0,1fr))] gap-x-16 gap-y-14 items-start mt-8">
        <div id="bench">
          <UsualBench kitchen={k} onKept={changed} />
        </div>
        <div className="grid grid-cols-[minmax(0,1fr)] gap-14">
          <UsualWeek kitchen={k} />
          <div id="hands">
            <Paces />
          </div>
          <FanSetUp kitchen={k} onKept={changed} />
        </div>
        <Schools />
        <div className="grid grid-cols-[minmax(0,1fr)] gap-14">
          <div className="grid grid-cols-[minmax(0,1fr)] gap-6">
            <Tips kitchen={k} />
            <Link to="/kitchen/gauges" className="link text-lg justify-self-start">
              {msg`Print gauges for tips, beads and dough`}
            </Link>
          </div>
          <section id="allergens" aria-label={msg`Allergens`} className="grid gap-3">
            <h2 className="text-2xl font-semibold">{msg`Allergens`}</h2>
            <OwnWords what={msg`what the cookie is baked of`} field="bakedOf" most={400} kitchen={k} />
            <Allergens kitchen={k} laid={[]} />
          </section>
          <Stock kitchen={k} />
        </div>
        <div className="grid grid-cols-[minmax(0,1fr)] gap-14">
          <section id="recipe" aria-label={msg`Recipe`}>
            <h2 className="text-2xl font-semibold">{msg`The recipe`}</h2>
            <RecipeForm kitchen={k} />
          </section>
          <OwnCount />
          <PricesForm kitchen={k} />
          <Archive />
          <Devices />
          <ThisDevice />
        </div>
      </div>
    </>
  );
}
