import { msg } from '@kestfog/core/words';
import { Moon, Sun } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { Link, NavLink, Outlet, ScrollRestoration } from 'react-router';
import { FinishDefs } from '../ui/FinishDefs.js';
import { KeptSign } from '../ui/KeptSign.js';
import { KeysHelp } from '../ui/KeysHelp.js';
import { LastKnown } from '../ui/LastKnown.js';
import { NewerPage } from '../ui/NewerPage.js';
import { OtherDevices } from '../ui/OtherDevices.js';
import { RunsGoing } from '../ui/RunsGoing.js';
import { useSaid } from '../ui/toasts.js';
import { Arrival } from './Arrival.js';
import { keepTheme, storedTheme, type Theme } from './theme.js';
import { useUnits } from './units.js';

const KEYS = [
  ['O', 'orders'],
  ['N', msg`new order`],
  ['D', 'designs'],
  ['K', 'kitchen'],
  ['J', 'notebook'],
  ['X', 'practice'],
  [msg`Ctrl Z, Ctrl Y`, msg`undo and redo on a design`],
  [msg`T, P`, msg`on a design: to the tools (a letter goes to the next that begins with it), to the part`],
  [msg`1 to 9, M, B, K, E`, msg`while piping: to a ninth of the cookie; left and right; breadth; colour; round the edge`],
  ['L', msg`lamp or fog`],
  ['?', msg`these keys`],
] as const;

const PLACES = [msg`Orders`, msg`Designs`, msg`Kitchen`, msg`Notebook`, msg`Practice`] as const;
const placeClass = ({ isActive }: { isActive: boolean }) =>
  `py-2 whitespace-nowrap ${isActive ? 'underline underline-offset-8 decoration-2' : 'link-hover'}`;

const Toasts = lazy(async () => ({ default: (await import('../ui/Toasts.js')).Toasts }));
/** What was just done; what shows it is fetched when there is something to show. */
function JustSaid() {
  const any = useSaid().length > 0;
  const [asked, setAsked] = useState(false);
  if (any && !asked) setAsked(true);
  return (
    asked && (
      <Suspense>
        <Toasts />
      </Suspense>
    )
  );
}

/** Frame of the places used the evening before; the Bench stands alone. */
export function Shell() {
  const [theme, setTheme] = useState<Theme>(storedTheme());
  const [units, setUnits] = useUnits();
  const swap = () => {
    const next = theme === 'fog' ? 'lamp' : 'fog';
    keepTheme(next);
    setTheme(next);
  };
  return (
    <div className="min-h-screen flex flex-col">
      <FinishDefs />
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:p-3 focus:bg-base-100">
        {msg`Skip to content`}
      </a>
      <header className="no-print flex flex-wrap items-center gap-x-6 px-6 md:px-10 min-h-16">
        <Link to="/orders" className="text-2xl font-semibold tracking-tight">
          {msg`Kestfog`}
        </Link>
        <nav aria-label={msg`Places`} className="flex flex-wrap gap-x-5 text-lg">
          {PLACES.map((place) => (
            <NavLink key={place} to={`/${place.toLowerCase()}`} className={placeClass}>
              {place}
            </NavLink>
          ))}
        </nav>
        {/* Only where there is room for whatever the sign of what is kept may say: a head that wraps moves the cookie under the pen. */}
        <span className="opacity-75 hidden 2xl:inline">{msg`what to pipe, when it is dry, what comes next`}</span>
        <span className="grow" />
        <KeptSign />
        <OtherDevices />
        <button type="button" className="btn btn-ghost" onClick={() => setUnits(units === 'metric' ? 'us' : 'metric')}>
          {units === 'metric' ? msg`°C` : msg`°F`}
          <span className="sr-only">{msg`: change units`}</span>
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-square"
          onClick={swap}
          aria-label={theme === 'fog' ? msg`Lamp: dark kitchen` : msg`Fog: bright kitchen`}
        >
          {theme === 'fog' ? <Moon aria-hidden /> : <Sun aria-hidden />}
        </button>
        <KeysHelp keys={KEYS} onSwapTheme={swap} />
      </header>
      <LastKnown />
      <NewerPage />
      <RunsGoing />
      <Arrival />
      <ScrollRestoration />
      <main id="main" tabIndex={-1} className="grow px-6 md:px-10 pb-12 outline-none">
        <Outlet />
      </main>
      <JustSaid />
    </div>
  );
}
