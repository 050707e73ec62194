import { clock, findPhases, LOAD_WITNESSES, type FoundPhase, type Series } from '@red-ember/core';
import type { ChannelRole, LogPhaseBody, RecordedRole, Run } from '@red-ember/contract';

export const witnessesLoad = (role: ChannelRole): boolean => LOAD_WITNESSES.some((witness) => witness === role);

/** Turns of a load nearer than this are the same, s: two recorders sample at different moments. */
const SAME_S = 15;
const MARKS = ['mark', 'change'];

const loadsOf = <T extends { kind: string }>(phases: readonly T[]): T[] =>
  phases.filter(({ kind }) => kind === 'load' || kind === 'change');

/**
 * The phases of a run from a file once a second recorder has told when its load was there, where nothing told it before.
 *
 * @param run with all its channels
 * @param samplesOf by the channel's key
 * @returns null where they stand as they are: the same to within some seconds, or no load was seen
 */
export function refoundPhases(run: Run, samplesOf: (key: string) => Series): { phases: LogPhaseBody[]; said: string } | null {
  const of = (role: RecordedRole) => {
    const channel = run.channels.find((candidate) => candidate.role === role);
    return channel ? samplesOf(channel.key) : null;
  };
  const found = findPhases({
    lengthS: run.lengthS,
    marks: run.events.filter(({ kind }) => MARKS.includes(kind)).map(({ atS, text }) => ({ atS, text })),
    utilisation: of('utilisation'),
    power: of('power'),
    throughput: of('throughput'),
    wall: of('wall'),
    duty: of('duty'),
    fan: of('fan'),
    temperatures: run.channels.filter(({ role }) => role === 'spot').map(({ key }) => samplesOf(key)),
  });
  const before = run.phases.map(({ kind, name, startS, endS }) => ({ kind, name, startS, endS: endS ?? run.lengthS }));
  const [was, now] = [loadsOf(before), loadsOf(found)];
  if (was.length === 0 || now.length === 0) return null;
  const apart = (p: number, q: number) => Math.abs(p - q) > SAME_S;
  const same =
    was.length === now.length && was.every(({ startS, endS }, i) => !apart(startS, now[i]!.startS) && !apart(endS, now[i]!.endS));
  if (same) return null;
  const words = ([first, ...rest]: readonly { startS: number; endS: number }[]) =>
    `${clock(first!.startS)} to ${clock((rest.at(-1) ?? first!).endS)}`;
  return { phases: renamed(found, before), said: `the load was there from ${words(now)}, not from ${words(was)}` };
}

/** Loads keep what they were called, where they are as many as before. */
function renamed(
  found: readonly FoundPhase[],
  before: readonly { kind: string; name: string; startS: number; endS: number }[],
): LogPhaseBody[] {
  const names = loadsOf(before).map(({ name }) => name);
  const loads = loadsOf(found);
  return found.map(({ kind, name, startS, endS, why }) => {
    const at = loads.findIndex((load) => load.startS === startS);
    return { kind, name: at >= 0 && names.length === loads.length ? names[at]! : name, startS, endS, why };
  });
}
