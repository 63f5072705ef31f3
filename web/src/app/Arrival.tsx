import { useEffect, useRef, useState } from 'react';
import { useLocation } from 'react-router';

/** A page names itself a moment after it is drawn. */
const NAMED_AFTER_MS = 150;

/** Says where one has come to, and puts the keyboard at the beginning of it. */
export function Arrival() {
  const { pathname } = useLocation();
  const [said, setSaid] = useState('');
  const before = useRef(pathname);
  useEffect(() => {
    // As the page is opened the browser says where it is by itself.
    if (before.current === pathname) return;
    before.current = pathname;
    const main = document.getElementById('main');
    // A page that put the keyboard on the one thing to do keeps it there.
    if (!main?.contains(document.activeElement)) main?.focus({ preventScroll: true });
    const timer = setTimeout(() => setSaid(document.title), NAMED_AFTER_MS);
    return () => clearTimeout(timer);
  }, [pathname]);
  return (
    <span aria-live="polite" className="sr-only">
      {said}
    </span>
  );
}
