import { msg } from '@kestfog/core/words';
import { Link } from 'react-router';
import { Loading, Notice } from '../../ui/Notice.js';

/** In place of a run that is not there yet, or cannot be fetched: why, and the ways on. */
export function NoRun({
  title,
  failure,
  waiting,
  onRetry,
}: {
  readonly title: string;
  readonly failure: string | null;
  readonly waiting: string;
  readonly onRetry: () => void;
}) {
  return (
    <div className="p-10">
      {failure ? (
        <Notice title={title} tone="closing">
          {failure}{' '}
          <button type="button" className="link" onClick={onRetry}>
            {msg`Try again`}
          </button>{' '}
          <Link to="/orders" className="link">
            {msg`Back to the orders`}
          </Link>
        </Notice>
      ) : (
        <Loading what={waiting} />
      )}
    </div>
  );
}
