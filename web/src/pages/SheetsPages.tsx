import type { Design } from '@kestfog/core/design';
import { type GuideAsk, guideLines } from '@kestfog/core/paper';
import type { School } from '@kestfog/core/steps';
import type { DesignView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useDesign, useKitchen, useOrder, usePlan, useSchools } from '../api/queries.js';
import { useKitchenNow } from '../api/use-making.js';
import { freshId } from '../features/designs/fresh-id.js';
import { MOST_STROKES } from '../features/designs/piping/tools.js';
import { stepsOf } from '../features/designs/steps-of.js';
import { useEditor } from '../features/designs/use-editor.js';
import { DesignSheets } from '../features/sheets/DesignSheets.js';
import { OrderSheets } from '../features/sheets/OrderSheets.js';
import { Printing } from '../features/sheets/Printing.js';
import { Loading, Notice } from '../ui/Notice.js';
import { OrderHead } from '../ui/OrderHead.js';
import { useSteady } from '../ui/use-steady.js';
import { useTitle } from '../ui/use-title.js';

/** Paper, a calendar and tables of one order. */
export function OrderSheetsPage() {
  const { orderId = '' } = useParams();
  const order = useOrder(orderId);
  const plan = usePlan(orderId);
  const kitchen = useKitchen();
  useTitle(order.data ? msg`Sheets of ${order.data.name}` : null);
  const failure = order.error ?? kitchen.error;
  if (failure && !order.data)
    return <Missing title={msg`The sheets could not be made`} text={failure.message} to="/orders" back={msg`Back to the orders`} />;
  if (!order.data || !kitchen.data || plan.isPending) return <Loading what={msg`getting the order`} />;
  return (
    <>
      <OrderHead order={order.data} title={msg`Sheets`} />
      {plan.data && order.data.plan?.stale && (
        <div className="mb-5">
          <Notice title={msg`The order was changed since it was planned`} tone="closing">
            {msg`What is printed here is the plan from before. `}
            <Link to={`/orders/${orderId}`} className="link">
              {msg`Plan it again`}
            </Link>
          </Notice>
        </div>
      )}
      {plan.data ? (
        <OrderSheets order={order.data} planned={plan.data} kitchen={kitchen.data} />
      ) : (
        <Notice title={msg`There is nothing to print yet`} tone="closing">
          {plan.error?.message ?? msg`The order has no plan.`}{' '}
          <Link to={`/orders/${orderId}`} className="link">
            {msg`Plan it first`}
          </Link>
        </Notice>
      )}
    </>
  );
}

/** Lines of a guide as they are shown on the cookie: a colour no icing is needed for. */
const GUIDE_COLOUR = '#c9b400';

/** Paper of true size for one design. */
export function DesignSheetsPage() {
  const { designId = '' } = useParams();
  const design = useDesign(designId);
  const schools = useSchools();
  useTitle(design.data ? msg`Sheets of ${design.data.name}` : null);
  const school = schools.data?.find((s) => s.id === 'two-bags') ?? schools.data?.[0];
  if (design.isError && !design.data)
    return <Missing title={msg`The design could not be read`} text={design.error.message} to="/designs" back={msg`Back to the designs`} />;
  if (!design.data || !school) return <Loading what={msg`getting the design`} />;
  return (
    <>
      <p className="pt-2 text-lg">
        <Link to={`/designs/${designId}`} className="link link-hover">
          {design.data.name}
        </Link>
      </p>
      <h1 className="text-4xl font-semibold mb-5">{msg`Sheets`}</h1>
      <SheetsOf key={design.data.id} view={design.data} school={school} />
    </>
  );
}

/** Worked on like everywhere: what waits on this device to be sent is printed as well, and a guide becomes an edit. */
function SheetsOf({ view, school }: { readonly view: DesignView; readonly school: School }) {
  const { tips } = useKitchenNow();
  const editor = useEditor(
    view,
    useSteady((d: Design) => void stepsOf(d, school, tips)),
  );
  const { design } = editor;
  const [said, setSaid] = useState<string | null>(null);
  const addGuide = (guide: GuideAsk, name: string) => {
    const id = freshId('guide');
    const strokes = guideLines(design, guide, design.cookie).map((points) => ({ points, closed: false }));
    if (strokes.length === 0 || strokes.length > MOST_STROKES)
      return setSaid(msg`That would be ${strokes.length} lines, and one part holds 1 to ${MOST_STROKES}: choose another distance.`);
    const made = editor.apply(
      {
        type: 'draw',
        id,
        name: msg`guide: ${name}`,
        technique: 'guide',
        strokes,
        area: false,
        layer: false,
        colour: GUIDE_COLOUR,
        widthMm: 0.4,
      },
      { type: 'say', part: id, said: { guide: 'sheet' } },
    );
    setSaid(made ? msg`The design has a step for it now: lay the sheet beneath before what it guides.` : null);
  };
  const told = editor.problem ?? said;
  return (
    <>
      {told && (
        <p role={editor.problem ? 'alert' : 'status'} className="text-lg border-l-4 border-primary pl-3 mb-4">
          {told}
        </p>
      )}
      <DesignSheets design={design} school={school} onGuide={addGuide} />
    </>
  );
}

/** Circles that are traced round, mm: *assumed*, common sizes of couplers, wheels and small cutters. */
const CIRCLES_MM = [10, 20, 24, 30, 40, 50] as const;

/** Bars, circles and marks to hold beads, openings and dough against. */
export function GaugesPage() {
  const kitchen = useKitchen();
  useTitle(msg`Gauges`);
  const tips = kitchen.data?.tips;
  const ask = useMemo(() => (tips ? ({ kind: 'gauges', tips, circlesMm: CIRCLES_MM } as const) : null), [tips]);
  if (!kitchen.data) return <Loading what={msg`getting the kitchen`} />;
  return (
    <>
      <p className="pt-2 text-lg">
        <Link to="/kitchen" className="link link-hover">
          {msg`Kitchen`}
        </Link>
      </p>
      <h1 className="text-4xl font-semibold mb-5">{msg`Gauges`}</h1>
      <Printing ask={ask} name="Kestfog" trueSize what="gauges">
        <p className="text-lg">{msg`Bars as thick as beads, the openings of your tips, circles to trace round, heights for dough.`}</p>
      </Printing>
    </>
  );
}

function Missing({ title, text, to, back }: { readonly title: string; readonly text: string; readonly to: string; readonly back: string }) {
  return (
    <div className="pt-10">
      <Notice title={title} tone="closing">
        {text}{' '}
        <Link to={to} className="link">
          {back}
        </Link>
      </Notice>
    </div>
  );
}
