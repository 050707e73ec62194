import type { LogPhaseBody } from '@red-ember/contract';
import { unprocessable } from '../http/problems.ts';

/**
 * The phases of a recorded run, held against its length.
 *
 * @param endS its length, seconds
 * @returns in order, the last one no longer than the run
 * @throws HttpProblem 422 phases that overlap, end before they begin, lie beyond the end, or of which none is under load
 */
export function checkedPhases(asked: readonly LogPhaseBody[], endS: number): LogPhaseBody[] {
  const refuse = (pointer: string, sentence: string) => unprocessable(sentence, [{ pointer, sentence }]);
  const phases = [...asked].sort((p, q) => p.startS - q.startS);
  phases.forEach((phase, i) => {
    const at = `/phases/${asked.indexOf(phase)}`;
    if (phase.endS <= phase.startS) throw refuse(`${at}/endS`, `${phase.name} must end after it began.`);
    if (phase.startS >= endS) throw refuse(`${at}/startS`, `${phase.name} begins after the log has ended, at ${Math.round(endS)} s.`);
    if (i > 0 && phase.startS < phases[i - 1]!.endS - 1e-6)
      throw refuse(`${at}/startS`, `${phase.name} begins before ${phases[i - 1]!.name} has ended.`);
  });
  if (!phases.some((phase) => phase.kind === 'load' || phase.kind === 'change'))
    throw refuse('/phases', 'At least one phase is under load: without it nothing is read.');
  return phases.map((phase) => ({ ...phase, endS: Math.min(phase.endS, endS) }));
}
