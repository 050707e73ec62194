import { useState } from 'react';
import { channelBudget, fixed, type ChannelBudget, type ReadingUse } from '@red-ember/core';
import type { StudyBody } from '@red-ember/contract';
import { Section } from '../ui/Section.tsx';
import { doubtOf, statedK, type KnownChannel } from './channels.ts';
import { Shown } from '../ui/Shown.tsx';

const USES: { value: ReadingUse; label: string }[] = [
  { value: 'absolute', label: 'one reading, °C' },
  { value: 'rise', label: 'a rise over room' },
  { value: 'difference-one-sensor', label: 'a difference, same sensor left in place' },
  { value: 'difference-two-sensors', label: 'a difference across two sensors' },
];

/** What a room probe that nobody wrote down is taken to be. */
const UNKNOWN_ROOM = { accuracyK: 0.5, resolutionK: 0.1, placementK: 0 };

const TINTS = ['var(--ink)', 'var(--stone)', 'var(--quench)', 'var(--ochre)', 'var(--ember)', 'var(--rule)'];

function Shares({ budget }: { budget: ChannelBudget }) {
  const parts = budget.total.shares
    .map((share, i) => ({ ...share, tint: TINTS[i % TINTS.length]! }))
    .filter((share) => share.share > 0.002);
  return (
    <div
      className="mb-3 flex h-5 w-full overflow-hidden border border-stone"
      role="img"
      aria-label={parts.map((part) => `${part.name} ${fixed(100 * part.share, 0)} %`).join(', ')}
    >
      {parts.map((part) => (
        <span
          key={part.name}
          title={`${part.name} ${fixed(100 * part.share, 0)} %`}
          style={{ width: `${100 * part.share}%`, background: part.tint }}
        />
      ))}
    </div>
  );
}

function BudgetLines({ budget }: { budget: ChannelBudget }) {
  const shareOf = new Map(budget.total.shares.map(({ name, share }) => [name, share]));
  return (
    <Shown>
      <table className="plain-table">
        <thead>
          <tr>
            <th>Line</th>
            <th className="num">u</th>
            <th className="num">degrees of freedom</th>
            <th className="num">share</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {budget.lines.map((line, i) => (
            <tr key={line.name} className={line.cancels ? 'text-soft' : ''}>
              <td>
                <span aria-hidden className="drawn mr-2 inline-block size-2.5" style={{ background: TINTS[i % TINTS.length] }} />
                {line.name}
              </td>
              <td className="num">{line.cancels ? '0' : `${fixed(line.u * (line.sensitivity ?? 1), 3)} K`}</td>
              <td className="num">{line.cancels ? '' : line.dof === Infinity ? '∞' : fixed(line.dof ?? 0, 0)}</td>
              <td className="num">{line.cancels ? '' : `${fixed(100 * (shareOf.get(line.name) ?? 0), 0)} %`}</td>
              <td className="text-[0.87rem] text-soft">{line.cancels ?? ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Shown>
  );
}

/** How good a reading of one spot is, use by use: lines, shares, what cancels, and what would shrink the largest. */
export function BudgetSection({
  body,
  channels,
  scatter,
}: {
  body: StudyBody;
  channels: Map<string, KnownChannel>;
  /** The bench's scatter between runs, by spot id. */
  scatter: Record<string, { sd: number; dof: number }>;
}) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [use, setUse] = useState<ReadingUse>('difference-one-sensor');
  const spot = body.spots.find((candidate) => candidate.id === chosen) ?? body.spots[0];
  if (!spot) return null;
  const known = channels.get(spot.instrumentChannelId ?? '');
  const roomKnown = channels.get(body.roomChannelId ?? '');
  const room = roomKnown
    ? { accuracyK: statedK(roomKnown.channel, 25) ?? 0.5, resolutionK: roomKnown.channel.resolution, placementK: 0 }
    : UNKNOWN_ROOM;
  let budget: ChannelBudget | null = null;
  try {
    budget = channelBudget({
      use,
      sensor: doubtOf(spot, known, spot.limitC - 20),
      room: doubtOf(room, roomKnown, 25),
      repeatability: scatter[spot.id] ?? null,
      coverage: body.rules.coverage,
    });
  } catch {
    // half-typed figures: the fields above say which
  }
  return (
    <Section title="How good is a reading?" hint="the budget of one spot in one use">
      <div className="mb-4 flex flex-wrap gap-4">
        <select
          aria-label="Spot of the budget"
          className="field-box !w-auto"
          value={spot.id}
          onChange={(event) => setChosen(event.target.value)}
        >
          {body.spots.map((entry) => (
            <option key={entry.id} value={entry.id}>
              {entry.name}
            </option>
          ))}
        </select>
        <select
          aria-label="Use of the reading"
          className="field-box !w-auto"
          value={use}
          onChange={(event) => setUse(event.target.value as ReadingUse)}
        >
          {USES.map((entry) => (
            <option key={entry.value} value={entry.value}>
              {entry.label}
            </option>
          ))}
        </select>
      </div>
      {budget === null ? (
        <p className="text-soft">Figures are missing.</p>
      ) : (
        <>
          <p className="mb-2 text-[1.13rem]">
            <b className="font-semibold">
              <Shown>± {fixed(budget.total.expanded, 2)} K</Shown>
            </b>{' '}
            <span className="text-[0.93rem] text-soft">
              at {Math.round(body.rules.coverage * 100)} %, k = {fixed(budget.total.k, 2)}. Largest: {budget.largest.name}.{' '}
              {budget.largest.remedy}
            </span>
          </p>
          <Shares budget={budget} />
          <BudgetLines budget={budget} />
          {scatter[spot.id] ? null : (
            <p className="mt-2 text-[0.87rem] text-soft">Scatter between runs is not known on this bench yet and comes on top.</p>
          )}
        </>
      )}
    </Section>
  );
}
