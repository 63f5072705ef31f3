import { Link, useParams } from 'react-router';
import { Bench } from '../features/bench/Bench.js';
import { useRun } from '../features/bench/use-run.js';
import { FinishDefs } from '../ui/FinishDefs.js';
import { Loading, Notice } from '../ui/Notice.js';
import { useTitle } from '../ui/use-title.js';

export function BenchPage() {
  const { runId = '' } = useParams();
  const bench = useRun(runId);
  useTitle(bench.run ? `Bench of ${bench.run.orderName}` : null);
  return (
    <>
      <FinishDefs />
      {!bench.run && (
        <div className="p-10">
          {bench.failure ? (
            <Notice title="The bench cannot be opened" tone="closing">
              {bench.failure}{' '}
              <button type="button" className="link" onClick={bench.retry}>
                Try again
              </button>{' '}
              <Link to="/orders" className="link">
                Back to the orders
              </Link>
            </Notice>
          ) : (
            <Loading what="setting up the bench" />
          )}
        </div>
      )}
      <Bench bench={bench} />
    </>
  );
}
