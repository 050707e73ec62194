import { CartesianGrid, Line, LineChart, ReferenceArea, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { clock, counted, fixed, type LineEntry, type LineKind } from '@red-ember/core';
import type { Run, RunLine } from '@red-ember/contract';
import { useLineQuery } from '../../data/api.ts';
import { Section } from '../../ui/Section.tsx';
import { TimedTable } from './TimedTable.tsx';

const KINDS: Record<LineKind, string> = {
  commanded: 'asked',
  reported: 'reported',
  missing: 'never came',
  again: 'came again',
  back: 'rig back',
};

function detailOf({ kind, percent, fromSeq, toSeq }: LineEntry): string {
  if (percent !== null) return `${percent} % ${kind === 'commanded' ? 'asked of the rig' : 'reported by the rig'}`;
  if (fromSeq === null) return 'The rig said hello again in the middle of the run';
  const numbers = fromSeq === toSeq ? `Message ${fromSeq}` : `Messages ${fromSeq} to ${toSeq}`;
  return `${numbers} ${kind === 'missing' ? 'never came' : 'came once more and counted once'}`;
}

/** The load as it was asked and as it was reported, at each moment at which either changed. */
function loadPoints({ entries }: RunLine, lengthS: number): { atS: number; commanded: number | null; reported: number | null }[] {
  const points: { atS: number; commanded: number | null; reported: number | null }[] = [];
  let commanded: number | null = null;
  let reported: number | null = null;
  for (const { atS, kind, percent } of entries) {
    if (kind === 'commanded') commanded = percent;
    else if (kind === 'reported') reported = percent;
    else continue;
    points.push({ atS, commanded, reported });
  }
  return [...points, { atS: lengthS, commanded, reported }];
}

function wholeWords({ lastSeq, missing, again, stepS, gaps }: RunLine): string {
  return [
    missing === 0 ? `messages 1 to ${lastSeq}, none missing` : `messages 1 to ${lastSeq}, ${missing} of them missing`,
    ...(again > 0 ? [`${again} came more than once and counted once`] : []),
    ...(stepS === null ? [] : [`a sample every ${fixed(stepS, stepS < 1 ? 1 : 0)} s`]),
    gaps.length === 0 ? 'no gap' : counted(gaps.length, 'gap'),
  ].join(', ');
}

/** Whether the record is whole, and whether the rig did what it was told. */
export function LineSection({ run }: { run: Run }) {
  const { data: line } = useLineQuery(run.id, { skip: run.source !== 'rig' });
  if (!line) return null;
  const points = loadPoints(line, run.lengthS);
  const domain: [number, number] = [0, run.lengthS];
  return (
    <Section title="The line to the rig" hint={line.entries.length > 0 ? wholeWords(line) : undefined}>
      {line.entries.length === 0 ? (
        <p className="text-soft">This run was made before loads that were asked and reported were written down.</p>
      ) : (
        <figure className="mb-3 max-w-3xl">
          <div className="h-28" aria-hidden>
            <ResponsiveContainer width="100%" height="100%">
              <LineChart data={points} margin={{ top: 6, right: 8, bottom: 0, left: 0 }}>
                <CartesianGrid vertical={false} stroke="var(--rule)" />
                <XAxis dataKey="atS" type="number" domain={domain} tickFormatter={clock} tick={{ fontSize: 12 }} stroke="var(--soft)" />
                <YAxis domain={[0, 100]} ticks={[0, 50, 100]} width={44} unit=" %" tick={{ fontSize: 12 }} stroke="var(--soft)" />
                {line.gaps.map((gap) => (
                  <ReferenceArea key={gap.fromS} x1={gap.fromS} x2={gap.toS} fill="var(--stone)" fillOpacity={0.5} />
                ))}
                <Line
                  dataKey="reported"
                  type="stepAfter"
                  stroke="var(--ember)"
                  strokeWidth={3}
                  strokeOpacity={0.6}
                  dot={false}
                  isAnimationActive={false}
                />
                <Line dataKey="commanded" type="stepAfter" stroke="var(--ink)" strokeWidth={1} dot={false} isAnimationActive={false} />
              </LineChart>
            </ResponsiveContainer>
          </div>
          <figcaption className="text-[0.87rem] text-soft">
            Thin: the load that was asked. Thick: what the rig reported. Shaded: no samples.
          </figcaption>
        </figure>
      )}
      {line.differs.map((differs) => (
        <p key={differs.fromS} className="mb-2 text-ember-text">
          From {clock(differs.fromS)} to {clock(differs.toS)}, {fixed(differs.lastedS, 0)} s by the clock on the wall, the rig reported{' '}
          {differs.reported} % where {differs.commanded} % were asked.
        </p>
      ))}
      {line.entries.length > 0 || line.gaps.length > 0 ? (
        <details className="max-w-3xl text-[0.93rem]">
          <summary className="cursor-pointer text-soft">Everything that went over it ({line.entries.length + line.gaps.length})</summary>
          <div className="mt-2">
            <TimedTable
              label="Everything that went over the line"
              rows={[
                ...line.entries.map((entry, i) => ({ id: `entry ${i}`, atS: entry.atS, what: KINDS[entry.kind], text: detailOf(entry) })),
                ...line.gaps.map(({ fromS, toS }) => ({
                  id: `gap ${fromS}`,
                  atS: fromS,
                  what: 'gap',
                  text: `No samples until ${clock(toS)}`,
                })),
              ]}
            />
          </div>
        </details>
      ) : null}
    </Section>
  );
}
