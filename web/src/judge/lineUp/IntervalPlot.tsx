import { fixed } from '@red-ember/core';

export interface IntervalRow {
  id: string;
  name: string;
  value: number;
  halfWidth: number | null;
  /** Small words after the name. */
  hint?: string;
  /** Stands at the right. */
  right?: string;
  tone?: 'stone' | 'ember' | 'quench';
}

const COLOUR = { stone: 'var(--ink)', ember: 'var(--ember)', quench: 'var(--quench)' };

function niceTicks(low: number, high: number): number[] {
  const step = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000].find((size) => (high - low) / size <= 6) ?? (high - low) / 4;
  const first = Math.ceil(low / step) * step;
  return Array.from({ length: Math.floor((high - first) / step + 1e-9) + 1 }, (_, i) => first + i * step);
}

/** Dots with their intervals on one scale: what overlaps, and what stands apart. */
export function IntervalPlot({ rows, unit, label, zero = false }: { rows: IntervalRow[]; unit: string; label: string; zero?: boolean }) {
  if (rows.length === 0) return null;
  const ends = rows.flatMap((row) => [row.value - (row.halfWidth ?? 0), row.value + (row.halfWidth ?? 0)]).concat(zero ? [0] : []);
  const span = Math.max(1e-9, Math.max(...ends) - Math.min(...ends));
  const [low, high] = [Math.min(...ends) - 0.06 * span, Math.max(...ends) + 0.06 * span];
  const at = (value: number) => `${(100 * (value - low)) / (high - low)}%`;
  const ticks = niceTicks(low, high);
  const decimals = ticks.length > 1 && ticks[1]! - ticks[0]! < 1 ? 1 : 0;
  return (
    <figure aria-label={label} className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-4 sm:grid-cols-[minmax(7rem,13rem)_minmax(0,1fr)_auto]">
      {rows.map((row) => (
        <div key={row.id} className="col-span-2 grid grid-cols-subgrid items-center border-b border-rule py-1.5 sm:col-span-3">
          <span className="min-w-0">
            <b className="block truncate font-semibold">{row.name}</b>
            {row.hint ? <span className="block text-[0.83rem] leading-tight text-soft">{row.hint}</span> : null}
          </span>
          <span
            className="relative order-last col-span-2 h-6 sm:order-none sm:col-span-1"
            role="img"
            aria-label={`${row.name}: ${fixed(row.value, 2)}${row.halfWidth === null ? '' : ` ± ${fixed(row.halfWidth, 2)}`} ${unit}`}
          >
            {ticks.map((tick) => (
              <span key={tick} className="absolute inset-y-[-0.4rem] w-px bg-rule" style={{ left: at(tick) }} />
            ))}
            {zero ? <span className="absolute inset-y-[-0.4rem] w-px bg-ink" style={{ left: at(0) }} /> : null}
            {row.halfWidth === null ? null : (
              <span
                className="absolute top-[0.69rem] h-[3px]"
                style={{
                  left: at(row.value - row.halfWidth),
                  width: `${(200 * row.halfWidth) / (high - low)}%`,
                  background: COLOUR[row.tone ?? 'stone'],
                  opacity: 0.55,
                }}
              />
            )}
            <span
              className="absolute top-[0.44rem] size-2.5 -translate-x-1/2 rounded-full"
              style={{ left: at(row.value), background: COLOUR[row.tone ?? 'stone'] }}
            />
          </span>
          <span className="whitespace-nowrap text-right">{row.right}</span>
        </div>
      ))}
      <span className="col-span-2 pt-1 text-[0.83rem] text-soft sm:col-span-1">{unit}</span>
      <span className="relative order-first col-span-2 h-5 text-[0.83rem] text-soft sm:order-none sm:col-span-1" aria-hidden>
        {ticks.map((tick) => (
          <span key={tick} className="absolute -translate-x-1/2 pt-1" style={{ left: at(tick) }}>
            {fixed(tick, decimals)}
          </span>
        ))}
      </span>
      <span className="hidden sm:block" />
    </figure>
  );
}
