import { OF_TEMPERATURE, runFindings, sortOut } from '@red-ember/core';
import type { Run, Study } from '@red-ember/contract';
import { judgeRules, type ReadingService } from './service.ts';

/**
 * Why the traces of a run are not those of its variant and of nothing else; null where they are. What power and room did is in the traces;
 * whatever else speaks against a run makes it another set-up.
 */
export function whyUnsound(run: Run, study: Study, readings: ReadingService): string | null {
  if (run.state === 'failed') return 'It failed.';
  if (run.figures) return 'There are figures, but no trace behind them.';
  if (run.faults.length > 0) return 'A fault was planted in it.';
  if (run.phases.some(({ endedBy }) => endedBy === 'intervention')) return 'Something was changed while it ran.';
  const rules = judgeRules(study);
  const judged = readings.judgedRun(run, study);
  const findings = runFindings(judged, readings.spotsOf(study, [run]), rules);
  // Without its power a part that throttled took nobody knows what.
  const sawPower = run.channels.some(({ role }) => role === 'power');
  const despite = OF_TEMPERATURE.filter((check) => sawPower || check !== 'throttled');
  const out = sortOut({ variantId: run.variantId, name: '', runs: [judged] }, findings, rules, despite);
  return out.leftOut[0]?.reason ?? null;
}
