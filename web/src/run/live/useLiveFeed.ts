import { useEffect } from 'react';
import { goesOn, type LiveSamples, type LiveSnapshot, type Run } from '@red-ember/contract';
import { api } from '../../data/api.ts';
import { useAppDispatch } from '../../data/store.ts';
import { liveConnected, liveOpened, runArrived, snapshotArrived } from './liveSlice.ts';
import { liveTraces } from './liveTraces.ts';

/** Follows a run by the server's events. The browser reconnects by itself; after each reconnection the trace is fetched anew. */
export function useLiveFeed(runId: string, live: boolean): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    if (!live) return;
    dispatch(liveOpened(runId));
    liveTraces.open(runId);
    const source = new EventSource(`/api/v1/runs/${runId}/live`);
    const on = <T>(event: string, handle: (data: T) => void) =>
      source.addEventListener(event, (message) => handle(JSON.parse((message as MessageEvent<string>).data) as T));
    source.onopen = () => {
      dispatch(liveConnected(true));
      void dispatch(api.endpoints.trace.initiate({ runId, points: 700 }, { forceRefetch: true, subscribe: false })).then(({ data }) => {
        if (data) liveTraces.traceArrived(data);
      });
    };
    source.onerror = () => dispatch(liveConnected(false));
    on<Run>('run', (run) => {
      dispatch(runArrived(run));
      if (goesOn(run)) return;
      source.close();
      void dispatch(api.util.upsertQueryData('run', runId, run));
      dispatch(api.util.invalidateTags(['Runs', 'Verdict', 'Rigs', 'Shelf']));
    });
    on<LiveSnapshot>('snapshot', (snapshot) => dispatch(snapshotArrived(snapshot)));
    on<LiveSamples>('samples', (samples) => liveTraces.samplesArrived(samples));
    return () => source.close();
  }, [runId, live, dispatch]);
}
