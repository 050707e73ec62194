import { useEffect, useState } from 'react';
import { api } from '../data/api.ts';
import { stopHeard, stopSettled, type StopWish } from '../data/stops.ts';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { Button } from '../ui/Button.tsx';

const AGAIN_MS = 1000;
/** A rig confirms within this time where all is well, ms. */
const SOON_MS = 2500;
/** How long it is shown that the load is off, ms: long enough for one who turned to the bench to look back at the screen. */
const SHOWN_MS = 30_000;
/** The server no longer has the run, or has ended it already: there is nothing left to ask for. */
const OVER = new Set<unknown>([404, 409]);

/** Says a Stop again until it is taken, then asks until the rig has confirmed it. */
function useStop({ runId, reason, taken, off }: StopWish): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    if (off) {
      const shown = setTimeout(() => dispatch(stopSettled(runId)), SHOWN_MS);
      return () => clearTimeout(shown);
    }
    let ended = false;
    const press = async () => {
      const { error } = await dispatch(api.endpoints.stopRun.initiate({ id: runId, reason }, { track: false }));
      if (!error || ('status' in error && OVER.has(error.status))) dispatch(stopHeard({ runId, taken: true }));
    };
    const ask = async () => {
      const { data, error } = await dispatch(api.endpoints.runLoad.initiate(runId, { subscribe: false, forceRefetch: true }));
      if (data) dispatch(stopHeard({ runId, off: data.off, connected: data.connected, reportedPercent: data.reportedPercent }));
      else if (error && 'status' in error && OVER.has(error.status)) dispatch(stopSettled(runId));
      // A server that was restarted meanwhile may not know of it: it is said again.
      if (data && !data.ended) dispatch(stopHeard({ runId, taken: false }));
    };
    const go = () => {
      void (taken ? ask() : press()).finally(() => {
        if (!ended) timer = setTimeout(go, AGAIN_MS);
      });
    };
    let timer = setTimeout(go, 0);
    return () => {
      ended = true;
      clearTimeout(timer);
    };
  }, [runId, reason, taken, off, dispatch]);
}

function wordsOf({ taken, connected, reportedPercent }: StopWish): string {
  if (!taken) return 'The server does not answer. It is asked again every second.';
  if (!connected) return 'The rig is not connected, so nobody knows whether its load is off.';
  if (reportedPercent === null) return 'The rig does not say whether its load is off.';
  return reportedPercent > 0 ? `The rig still reports a load of ${reportedPercent} %.` : 'The rig has not let go of the run yet.';
}

function Stopping({ wish }: { wish: StopWish }) {
  const dispatch = useAppDispatch();
  useStop(wish);
  const [late, setLate] = useState(() => Date.now() - wish.at > SOON_MS);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), SOON_MS);
    return () => clearTimeout(timer);
  }, []);
  if (wish.off)
    return (
      <p role="status" className="border-b-2 border-quench bg-margin px-6 py-3">
        <b className="font-semibold">Stopped.</b> The rig confirms that its load is off: {wish.what}.
      </p>
    );
  if (!late)
    return (
      <p role="status" className="border-b-2 border-ochre bg-margin px-6 py-3">
        <b className="font-semibold">Stopping</b> {wish.what}.
      </p>
    );
  return (
    <div role="alert" className="flex flex-wrap items-center gap-x-6 gap-y-2 border-b-4 border-ember bg-margin px-6 py-4 text-[1.15rem]">
      <p className="min-w-0 flex-1">
        <b className="font-semibold text-ember-text">Not stopped yet: switch the machine off by hand.</b>
        <span className="block text-[0.98rem]">
          {wish.what}. {wordsOf(wish)}
        </span>
      </p>
      <Button onClick={() => dispatch(stopSettled(wish.runId))}>It is off, I saw to it</Button>
    </div>
  );
}

/** Every Stop that is not confirmed, above whatever page is open. */
export function StopKeeper() {
  const stops = useAppSelector((state) => state.stops);
  return stops.length === 0 ? null : (
    <div className="no-print sticky top-0 z-40">
      {stops.map((wish) => (
        <Stopping key={wish.runId} wish={wish} />
      ))}
    </div>
  );
}
