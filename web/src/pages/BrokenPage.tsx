import { Notice } from '../ui/Notice.js';

/** Shown where drawing a page failed; the log at the server is untouched by that. */
export function BrokenPage() {
  return (
    <div className="p-10">
      <Notice title="This page could not be drawn" tone="closing">
        Nothing that was kept is lost.{' '}
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
