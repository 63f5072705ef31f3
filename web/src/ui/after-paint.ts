/** Where nothing is painted, as on a page that is hidden, it is not waited for longer than this, ms. */
const AT_LATEST_MS = 250;

/** Does something once, after the next picture is on the screen; before the page goes away in any case. */
export function afterPaint(work: () => void): void {
  let isDone = false;
  const once = () => {
    if (isDone) return;
    isDone = true;
    window.removeEventListener('pagehide', once);
    work();
  };
  window.addEventListener('pagehide', once);
  requestAnimationFrame(() => setTimeout(once));
  setTimeout(once, AT_LATEST_MS);
}
