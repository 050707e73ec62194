import { useId, useState } from 'react';
import { fixed } from '@red-ember/core';
import type { BenchRig, Rehearsal, RehearsalKey, RehearsalStep } from '@red-ember/contract';
import { sentenceOf, useBreakOffRehearsalMutation, useRehearsalsQuery, useRehearseMutation } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { timeOf } from '../ui/dates.ts';

const NAMES: Record<RehearsalKey, string> = { stop: 'Stop', 'lost-server': 'Lost server', 'cut-out': 'Cut-out' };
const KEYS = Object.keys(NAMES) as RehearsalKey[];
const LOADS = [10, 20, 50, 100];
const USUAL_LOAD = 20;

/** How long it took, as far as it goes towards the longest that was allowed. */
function Took({ step }: { step: RehearsalStep }) {
  if (step.offAfterS === null) return <span className="text-ember-text">stayed on</span>;
  return (
    <span className="grid grid-cols-[3.6rem_minmax(0,1fr)] items-center gap-2">
      <span className="num">{step.offAfterS < 0.1 ? '< 0.1' : fixed(step.offAfterS, 1)} s</span>
      <span aria-hidden className="relative h-2 border-r-2 border-ink">
        <span className="absolute inset-x-0 top-1/2 border-t border-rule" />
        <span
          className={`absolute inset-y-0 left-0 ${step.ok ? 'bg-quench' : 'bg-ember'}`}
          style={{ width: `${Math.min(100, (100 * step.offAfterS) / step.withinS)}%` }}
        />
      </span>
    </span>
  );
}

function Steps({ rehearsal }: { rehearsal: Rehearsal }) {
  return (
    <table className="plain-table" aria-label={`Rehearsal of ${rehearsal.rigName}`}>
      <thead>
        <tr>
          <th className="w-32">Tried</th>
          <th className="w-56">Load off after (bar: the longest allowed)</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {KEYS.map((key) => {
          const step = rehearsal.steps.find((candidate) => candidate.key === key);
          const now = rehearsal.trying === key && !step;
          return (
            <tr key={key}>
              <td className="whitespace-nowrap font-semibold">{NAMES[key]}</td>
              <td>{step ? <Took step={step} /> : <span className="text-soft">{now ? 'being tried…' : 'not tried'}</span>}</td>
              <td className={step && !step.ok ? 'text-ember-text' : ''}>{step?.sentence}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function headlineOf(rig: BenchRig): { words: string; bad: boolean } {
  const { rehearsal } = rig;
  if (!rehearsal) return { words: 'It never showed that its load goes off.', bad: !rig.simulated };
  if (rehearsal.trying) return { words: `Rehearsing at ${rehearsal.loadPercent} %.`, bad: false };
  const when = timeOf(rehearsal.at);
  if (rehearsal.brokenOff !== '') return { words: `Rehearsal of ${when} not brought to its end. ${rehearsal.brokenOff}`, bad: true };
  const wrong = rehearsal.steps.filter((step) => !step.ok).length;
  if (wrong > 0) return { words: `Rehearsed ${when}: do not leave a load on it alone.`, bad: true };
  return { words: `Rehearsed ${when} at ${rehearsal.loadPercent} %: its load goes off.`, bad: false };
}

/** Earlier ones in a line each, so that a rig that grows slower is seen. */
function Earlier({ rigId }: { rigId: string }) {
  const { data = [] } = useRehearsalsQuery(rigId);
  const [, ...earlier] = data;
  if (earlier.length === 0) return null;
  return (
    <details className="mt-2 text-[0.93rem]">
      <summary className="cursor-pointer text-soft">Earlier rehearsals ({earlier.length})</summary>
      <ul className="mt-1 grid gap-1">
        {earlier.map((one) => (
          <li key={one.id}>
            {timeOf(one.at)}:{' '}
            {one.brokenOff ||
              one.steps
                .map(
                  ({ key, ok, offAfterS }) =>
                    `${NAMES[key]} ${offAfterS === null ? 'stayed on' : `${fixed(offAfterS, 1)} s`}${ok ? '' : ' (not good)'}`,
                )
                .join(', ')}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** One rig: whether its load goes off, as it showed it, and a button to have it shown again. */
export function RigRehearsal({ rig }: { rig: BenchRig }) {
  const id = useId();
  const [loadPercent, setLoad] = useState(USUAL_LOAD);
  const [rehearse, asking] = useRehearseMutation();
  const [breakOff] = useBreakOffRehearsalMutation();
  const { rehearsal } = rig;
  const going = rehearsal?.trying != null;
  const { words, bad } = headlineOf(rig);
  return (
    <section aria-label={rig.name} className="mb-7 border-t border-rule pt-4">
      <div className="mb-2 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <div>
          <h3 className="text-[1.05rem] font-semibold">
            {rig.name}
            <span className="ml-3 text-[0.9rem] font-normal text-soft">
              {[rig.simulated ? 'simulated' : '', rig.connected ? '' : 'not connected', rig.busyRunId && !going ? 'a run goes on' : '']
                .filter(Boolean)
                .join(', ')}
            </span>
          </h3>
          <p role="status" className={bad ? 'text-ember-text' : ''}>
            {words}
          </p>
        </div>
        {going ? (
          <Button onClick={() => void breakOff(rig.id)}>Break it off</Button>
        ) : (
          <div className="flex items-end gap-3">
            <div>
              <label htmlFor={id} className="mb-1 block text-[0.87rem] text-soft">
                At a load of
              </label>
              <select id={id} className="field-box !w-24" value={loadPercent} onChange={(event) => setLoad(Number(event.target.value))}>
                {LOADS.map((load) => (
                  <option key={load} value={load}>
                    {load} %
                  </option>
                ))}
              </select>
            </div>
            <Button
              disabled={!rig.connected || rig.busyRunId !== null || asking.isLoading}
              onClick={() => void rehearse({ rig: rig.id, loadPercent })}
            >
              Rehearse
            </Button>
          </div>
        )}
      </div>
      {asking.error ? <Notice tone="error">{sentenceOf(asking.error)}</Notice> : null}
      {rehearsal ? <Steps rehearsal={rehearsal} /> : null}
      {rehearsal && !going ? <Earlier rigId={rig.id} /> : null}
    </section>
  );
}
