import { capital } from '../../format/words.ts';
import type { FairnessCheck, Finding, JudgedRun, JudgedSide, JudgeRules, LeftOut } from '../types.ts';

/** What speaks against a run's temperature and nothing else of it: its work, its watts and its noise stand by themselves. */
export const OF_TEMPERATURE: readonly FairnessCheck[] = ['throttled', 'settled', 'room', 'spikes'];

/** Keeps the runs that take part, and says of every other why not. A check in `despite` keeps no run out. */
export function sortOut(
  side: JudgedSide,
  findings: readonly Finding[],
  rules: JudgeRules,
  despite: readonly FairnessCheck[] = [],
): { used: JudgedSide; leftOut: LeftOut[] } {
  const leftOut: LeftOut[] = [];
  const leave = (run: JudgedRun, reason: string) => {
    leftOut.push({ runId: run.id, label: `${side.name}, ${run.label}`, reason });
    return false;
  };
  const runs = side.runs.filter((run) => {
    if (run.disposition === 'reject') return leave(run, rejection(run));
    const signedOff = run.disposition === 'use' || run.disposition === 'caution';
    if (rules.signedOffOnly && !signedOff) return leave(run, 'Not signed off.');
    const blocking = findings.find(
      (finding) => finding.runId === run.id && finding.severity === 'blocks' && !despite.includes(finding.check),
    );
    return !blocking || signedOff || leave(run, withoutLabel(blocking.evidence, run.label));
  });
  return { used: { ...side, runs }, leftOut };
}

function rejection({ dispositionReason = '' }: JudgedRun): string {
  const why = dispositionReason.trim().replace(/\.$/, '');
  return why === '' ? 'Rejected at sign-off.' : `Rejected at sign-off: ${why}.`;
}

/** "run 6: the room rose" beside the run's own name reads better as "The room rose". */
function withoutLabel(evidence: string, label: string): string {
  const text = evidence.startsWith(`${label}: `) ? evidence.slice(label.length + 2) : evidence;
  return capital(text);
}
