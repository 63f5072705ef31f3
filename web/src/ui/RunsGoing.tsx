import { lazy, Suspense } from 'react';
import { useGoingRuns } from '../api/queries.js';
import { useStandsIn } from '../features/bench/callers.js';

const MOST_FOLLOWED = 2;

/** Fetched only where some run goes on. */
const AlarmsElsewhere = lazy(async () => ({ default: (await import('../features/bench/AlarmsElsewhere.js')).AlarmsElsewhere }));

/** What is called out at a bench is called out on every page: whoever looks at icing or orders meanwhile hears it. */
export function RunsGoing() {
  const standsIn = useStandsIn();
  // Each is followed over a connection of its own, and a browser has few of them.
  const going = (useGoingRuns(standsIn).data ?? []).slice(0, MOST_FOLLOWED);
  if (!standsIn) return null;
  return (
    <Suspense fallback={null}>
      {going.map((r) => (
        <AlarmsElsewhere key={r.id} runId={r.id} />
      ))}
    </Suspense>
  );
}
