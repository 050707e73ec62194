import {
  changesWithin,
  reachWords,
  roomOverLoads,
  clock,
  fixed,
  settledWords,
  signed,
  type ChangeWithin,
  type LoadReview,
  type PhaseReading,
} from '@red-ember/core';
import type { Study } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import { Section } from '../../ui/Section.tsx';

interface CellProps {
  reading: PhaseReading | null;
  before: PhaseReading | null;
  rise: boolean;
  change: ChangeWithin | undefined;
}

function Cell({ reading, before, rise, change }: CellProps) {
  const degrees = useDegrees();
  const valueOf = (one: PhaseReading | null) => (rise ? one?.rise : one?.absolute)?.mean.value ?? null;
  const value = valueOf(reading);
  const past = valueOf(before);
  if (value === null) return <td className="num text-soft">no reading</td>;
  const held = change?.fanHeld;
  return (
    <td className="num">
      {fixed(rise ? degrees.step(value) : degrees.temp(value), 1)}
      <span className="block text-[0.87rem] text-soft">
        {past === null ? '\u00a0' : `${reachWords(change?.reach ?? null)}${signed(degrees.step(value - past), 1)}`}
      </span>
      {held ? (
        <span className="block text-[0.83rem] text-soft">
          fan held: {signed(degrees.step(held.value), 1)} ± {fixed(degrees.step(2 * held.u), 1)}
        </span>
      ) : null}
      {reading!.bound === 'settled' ? null : (
        <span className="ml-auto block max-w-36 whitespace-normal text-[0.83rem] leading-snug text-ochre-text">
          {settledWords(reading!)}
        </span>
      )}
    </td>
  );
}

/** What each load of a run came to, and what changed from the one before: each at the end of its own phase. */
export function LoadsTable({ study, loads }: { study: Study; loads: LoadReview[] }) {
  const degrees = useDegrees();
  if (loads.length < 2) return null;
  const rise = loads.some((load) => load.spots.some(({ reading }) => reading?.rise));
  const spots = loads[0]!.spots.map(({ spotId }) => ({ spotId, name: study.spots.find((spot) => spot.id === spotId)?.name ?? spotId }));
  const work = loads.some((load) => load.performance);
  const power = loads.some((load) => load.power);
  const noise = loads.some((load) => load.noise);
  const freed = loads.some((load) => load.freedDb !== undefined);
  // A table of figures says no time.
  const timed = loads.some((load) => load.endS - load.startS > 0);
  const fan = loads.some((load) => load.fan !== null);
  const changes = changesWithin(loads);
  const held = changes.some((load) => load.some(({ fanHeld }) => fanHeld));
  const room = rise ? roomOverLoads(loads) : null;
  return (
    <Section
      title="What each load came to"
      hint={`${rise ? `Rise over room, ${degrees.stepUnit}` : `Temperature, ${degrees.tempUnit}`}: mean of the last five minutes of each, below it the change from the load before. Loads of one run stand on one mount: how runs scatter has no part in it.`}
    >
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="What each load came to">
        <table className="plain-table">
          <thead>
            <tr>
              <th>Load</th>
              {timed ? <th className="num">At</th> : null}
              {spots.map(({ spotId, name }) => (
                <th key={spotId} className="num">
                  {name}
                </th>
              ))}
              {work ? <th className="num">Work done</th> : null}
              {power ? <th className="num">Power, W</th> : null}
              {fan ? <th className="num">Fan, rpm</th> : null}
              {noise ? <th className="num">Level, dB(A)</th> : null}
              {freed ? <th className="num">freed of the room</th> : null}
            </tr>
          </thead>
          <tbody>
            {loads.map((load, i) => (
              <tr key={load.startS}>
                <td className="min-w-36">{load.name}</td>
                {timed ? <td className="num">{clock(load.endS)}</td> : null}
                {load.spots.map(({ spotId, reading }, k) => (
                  <Cell
                    key={spotId}
                    reading={reading}
                    before={loads[i - 1]?.spots[k]?.reading ?? null}
                    rise={rise}
                    change={changes[i]?.find((entry) => entry.spotId === spotId)}
                  />
                ))}
                {work ? (
                  <td className="num">{load.performance ? fixed(load.performance.value, load.performance.value < 200 ? 1 : 0) : ''}</td>
                ) : null}
                {power ? <td className="num">{load.power ? fixed(load.power.value, 0) : ''}</td> : null}
                {fan ? <td className="num">{load.fan ? fixed(load.fan.value, 0) : ''}</td> : null}
                {noise ? <td className="num">{load.noise ? fixed(load.noise.value, 1) : ''}</td> : null}
                {freed ? (
                  <td className="num">
                    {load.freedDb == null ? (
                      <span className="text-[0.83rem] text-ochre-text">too near the room</span>
                    ) : (
                      fixed(load.freedDb, 1)
                    )}
                  </td>
                ) : null}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {held ? (
        <p className="mt-2 max-w-3xl text-[0.93rem] text-soft">
          <b>Fan held</b> is calculated, not measured: what the change would have been between settled loads had the fan kept the speed of
          the load before. It rests on how the rise over the intake air went with the fan’s speed in this run; how that air itself follows
          the fan is assumed, and stands in its ±.
        </p>
      ) : null}
      {room ? (
        <p className="mt-2 max-w-3xl text-[0.93rem] text-soft">
          The room went from {fixed(degrees.temp(room.fromC), 1)} to {fixed(degrees.temp(room.toC), 1)} {degrees.tempUnit} over these loads.
          Each rise is over the room of its own minutes.
        </p>
      ) : null}
    </Section>
  );
}
