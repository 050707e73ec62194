import { Link, useLocation } from 'react-router';
import { tourWalked } from '../data/settings.ts';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { STATION_NAMES, STATIONS } from '../frame/stations.ts';
import { TOUR } from './tour.ts';

/** While a study is walked through: what this station is for, and the way to the next. */
export function TourBanner({ studyId }: { studyId: string }) {
  const dispatch = useAppDispatch();
  const walked = useAppSelector((state) => state.settings.tour);
  const { pathname } = useLocation();
  const at = STATIONS.findIndex((station) => pathname.startsWith(`/studies/${studyId}/${station}`));
  if (walked !== studyId || at < 0) return null;
  const station = STATIONS[at]!;
  const [before, after] = [STATIONS[at - 1], STATIONS[at + 1]];
  const end = (words: string) => (
    <button type="button" className="underline" onClick={() => dispatch(tourWalked(''))}>
      {words}
    </button>
  );
  return (
    <section
      aria-label="Tour"
      className="no-print flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-rule bg-shade px-5 py-2 text-[0.93rem] lg:px-8"
    >
      <p className="max-w-prose flex-1 basis-80">
        <strong className="font-semibold">
          {STATION_NAMES[station]}, {at + 1} of {STATIONS.length}.
        </strong>{' '}
        {TOUR[station]}
      </p>
      {before ? <Link to={`/studies/${studyId}/${before}`}>Back to {STATION_NAMES[before]}</Link> : null}
      {after ? <Link to={`/studies/${studyId}/${after}`}>On to {STATION_NAMES[after]}</Link> : null}
      {end(after ? 'End the tour' : 'That was all')}
    </section>
  );
}
