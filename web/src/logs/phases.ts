import type { LogPhaseBody } from '@red-ember/contract';

/** A boundary may not come nearer to the next than this, seconds. */
const LEAST_S = 5;

/** Moves where phase i begins: the one before ends there. The first begins with the log. */
export function moved(phases: readonly LogPhaseBody[], i: number, startS: number): LogPhaseBody[] {
  const before = phases[i - 1];
  const here = phases[i];
  if (!before || !here || !Number.isFinite(startS)) return [...phases];
  const at = Math.min(here.endS - LEAST_S, Math.max(before.startS + LEAST_S, startS));
  return phases.map((phase, k) => (k === i - 1 ? { ...phase, endS: at } : k === i ? { ...phase, startS: at } : phase));
}

/** Takes a phase away: the one before goes on over it; of the first, the one after begins with the log. */
export function without(phases: readonly LogPhaseBody[], i: number): LogPhaseBody[] {
  const gone = phases[i];
  if (!gone || phases.length < 2) return [...phases];
  return phases
    .map((phase, k) => (k === i - 1 ? { ...phase, endS: gone.endS } : k === 1 && i === 0 ? { ...phase, startS: gone.startS } : phase))
    .filter((_, k) => k !== i);
}

/** Parts a phase in the middle: the second half is something that was changed. */
export function parted(phases: readonly LogPhaseBody[], i: number): LogPhaseBody[] {
  const here = phases[i];
  if (!here || here.endS - here.startS < 4 * LEAST_S) return [...phases];
  const at = Math.round((here.startS + here.endS) / 2);
  const names = new Set(phases.map(({ name }) => name));
  const name = ['Change', ...Array.from({ length: 200 }, (_, k) => `Change ${k + 2}`)].find((word) => !names.has(word))!;
  const second: LogPhaseBody = {
    kind: here.kind === 'load' ? 'change' : here.kind,
    name,
    startS: at,
    endS: here.endS,
    why: 'Put in by hand.',
  };
  return [...phases.slice(0, i), { ...here, endS: at }, second, ...phases.slice(i + 1)];
}

export const PHASE_KINDS: { value: LogPhaseBody['kind']; label: string }[] = [
  { value: 'idle-soak', label: 'at rest' },
  { value: 'load', label: 'load' },
  { value: 'change', label: 'load, something changed' },
  { value: 'cool-down', label: 'cooling down' },
];
