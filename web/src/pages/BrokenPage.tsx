import { msg } from '@kestfog/core/words';
import { useRouteError } from 'react-router';
import { msgNodes } from '../ui/msg-nodes.js';
import { Notice } from '../ui/Notice.js';
import { useTitle } from '../ui/use-title.js';

/** How browsers say that a part of the page could not be fetched. */
const NOT_FETCHED = /dynamically imported module|importing a module script failed/i;

/** Shown where a place could not be fetched, or drawing it failed; the log at the server is untouched by that. */
export function BrokenPage() {
  const error = useRouteError();
  const notFetched = error instanceof Error && NOT_FETCHED.test(error.message);
  useTitle(msg`Broken`);
  return (
    <div className="p-10">
      <Notice title={notFetched ? msg`This place could not be fetched` : msg`This page could not be drawn`} tone="closing">
        {msgNodes`${notFetched && msg`The server does not answer, or Kestfog was renewed on it meanwhile. `}Nothing that was kept is lost.
          `}
        <button type="button" className="link" onClick={() => location.reload()}>
          {msg`Load it again`}
        </button>
        {msg` or `}
        <a href="/orders" className="link">
          {msg`go back to the orders`}
        </a>
        .
      </Notice>
    </div>
  );
}
