import { useRouteError } from 'react-router';
import { Notice } from '../ui/Notice.js';
import { useTitle } from '../ui/use-title.js';

/** How browsers say that a part of the page could not be fetched. */
const NOT_FETCHED = /dynamically imported module|importing a module script failed/i;

/** Shown where a place could not be fetched, or drawing it failed; the log at the server is untouched by that. */
export function BrokenPage() {
  const error = useRouteError();
  const notFetched = error instanceof Error && NOT_FETCHED.test(error.message);
  useTitle('Broken');
  return (
    <div className="p-10">
      <Notice title={notFetched ? 'This place could not be fetched' : 'This page could not be drawn'} tone="closing">
        {notFetched && 'The server does not answer, or Kestfog was renewed on it meanwhile. '}Nothing that was kept is lost.{' '}
        <button type="button" className="link" onClick={() => location.reload()}>
          Load it again
        </button>{' '}
        or{' '}
        <a href="/orders" className="link">
          go back to the orders
        </a>
        .
      </Notice>
    </div>
  );
}
