import { useId } from 'react';
import { fixed } from '@red-ember/core';
import type { PairVerdict, Study } from '@red-ember/contract';
import { useInHand } from '../../ui/useInHand.ts';
import { printRestatement, readRestatement } from '@red-ember/study';
import { EvidencePick, SignedOffOnly } from '../AskedHow.tsx';
import { Pick } from '../../ui/Pick.tsx';
import type { PairAsk } from '../pairAsk.ts';
import { middleOf } from './restate.ts';

function meanPower(verdict: PairVerdict): number | null {
  const row = verdict.judgement.cooling.rows.find((candidate) => candidate.outcome === 'power');
  return row && row.a !== null && row.b !== null ? Math.round((10 * (row.a + row.b)) / 2) / 10 : null;
}

/** At which load, restated how, of which runs: every change is in the address, and stands in words under the verdict. */
export function RestateBar({
  study,
  verdict,
  ask,
  put,
}: {
  study: Study;
  verdict: PairVerdict;
  ask: PairAsk;
  put: (entries: Record<string, string>) => void;
}) {
  const id = useId();
  const by = readRestatement(ask.restate);
  const kind = by?.kind ?? '';
  const first = by === null ? '' : String(by.kind === 'power' ? by.targetW : by.levelDb);
  const exponent = by?.kind === 'power' ? by.exponent : 1;
  const power = meanPower(verdict);
  const noise = verdict.commonNoise;
  const powerInHand = useInHand(
    first,
    (watts) => put({ restate: printRestatement({ kind: 'power', targetW: Number(watts), exponent }) }),
    (watts) => Number(watts) > 0,
  );
  const noiseInHand = useInHand(first, (levelDb) => put({ restate: printRestatement({ kind: 'noise', levelDb: Number(levelDb) }) }));
  const options = [
    { value: '', label: 'as measured' },
    ...(power !== null || kind === 'power' ? [{ value: 'power', label: 'at equal power' }] : []),
    ...(noise || kind === 'noise' ? [{ value: 'noise', label: 'at equal noise' }] : []),
  ];
  const choose = (next: string) =>
    put({
      restate:
        next === 'power'
          ? printRestatement({ kind: 'power', targetW: power ?? 100, exponent: study.rules.fans === 'not-applicable' ? 0.8 : 1 })
          : next === 'noise'
            ? printRestatement({ kind: 'noise', levelDb: middleOf(noise ?? { leastDb: 30, mostDb: 40 }) })
            : '',
    });
  return (
    <div className="no-print mb-3 flex flex-wrap items-center gap-x-6 gap-y-2">
      {verdict.loads.length > 1 ? (
        <Pick
          label="At load"
          value={ask.load}
          options={[{ value: '', label: 'the last' }, ...verdict.loads.map((name) => ({ value: name, label: name }))]}
          onChange={(load) => put({ load })}
        />
      ) : null}
      {options.length > 1 ? <Pick label="Temperatures" value={kind} options={options} onChange={choose} /> : null}
      {kind === 'power' ? (
        <span className="inline-flex items-center gap-2">
          <label htmlFor={`${id}-w`} className="text-[0.93rem] text-soft">
            Power
          </label>
          <input id={`${id}-w`} type="number" min={1} step={1} className="field-box !w-24 text-right" {...powerInHand} />
          <span className="text-soft">W</span>
          <Pick
            label="rise goes with"
            value={String(exponent)}
            options={[
              { value: '1', label: 'power (moved air)' },
              { value: '0.8', label: 'power to the 0.8 (still air)' },
            ]}
            onChange={(to) => put({ restate: printRestatement({ kind: 'power', targetW: Number(first), exponent: Number(to) }) })}
          />
        </span>
      ) : null}
      {kind === 'noise' ? (
        <span className="inline-flex items-center gap-2">
          <label htmlFor={`${id}-db`} className="text-[0.93rem] text-soft">
            Read at
          </label>
          <input
            id={`${id}-db`}
            type="range"
            min={noise?.leastDb ?? 20}
            max={noise?.mostDb ?? 50}
            step={0.1}
            className="w-40 accent-ink"
            {...noiseInHand}
          />
          <output htmlFor={`${id}-db`} className="font-semibold">
            {fixed(Number(noiseInHand.value), 1)} dB(A)
          </output>
        </span>
      ) : null}
      <EvidencePick value={ask.evidence} onChange={(evidence) => put({ evidence })} />
      <SignedOffOnly on={ask.signedOff} onChange={(on) => put({ signed: on ? '1' : '' })} />
    </div>
  );
}
