import { useState } from 'react';
import { clock, type RunReview, plainNumber } from '@red-ember/core';
import type { Run } from '@red-ember/contract';
import { sentenceOf, useClearWindowMutation, useSetWindowMutation } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import type { Stretch } from '../ui/stretch.ts';

const asMinutes = (seconds: number) => String(Math.round(100 * (seconds / 60)) / 100);

function WindowRow({
  run,
  phase,
  startS,
  endS,
  chosen,
  shown,
}: {
  run: Run;
  phase: number;
  startS: number;
  endS: number;
  chosen: boolean;
  shown: Stretch | null;
}) {
  const [set, setting] = useSetWindowMutation();
  const [clear, clearing] = useClearWindowMutation();
  const [typed, setTyped] = useState<{ from: string; to: string } | null>(null);
  const { name, startS: phaseFrom, endS: phaseTo } = run.phases[phase]!;
  const from = typed?.from ?? asMinutes(startS);
  const to = typed?.to ?? asMinutes(endS);
  const put = async (window: { startS: number; endS: number }) => {
    const done = await set({ id: run.id, body: { phase, ...window } });
    if (!('error' in done)) setTyped(null);
  };
  const within = shown && shown.toS > phaseFrom && shown.fromS < (phaseTo ?? run.lengthS);
  const number = (text: string) => 60 * plainNumber(text);
  const busy = setting.isLoading || clearing.isLoading;
  const error = setting.error ?? clearing.error;
  const read = () => {
    if (typed && !busy) void put({ startS: number(from), endS: number(to) });
  };
  return (
    <>
      <tr
        // What was typed is read when the row is left, too: it must not stand there as if it had been.
        onBlur={(event) => {
          if (!event.currentTarget.contains(event.relatedTarget) && Number.isFinite(number(from)) && Number.isFinite(number(to))) read();
        }}
      >
        <td className="font-semibold">{name}</td>
        <td className="num text-soft">
          {clock(phaseFrom)} to {clock(phaseTo ?? run.lengthS)}
        </td>
        {(
          [
            ['from', from],
            ['to', to],
          ] as const
        ).map(([key, value]) => (
          <td key={key} className="w-24">
            <input
              aria-label={`Window of ${name}, ${key}, minutes`}
              className="field-box text-right"
              inputMode="decimal"
              value={value}
              onChange={(event) => setTyped({ from, to, [key]: event.target.value })}
              onKeyDown={(event) => {
                if (event.key === 'Enter') read();
                if (event.key === 'Escape') setTyped(null);
              }}
            />
          </td>
        ))}
        <td className="text-[0.93rem] text-soft">{chosen ? 'your own' : 'proposed: its end'}</td>
        <td className="whitespace-nowrap text-right">
          {typed ? (
            <Button disabled={busy} onClick={read}>
              Read here
            </Button>
          ) : within ? (
            <Button
              disabled={busy}
              onClick={() => void put({ startS: Math.max(phaseFrom, shown.fromS), endS: Math.min(phaseTo ?? run.lengthS, shown.toS) })}
            >
              Read what is shown
            </Button>
          ) : null}
          {chosen ? (
            <Button look="quiet" disabled={busy} onClick={() => void clear({ id: run.id, phase })}>
              Back to its end
            </Button>
          ) : null}
        </td>
      </tr>
      {error ? (
        <tr>
          <td colSpan={6}>
            <Notice tone="error">{sentenceOf(error)}</Notice>
          </td>
        </tr>
      ) : null}
    </>
  );
}

/** The windows that were read, each to be moved: typed, or as the trace shows it. */
export function ReadWindows({ run, review, shown }: { run: Run; review: RunReview; shown: Stretch | null }) {
  const [first] = review.spots;
  const several = new Map(review.loads.map((load) => [load.phase, load.spots.find((spot) => spot.reading)?.reading]));
  const rows = run.phases.flatMap((phase, i) => {
    const last = (kind: string) => run.phases.findLastIndex((candidate) => candidate.kind === kind) === i;
    const reading =
      several.get(i) ??
      (phase.kind === 'idle-soak' && last('idle-soak') ? first?.idle : phase.kind === 'load' && last('load') ? first?.load : null);
    return reading ? [{ phase: i, reading }] : [];
  });
  if (rows.length === 0) return null;
  return (
    <Section title="Windows" hint="zoom into the trace and take what it shows, or type minutes; every reading follows">
      <table className="plain-table">
        <thead>
          <tr>
            <th>Phase</th>
            <th className="num">lasted</th>
            <th>from, min</th>
            <th>to, min</th>
            <th>window</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map(({ phase, reading }) => (
            <WindowRow
              key={`${run.id} ${phase} ${reading.window.startS} ${reading.window.endS}`}
              run={run}
              phase={phase}
              startS={reading.window.startS}
              endS={reading.window.endS}
              chosen={reading.chosen}
              shown={shown}
            />
          ))}
        </tbody>
      </table>
    </Section>
  );
}
