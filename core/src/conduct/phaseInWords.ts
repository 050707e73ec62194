import { duration } from '../format/measured.ts';
import type { PlannedPhase } from './plannedPhases.ts';

/** What a phase that is not of one length waits for, in words. */
export const WAITS_FOR = { 'until-settled': 'until settled', 'until-read': 'until it can be read' } as const;

/** A phase in a line: name, length, load, and what is done by hand. */
export function phaseInWords(phase: PlannedPhase): string {
  const length =
    phase.mode === 'fixed'
      ? duration(phase.durationS)
      : `${WAITS_FOR[phase.mode]}, ${duration(phase.durationS)} to ${duration(phase.capS)}`;
  const load =
    phase.kind === 'sweep'
      ? phase.sweepOf
        ? `${phase.steps ?? 0} steps of ${phase.sweepOf} from ${phase.from} to ${phase.to}, each ${length} at ${phase.loadPercent} %`
        : `${phase.steps ?? 0} steps from ${phase.loadPercent} to ${phase.toPercent ?? 0} %, each ${length}`
      : `${length} at ${phase.loadPercent} %`;
  const marks = phase.marksMin && phase.marksMin.length > 0 ? `, read by hand at minute ${phase.marksMin.join(', ')}` : '';
  const set = phase.set && phase.set.length > 0 ? `, ${phase.set.map(({ control, value }) => `${control} ${value}`).join(', ')}` : '';
  return `${phase.name}${phase.opensWith ? ` (${phase.opensWith})` : ''}, ${load}${set}${marks}`;
}
