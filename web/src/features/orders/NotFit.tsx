import type { Plan } from '@kestfog/core/formats';
import type { OrderFileView, OrderView } from '@kestfog/core/wire';
import { lateText } from '@kestfog/core/wording';
import { msg } from '@kestfog/core/words';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { fetchDesign, keepDesign, useOrderFile } from '../../api/queries.js';
import { useServerNowMs } from '../../api/use-server-now.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Loading, Notice } from '../../ui/Notice.js';
import type { Fit } from '../../workers/plan.worker.js';
import { fitBeside } from '../../workers/plan-client.js';
import { useBeside } from '../../workers/use-beside.js';
import { beginsBefore, inputFromFile, isOwnChange } from './fit.js';

interface Props {
  readonly order: OrderView;
  /** the best plan found, which is late */
  readonly plan: Plan;
  readonly busy: boolean;
  /** takes the order as it would be, and plans it */
  readonly onTake: (input: ReturnType<typeof inputFromFile>) => void;
}

/** An order that does not fit, and what would make it fit: tried out beside the page, the least costly first. */
export function NotFit({ order, plan, busy, onTake }: Props) {
  const file = useOrderFile(order, true);
  return (
    <div className="grid gap-5">
      <Notice title={plan.late?.proven ? msg`It does not fit` : msg`It does not fit, as far as was found`} tone="closing">
        {msgNodes`${lateText(plan)} It can be worked all the same, by the plan below.`}
      </Notice>
      {file.data && <Suggestions key={JSON.stringify(file.data.order)} order={order} file={file.data} busy={busy} onTake={onTake} />}
      {file.isError && <p className="text-lg">{file.error.message}</p>}
    </div>
  );
}

function Suggestions({
  order,
  file,
  busy,
  onTake,
}: {
  readonly order: OrderView;
  readonly file: OrderFileView;
  readonly busy: boolean;
  readonly onTake: Props['onTake'];
}) {
  const [progress, setProgress] = useState('');
  const [refused, setRefused] = useState<string | null>(null);
  const documents = useQuery({
    queryKey: ['order-documents', order.designs.map((d) => `${d.designId} ${d.version}`)],
    // A join is suggested only for a design as it is now: an older version is kept as it was ordered.
    queryFn: () =>
      Promise.all(order.designs.map(async (d) => (d.version === d.latest && !d.guestOf ? (await fetchDesign(d.designId)).document : null))),
  });
  const fit = useBeside(documents.data ? msg`fit ${order.id} ${JSON.stringify(file.order)}` : null, () =>
    fitBeside(file.order, file.drawings, documents.data ?? [], setProgress),
  );
  const nowMs = useServerNowMs();
  // What would have to have begun already helps nobody.
  const offered = (fit.value ?? []).filter((f) => isOwnChange(order, f.order) && !beginsBefore(f.order, file.order, nowMs));
  const take = async (f: Fit) => {
    setRefused(null);
    const input = inputFromFile(order, f.order);
    const changed = f.changedDesign === undefined ? undefined : order.designs[f.changedDesign];
    if (!f.edits || !changed) return onTake(input);
    try {
      const now = await fetchDesign(changed.designId);
      const kept = await keepDesign(changed.designId, [...now.document.edits, ...f.edits]);
      onTake({ ...input, designs: input.designs.map((d, i) => (i === f.changedDesign ? { ...d, version: kept.version } : d)) });
    } catch (error) {
      setRefused(error instanceof Error ? error.message : String(error));
    }
  };
  if (documents.isPending || fit.pending)
    return <Loading what={progress ? msg`looking for what would make it fit: ${progress}` : msg`looking for what would make it fit`} />;
  const failure = fit.failure ?? documents.error?.message ?? refused;
  return (
    <section aria-label={msg`What would make it fit`}>
      <h2 className="text-2xl font-semibold mb-2">{msg`What would make it fit`}</h2>
      {failure && (
        <p role="alert" className="text-error font-medium text-lg">
          {failure}
        </p>
      )}
      {offered.length === 0 && !failure && (
        <p className="text-lg">
          {msg`Nothing that was tried does, alone or two together: a fan, a dehydrator, an earlier start, a longer last day, a bolder
            margin, a second pair of hands; nor plainer or fewer cookies. Give it another day, or take fewer designs.`}
        </p>
      )}
      <ol className="divide-y divide-base-300 border-y border-base-300 max-w-4xl">
        {offered.map((f) => (
          <li key={f.kind + f.text} className="py-3 grid grid-cols-[1fr_auto] gap-4 items-center">
            <div>
              <p className="text-xl font-medium">{f.text.charAt(0).toUpperCase() + f.text.slice(1)}</p>
              <p className="text-lg opacity-80">{msgNodes`costs ${f.cost}`}</p>
            </div>
            <button type="button" className="btn btn-lg" disabled={busy} aria-label={msg`Do it: ${f.text}`} onClick={() => void take(f)}>
              {msg`Do it`}
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}
