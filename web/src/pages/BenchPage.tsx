import { msg } from '@kestfog/core/words';
import { useParams } from 'react-router';
import { Bench } from '../features/bench/Bench.js';
import { NoRun } from '../features/bench/NoRun.js';
import { useRun } from '../features/bench/use-run.js';
import { FinishDefs } from '../ui/FinishDefs.js';
import { useTitle } from '../ui/use-title.js';

export function BenchPage() {
  const { runId = '' } = useParams();
  const bench = useRun(runId);
  useTitle(bench.run ? msg`Bench of ${bench.run.orderName}` : null);
  return (
    <>
      <FinishDefs />
      {!bench.run && (
        <NoRun title={msg`The bench cannot be opened`} failure={bench.failure} waiting={msg`setting up the bench`} onRetry={bench.retry} />
      )}
      <Bench bench={bench} />
    </>
  );
}
