import { fixed } from '../format/measured.ts';
import type { FairnessCheck, Finding, JudgedRun, JudgedSide, JudgedSpot, Severity } from './types.ts';

/** Power or work that differs by more than this share makes temperatures hard to compare. */
const SAME_SHARE = 0.02;
/** Rooms further apart than this are worth a word even where rises are compared, K. */
const ROOMS_APART_K = 3;

function meanOf(runs: JudgedRun[], read: (run: JudgedRun) => number | null | undefined): number | null {
  const values = runs.map(read).filter((value): value is number => value != null);
  return values.length === 0 ? null : values.reduce((sum, value) => sum + value / values.length, 0);
}

export function countMounts(runs: readonly JudgedRun[]): number {
  return new Set(runs.map((run) => run.mountNo ?? `run ${run.id}`)).size;
}

/**
 * What speaks against comparing two sets of runs.
 *
 * @param a,b only the runs that take part
 * @param assumedSd the stated scatter that stands in for repeats, K; null where it was measured
 */
export function pairFindings(a: JudgedSide, b: JudgedSide, spots: readonly JudgedSpot[], assumedSd: number | null): Finding[] {
  const findings: Finding[] = [];
  const add = (check: FairnessCheck, severity: Severity, evidence: string, remedy: string, spotId: string | null = null) =>
    findings.push({ check, severity, evidence, remedy, runId: null, spotId });
  if (a.runs.length === 0 || b.runs.length === 0) return findings;

  const held: string[] = [];
  const compareShare = (
    check: 'heat' | 'work',
    what: string,
    read: (run: JudgedRun) => number | null | undefined,
    unit: string,
    remedy: string,
  ) => {
    const [pa, pb] = [meanOf(a.runs, read), meanOf(b.runs, read)];
    if (pa === null || pb === null || pa === 0) return;
    const off = pb / pa - 1;
    if (Math.abs(off) > SAME_SHARE)
      add(
        check,
        'weakens',
        `Mean ${what} was ${fixed(pa, 1)} ${unit} with ${a.name} and ${fixed(pb, 1)} ${unit} with ${b.name}, ${fixed(Math.abs(100 * off), 1)} % apart.`,
        remedy,
      );
    else held.push(`${what} within ${fixed(Math.max(0.1, Math.abs(100 * off)), 1)} %`);
  };
  compareShare('heat', 'power', (run) => run.review.power?.value, 'W', 'Compare K/W, or hold the power.');
  compareShare(
    'work',
    'throughput',
    (run) => run.review.performance?.value,
    'MB/s',
    'The side that did less work only looks cooler: hold the workload.',
  );

  const [roomA, roomB] = [meanOf(a.runs, (run) => run.review.room?.meanC), meanOf(b.runs, (run) => run.review.room?.meanC)];
  if (roomA !== null && roomB !== null) {
    const rooms = [...a.runs, ...b.runs].flatMap((run) => (run.review.room ? [run.review.room.minC, run.review.room.maxC] : []));
    if (Math.abs(roomA - roomB) > ROOMS_APART_K)
      add(
        'room',
        'weakens',
        `The room was ${fixed(roomA, 1)} °C with ${a.name} and ${fixed(roomB, 1)} °C with ${b.name}.`,
        'Heat and throttling depend on absolute temperature: repeat in one room.',
      );
    else held.push(`room ${fixed(Math.min(...rooms), 1)} to ${fixed(Math.max(...rooms), 1)} °C`);
  }

  for (const side of [a, b]) {
    const mounts = countMounts(side.runs);
    if (mounts === 1)
      add(
        'mounts',
        'weakens',
        `${side.name}: a single mount, so what refitting does to the result is unknown.`,
        `Refit ${side.name} and run it again.`,
      );
    if (side.runs.length === 1) {
      add(
        'repeats',
        'weakens',
        `${side.name}: one run has no scatter of its own; ${assumedSd === null ? "the bench's history stands in" : `an assumed ${fixed(assumedSd, 1)} K between runs stands in`}.`,
        'Repeat it at least once.',
      );
    }
  }

  for (const spot of spots) {
    const sensors = new Set([...a.runs, ...b.runs].map((run) => run.sensors[spot.id]).filter(Boolean));
    if (sensors.size > 1)
      add(
        'sensors',
        'weakens',
        `${spot.name} was read by ${[...sensors].join(' and ')}: nothing cancels between them.`,
        'Use one sensor in one place on both sides.',
        spot.id,
      );
  }
  if (spots.length > 0 && !findings.some((finding) => finding.check === 'sensors')) held.push('same sensors');

  const names = new Set([...a.runs, ...b.runs].flatMap((run) => Object.keys(run.settings)));
  let settingsSame = names.size > 0;
  for (const name of names) {
    const values = new Set([...a.runs, ...b.runs].map((run) => run.settings[name] ?? 'not written down'));
    if (values.size < 2) continue;
    if ([...a.runs, ...b.runs].every((run) => run.heldByPart.includes(name))) {
      add('settings', 'note', `${name} is held part by part, as written down: ${[...values].join(' and ')}.`, '');
      continue;
    }
    settingsSame = false;
    add('settings', 'weakens', `${name} differs: ${[...values].join(' and ')}.`, 'Hold it, or say that both changed.');
  }
  if (settingsSame) held.push('same settings');

  const loads = [a, b].map((side) => meanOf(side.runs, (run) => run.review.loadS));
  if (loads[0] && loads[1] && Math.abs(loads[1] / loads[0] - 1) > 0.5) {
    add(
      'length',
      'note',
      `The load lasted ${fixed(loads[0] / 60, 0)} min with ${a.name} and ${fixed(loads[1] / 60, 0)} min with ${b.name}.`,
      'Fine where both were settled.',
    );
  }

  const times = (side: JudgedSide) => side.runs.map((run) => run.startedAtMs);
  const [ta, tb] = [times(a), times(b)];
  const separated = Math.max(...ta) < Math.min(...tb) || Math.max(...tb) < Math.min(...ta);
  if (separated && a.runs.length > 1 && b.runs.length > 1) {
    add(
      'order',
      'weakens',
      `All runs of one side came before all of the other, so anything that drifted over the days is in the difference.`,
      'Next time run them in turn: A B B A.',
    );
  } else if (!separated) {
    held.push('run in turn');
  }
  if (held.length > 0) add('heat', 'note', `Held alike: ${held.join(', ')}.`, '');
  return findings;
}
