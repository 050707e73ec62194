import { useEffect, useRef } from 'react';
import { capital, counted, duration } from '@red-ember/core';
import { goesOn, type Run } from '@red-ember/contract';
import { useSignatureQuery } from '../data/api.ts';
import { useDegrees } from '../data/useDegrees.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';

/** A run that goes on is held against the others so often, of its own time, ms; of a time-lapse not more often than a page is read. */
const EVERY_MS = 60_000;
const LEAST_MS = 5_000;

/**
 * Whether a run is as the clean ones of its variant are, and where not what may be wrong and what to look at first; while it goes on, of
 * what there is of its load yet.
 *
 * @param onSuspect told of what is newly suspected while it is looked at
 */
export function AgainstNormal({ run, onSuspect }: { run: Run; onSuspect?: (text: string) => void }) {
  const { text } = useDegrees();
  const going = goesOn(run);
  const { currentData: data } = useSignatureQuery(run.id, {
    pollingInterval: going ? Math.max(LEAST_MS, EVERY_MS / run.timeScale) : 0,
    // What was read of it while it went on is not all of it.
    refetchOnMountOrArgChange: true,
  });
  const told = useRef<Set<string> | null>(null);
  useEffect(() => {
    if (!data) return;
    const fresh = data.suspects.filter(({ key }) => told.current && !told.current.has(key));
    told.current = new Set([...(told.current ?? []), ...data.suspects.map(({ key }) => key)]);
    if (fresh[0]) onSuspect?.(text(capital(fresh[0].text)));
  }, [data, onSuspect, text]);
  if (!data) return null;
  const counts = data.of.length === 0 ? '' : counted(data.of.length, 'clean run');
  const others = data.kept ? `${counts} of it in “${data.kept.study.title}”` : `${counts} of it`;
  const soFar = going && !data.why ? `, ${duration(data.loadS)} into the load` : '';
  return (
    <MarginGroup title="Against what is normal">
      {data.why ? <Note>{data.why}</Note> : null}
      {data.suspects.map(({ key, text: what, look }, i) => (
        <Note key={key} tone="caution" lead={what === data.suspects[i - 1]?.text ? 'Or:' : `${text(capital(what))}.`}>
          {look}
        </Note>
      ))}
      {data.why ? null : data.suspects.some(({ key }) => key !== 'clock') ? (
        <Note>
          Beyond what {others} scatter by{soFar}, the likeliest first.
        </Note>
      ) : (
        <Note>
          {data.suspects.length > 0 ? 'Otherwise as' : 'As'} in {others}
          {soFar}: fans, lags, noise, rest and rise.
        </Note>
      )}
    </MarginGroup>
  );
}
