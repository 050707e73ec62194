import { Keyboard, Moon, Sun, Thermometer } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, Outlet, useLocation, useMatch, useNavigate, useParams } from 'react-router';
import { degreesChosen, themeChosen } from '../data/settings.ts';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { KeysDialog } from './KeysDialog.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { StationSpine } from './StationSpine.tsx';
import { StopKeeper } from './StopKeeper.tsx';

function ThemeButton() {
  const dispatch = useAppDispatch();
  useAppSelector((state) => state.settings.theme);
  const dark = document.documentElement.dataset.theme === 'dark';
  return (
    <button
      type="button"
      className="inline-flex items-center gap-2 py-1 text-soft hover:text-ink lg:py-[0.2rem]"
      onClick={() => dispatch(themeChosen(dark ? 'light' : 'dark'))}
    >
      {dark ? <Sun size={15} aria-hidden /> : <Moon size={15} aria-hidden />} {dark ? 'Light' : 'Dark'}
    </button>
  );
}

function DegreesButton() {
  const dispatch = useAppDispatch();
  const degrees = useAppSelector((state) => state.settings.degrees);
  const next = degrees === 'C' ? 'F' : 'C';
  return (
    <button
      type="button"
      className="inline-flex items-center gap-2 py-1 text-soft hover:text-ink lg:py-[0.2rem]"
      aria-label={`Show results in °${next}`}
      onClick={() => dispatch(degreesChosen(next))}
    >
      <Thermometer size={15} aria-hidden /> °{degrees}
    </button>
  );
}

/** What belongs to the bench and not to one study. */
const BENCH = [
  { to: '/', label: 'All studies' },
  { to: '/runs', label: 'All runs' },
  { to: '/search', label: 'Search' },
  { to: '/scratch', label: 'Scratch sheet' },
  { to: '/practice', label: 'Practice' },
  { to: '/words', label: 'Words' },
  { to: '/bench', label: 'Bench' },
  { to: '/instruments', label: 'Instruments' },
  { to: '/limits', label: 'Limits' },
];

/** Spine at the left, page at the right, the same on every screen. */
export function Frame() {
  const [keysOpen, setKeysOpen] = useState(false);
  const { studyId } = useParams();
  const { pathname, search } = useLocation();
  const onRun = useMatch('/studies/:studyId/run/:runId') !== null;
  const arm = onRun && new URLSearchParams(search).get('view') === 'arm';
  const navigate = useNavigate();
  useKeys({ keys: () => setKeysOpen(true), search: () => void navigate('/search') }, { anyModifier: true });
  useEffect(() => {
    scrollTo(0, 0);
  }, [pathname]);
  return (
    <>
      <StopKeeper />
      {/* At arm's length the page alone is shown, in the same place of the tree: a run that is followed must not begin anew. */}
      <div className={arm ? '' : 'min-h-screen lg:grid lg:grid-cols-[7.6rem_minmax(0,1fr)] print:!block'}>
        {arm ? null : (
          <a href="#sheet" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-lift focus:p-2">
            Skip to the page
          </a>
        )}
        {arm ? null : (
          <header className="no-print flex flex-wrap items-center gap-x-6 gap-y-1 px-5 pt-4 lg:sticky lg:top-0 lg:h-screen lg:overflow-y-auto lg:flex-col lg:flex-nowrap lg:items-stretch lg:px-0 lg:pb-4 lg:pl-6 lg:pt-6">
            <Link to="/" className="font-semibold leading-tight no-underline">
              Red <span className="text-ember-text lg:block">Ember</span>
            </Link>
            {studyId ? <StationSpine studyId={studyId} /> : null}
            <div className="flex flex-wrap gap-x-4 text-[0.87rem] lg:mt-auto lg:flex-col lg:pt-3">
              {BENCH.filter(({ to }) => to !== pathname).map(({ to, label }) => (
                <Link key={to} to={to} className="py-1 text-soft no-underline hover:text-ink lg:py-[0.2rem]">
                  {label}
                </Link>
              ))}
              <button
                type="button"
                className="inline-flex items-center gap-2 py-1 text-soft hover:text-ink lg:py-[0.2rem]"
                onClick={() => setKeysOpen(true)}
              >
                <Keyboard size={15} aria-hidden /> Keys
              </button>
              <DegreesButton />
              <ThemeButton />
            </div>
          </header>
        )}
        <Outlet />
        <KeysDialog open={keysOpen} onClose={() => setKeysOpen(false)} />
      </div>
    </>
  );
}
