import { Scissors, X } from 'lucide-react';
import { useDrag } from '@use-gesture/react';
import { useRef } from 'react';
import { clock, toCelsius, type TemperatureUnit } from '@red-ember/core';
import { holdsReadings, isTemperature, type ColumnMapBody, type LogPhaseBody, type LogTrace } from '@red-ember/contract';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { TraceChart, type ChartTrace } from '../ui/TraceChart.tsx';
import { moved, parted, PHASE_KINDS, without } from './phases.ts';

interface Props {
  phases: readonly LogPhaseBody[];
  onChange: (phases: LogPhaseBody[]) => void;
}

const COLOURS = ['var(--ink)', 'var(--ember-text)', 'var(--quench)', 'var(--soft)', 'var(--stone)'];
const STEP_S = 5;
/** Where the chart's plot lies within it, pixels. */
const PLOT = { left: 44, right: 116, top: 6, bottom: 26 };

/** Where a phase begins, to be dragged along the trace or moved by the arrow keys. */
function Handle({ phase, lengthS, onMove }: { phase: LogPhaseBody; lengthS: number; onMove: (startS: number) => void }) {
  const handle = useRef<HTMLDivElement>(null);
  const dragged = useDrag(
    ({ xy: [x], tap }) => {
      const lane = handle.current!.parentElement!.getBoundingClientRect();
      if (!tap) onMove(((x - lane.left) / lane.width) * lengthS);
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  return (
    <div
      ref={handle}
      role="slider"
      tabIndex={0}
      aria-label={`${phase.name} begins`}
      aria-valuemin={0}
      aria-valuemax={Math.round(lengthS)}
      aria-valuenow={Math.round(phase.startS)}
      aria-valuetext={clock(phase.startS)}
      className="pointer-events-auto absolute inset-y-0 w-4 -translate-x-2 cursor-ew-resize touch-none"
      style={{ left: `${(100 * phase.startS) / lengthS}%` }}
      {...dragged()}
      onKeyDown={(event) => {
        const step = { ArrowLeft: -STEP_S, ArrowRight: STEP_S, PageDown: -60, PageUp: 60 }[event.key];
        if (step === undefined) return;
        event.preventDefault();
        onMove(phase.startS + step);
      }}
    >
      <div className="mx-auto h-full w-0.5 bg-ink" />
      <span className="absolute left-2 top-0 max-w-40 truncate whitespace-nowrap bg-paper px-1 text-[0.78rem]">{phase.name}</span>
    </div>
  );
}

function tracesOf(trace: LogTrace, columns: readonly ColumnMapBody[]): ChartTrace[] {
  return trace.series.flatMap(({ column, t, y }): ChartTrace[] => {
    const map = columns.find((entry) => entry.column === column);
    if (!map || !holdsReadings(map.role) || !isTemperature(map.role)) return [];
    const unit: TemperatureUnit = map.unit ?? 'C';
    const name = map.spotName ?? map.role;
    return [{ key: String(column), name, t, y: y.map((value) => (value === null ? null : toCelsius(value, unit))), colour: '' }];
  }).map((each, i) => ({ ...each, colour: COLOURS[i % COLOURS.length]! })); // prettier-ignore
}

/** The temperatures of a log with its phases on them. */
export function PhaseTrace({ trace, columns, phases, onChange }: Props & { trace: LogTrace; columns: readonly ColumnMapBody[] }) {
  const lengthS = Math.max(1, trace.lengthS);
  const traces = tracesOf(trace, columns);
  if (traces.length === 0) return <p className="text-soft">No column of temperatures is mapped, so there is nothing to draw.</p>;
  return (
    <div className="relative">
      <TraceChart
        traces={traces}
        unit="°C"
        label="Temperatures of the log with its phases"
        fromS={0}
        toS={lengthS}
        height={260}
        shaded={phases
          .filter(({ kind }) => kind === 'load' || kind === 'change')
          .map(({ startS, endS }) => ({ fromS: startS, toS: endS, tone: 'phase' }))}
      />
      <div className="pointer-events-none absolute" style={{ left: PLOT.left, right: PLOT.right, top: PLOT.top, bottom: PLOT.bottom }}>
        {phases.map((phase, i) =>
          i === 0 ? null : (
            <Handle
              key={`${i} ${phase.name}`}
              phase={phase}
              lengthS={lengthS}
              onMove={(startS) => onChange(moved(phases, i, Math.round(startS)))}
            />
          ),
        )}
      </div>
    </div>
  );
}

const minutes = (seconds: number) => Math.round((seconds / 60) * 100) / 100;

/** The phases one by one: what each is, what it is called, where it begins and by what it was found. */
export function PhaseTable({ phases, onChange }: Props) {
  const set = (i: number, part: Partial<LogPhaseBody>) => onChange(phases.map((phase, k) => (k === i ? { ...phase, ...part } : phase)));
  return (
    <table className="plain-table" aria-label="Phases of the log">
      <thead>
        <tr>
          <th>Phase</th>
          <th>is called</th>
          <th>begins, min</th>
          <th>ends</th>
          <th>found by</th>
          <th>
            <span className="sr-only">What can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {phases.map((phase, i) => (
          <tr key={`${i} ${phases.length}`}>
            <td>
              <ChoiceField
                label={`Phase ${i + 1} is`}
                hideLabel
                pointer={`/phases/${i}/kind`}
                value={phase.kind}
                options={PHASE_KINDS}
                onChange={(kind) => set(i, { kind })}
              />{' '}
              {/* prettier-ignore */}
            </td>
            <td>
              <TextField
                label={`Phase ${i + 1} is called`}
                hideLabel
                pointer={`/phases/${i}/name`}
                value={phase.name}
                onChange={(name) => set(i, { name })}
              />{' '}
              {/* prettier-ignore */}
            </td>
            <td>
              {i === 0 ? (
                '0'
              ) : (
                <NumberField
                  className="w-24"
                  label={`Phase ${i + 1} begins`}
                  hideLabel
                  pointer={`/phases/${i}/startS`}
                  value={minutes(phase.startS)}
                  onChange={(value) => onChange(moved(phases, i, value * 60))}
                />
              )}
            </td>
            <td className="whitespace-nowrap">{clock(phase.endS)}</td>
            <td className="text-[0.87rem] text-soft">{phase.why ?? ''}</td>
            <td className="whitespace-nowrap">
              <button
                type="button"
                className="p-1.5 hover:text-ember-text"
                aria-label={`Part ${phase.name} in two`}
                onClick={() => onChange(parted(phases, i))}
              >
                <Scissors size={15} aria-hidden />
              </button>
              <button
                type="button"
                className="p-1.5 hover:text-ember-text disabled:opacity-40"
                aria-label={`Take ${phase.name} away`}
                disabled={phases.length < 2}
                onClick={() => onChange(without(phases, i))}
              >
                <X size={15} aria-hidden />
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
