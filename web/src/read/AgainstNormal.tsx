import { capital, counted } from '@red-ember/core';
import type { Run } from '@red-ember/contract';
import { useSignatureQuery } from '../data/api.ts';
import { useDegrees } from '../data/useDegrees.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';

/** Whether a run is as the clean ones of its variant are, and where not what may be wrong and what to look at first. */
export function AgainstNormal({ run }: { run: Run }) {
  const { text } = useDegrees();
  const { currentData: data } = useSignatureQuery(run.id);
  if (!data) return null;
  const others = data.of.length === 0 ? '' : counted(data.of.length, 'clean run');
  return (
    <MarginGroup title="Against what is normal">
      {data.why ? <Note>{data.why}</Note> : null}
      {!data.why && data.suspects.length === 0 ? <Note>As in {others} of it: fans, lags, noise, rest and rise.</Note> : null}
      {data.suspects.map(({ key, text: what, look }) => (
        <Note key={key} tone="caution" lead={`${text(capital(what))}.`}>
          {look}
        </Note>
      ))}
      {data.suspects.length > 0 ? <Note>Beyond what {others} of it scatter by, the likeliest first.</Note> : null}
    </MarginGroup>
  );
}
