import { alertsOf, benchView, runIndex } from '@kestfog/core/bench';
import { msg } from '@kestfog/core/words';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useBenchSettings } from './bench-settings.js';
import { isNoBenchOpen } from './callers.js';
import { useAlarms } from './use-alarms.js';
import { useHands } from './use-hands.js';
import { useRun } from './use-run.js';

/** What a run that goes on calls out, on a page that is not its bench: said, heard, and the way there. */
export function AlarmsElsewhere({ runId }: { readonly runId: string }) {
  const { run, state, nowMs } = useRun(runId);
  const [settings] = useBenchSettings();
  const hands = state?.plan.order.decorators.map((d) => d.id) ?? [];
  const [who] = useHands(runId, hands);
  const [seen, setSeen] = useState<ReadonlySet<string>>(new Set());
  const index = useMemo(() => state && runIndex(state), [state]);
  // Once a second is enough for what is called out by the minute.
  const atMs = Math.floor(nowMs / 1000) * 1000;
  const alerts = useMemo(() => (index && atMs > 0 ? alertsOf(index, benchView(index, atMs, who), atMs) : []), [index, atMs, who]);
  const place = `/runs/${runId}`;
  useAlarms(alerts, settings, { place, mayCall: isNoBenchOpen });
  const shown = alerts.filter((a) => !seen.has(a.id));
  if (!run || shown.length === 0) return null;
  return (
    <section
      aria-label={msg`the bench of ${run.orderName}`}
      className="no-print mx-6 md:mx-10 border-l-8 border-primary px-4 py-2 flex flex-wrap items-center gap-x-6 gap-y-2"
    >
      <p role="alert" className="text-2xl font-semibold grow">
        {shown.map((a) => a.text).join('. ')}
      </p>
      <Link to={place} className="btn btn-primary btn-lg">
        {msg`To the bench`}
      </Link>
      <button type="button" className="btn btn-lg" onClick={() => setSeen(new Set([...seen, ...shown.map((a) => a.id)]))}>
        {msg`Seen`}
      </button>
    </section>
  );
}
