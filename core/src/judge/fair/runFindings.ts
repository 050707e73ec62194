import { clock, fixed } from '../../format/measured.ts';
import { toGoInWords } from '../../review/settledWords.ts';
import type { HeldBy } from '../../throttling/whyHeld.ts';
import { throttledInReading } from './throttled.ts';
import type { RunReview, UncountedLoad } from '../../review/types.ts';
import type { FairnessCheck, Finding, JudgedRun, JudgedSpot, JudgeRules, Severity } from '../types.ts';

/** Room drift over the window that weakens a reading, and the drift that spoils it (K). The rise follows a drift only with a lag. */
const DRIFT_WEAKENS_K = 1;
const DRIFT_BLOCKS_K = 2;
/** More than this share left out as spikes is too much. */
const SPIKE_SHARE = 0.02;

/** Steps of so many times what was stated are another sensor's. */
const COARSER = 1.5;

/** Gone from the machine for more than this share of the load. */
const GONE_SHARE = 0.01;

export const LIMITER_WORDS: Record<HeldBy, string> = {
  thermal: 'heat',
  power: 'its power limit',
  'voltage-or-clock-cap': 'a ceiling of voltage or clock',
  load: 'a lack of work',
  vanished: 'being gone',
  unknown: 'something that was not recorded',
};

const ENDED_EARLY: Record<string, string> = {
  'cut-out': 'the cut-out stopped the load',
  stopped: 'the load was stopped by hand',
  'rig-lost': 'the rig was lost',
};

/** A spot that was not known to be settled when it was read. */
interface Unsettled {
  spotId: string;
  severity: Severity;
  text: string;
  /** How far the settled value may lie from the reading, K. */
  farK: number;
  /** Where a longer load is not what helps, or nothing needs help. */
  remedy?: string;
}

function unsettled(review: RunReview, { id, name }: JudgedSpot, rules: JudgeRules): Unsettled | null {
  const load = review.spots.find((candidate) => candidate.spotId === id)?.load;
  if (!load || load.bound === 'settled') return null;
  const { toGo } = load;
  const bound = load.bound === 'still-falling' ? 'an upper bound' : load.bound === 'still-rising' ? 'a lower bound' : 'not steady';
  const slope = `${fixed(Math.abs(load.settling.slopeKPerMin.value), 2)} K per minute at the end`;
  const text = `${name} was ${bound} when it was read: ${toGo ? toGoInWords(toGo) : slope}`;
  if (!toGo) return { spotId: id, severity: 'weakens', text, farK: 0 };
  const most = Math.max(1, rules.practicalK);
  const farK = Math.max(toGo.highK, -toGo.lowK);
  // What may remain is in the doubt of the difference; a run is left out only where a reading is surely far from where it ends. A settled
  // value is no reading but that end, with the doubt of the fit.
  if (rules.figure === 'settled-value') {
    const ahead = `${name} was read before it was settled: ${toGoInWords(toGo)}; its settled value holds that, with the doubt of the fit`;
    const known = 2 * toGo.likely.u <= most;
    return { spotId: id, severity: known ? 'note' : 'weakens', text: ahead, farK, ...(known ? { remedy: '' } : {}) };
  }
  const surely = Math.max(toGo.lowK, -toGo.highK);
  return { spotId: id, severity: surely > most ? 'blocks' : farK > most ? 'weakens' : 'note', text, farK };
}

const TAKEN_OFF_WORDS: Record<UncountedLoad['why'], string> = {
  paused: 'was paused',
  interrupted: 'was interrupted',
  off: 'was not loaded all along',
};

/** A run that was busy for so many points less than another of its variant did not do the same work. */
const IDLE_POINTS = 10;
const BUSY_PERCENT = 95;

/** Whether a run of so many percent busy did less work than the busiest of its variant; one that did not record it, nobody knows. */
export const idledBeside = (busyPercent: number | null, bestPercent: number): boolean =>
  busyPercent !== null && busyPercent < BUSY_PERCENT && bestPercent - busyPercent > IDLE_POINTS;

/** What a run that was not kept busy is worth: beside others of its variant that were it did less, and only looks cooler. */
function busyFinding({ review, label }: JudgedRun, peers: readonly JudgedRun[]): Omit<Finding, 'runId' | 'spotId'> | null {
  const busy = review.utilisationPercent;
  if (busy === null || busy >= BUSY_PERCENT) return null;
  const best = Math.max(...peers.map((peer) => peer.review.utilisationPercent ?? -Infinity));
  const said = `${label}: kept busy only ${fixed(busy, 0)} % of the time`;
  const remedy = 'Find what held the part back, and repeat.';
  if (!idledBeside(busy, best)) return { check: 'work', severity: 'weakens', evidence: `${said}.`, remedy };
  return {
    check: 'work',
    severity: 'blocks',
    evidence: `${said}, where another run of the same variant was ${fixed(best, 0)} %: it did less work and only looks cooler.`,
    remedy,
  };
}

/** Why a load has no reading, with when the load was off. */
export function uncountedWords({ name, why, startS, endS, off }: UncountedLoad): string {
  const when = off.map((gone) => `${clock(gone.startS)} to ${clock(gone.endS)}`).join(', ');
  const part = when === '' ? `it ended at ${clock(endS)}, after ${clock(endS - startS)}` : `the load was off from ${when}`;
  return `${name} ${TAKEN_OFF_WORDS[why]}: ${part}. It has no reading.`;
}

/**
 * What speaks against a single run, whatever it is compared with.
 *
 * @param peers runs of the same variant, itself among them or not
 * @returns findings with `runId` set; one that 'blocks' keeps the run out of results unless the tester signed it off for use
 */
export function runFindings(run: JudgedRun, spots: readonly JudgedSpot[], rules: JudgeRules, peers: readonly JudgedRun[] = []): Finding[] {
  const findings: Finding[] = [];
  const { review } = run;
  const add = (check: FairnessCheck, severity: Severity, evidence: string, remedy: string, spotId: string | null = null) =>
    findings.push({ check, severity, evidence, remedy, runId: run.id, spotId });
  const early = review.loadEndedBy ? ENDED_EARLY[review.loadEndedBy] : undefined;
  if (early) add('ended-early', 'blocks', `${run.label}: ${early}, so its reading is a lower bound.`, 'Repeat the run.');
  for (const load of review.uncounted) {
    const again = review.loadS !== null;
    add('load-off', again ? 'note' : 'blocks', `${run.label}: ${uncountedWords(load)}`, again ? '' : 'Repeat the run.');
  }
  const open = early ? [] : spots.flatMap((spot) => unsettled(review, spot, rules) ?? []);
  // One that keeps the run out goes before one that may only lie farther away.
  const blocks = (spot: Unsettled) => Number(spot.severity === 'blocks');
  const worst = [...open].sort((p, q) => blocks(q) - blocks(p) || q.farK - p.farK)[0];
  if (worst) {
    const others = open.length > 1 ? `; ${open.length} of ${spots.length} spots were not known to be settled` : '';
    const other = worst.severity === 'blocks' ? ' Choose the settled value at Ask, and it counts.' : '';
    add(
      'settled',
      worst.severity,
      `${run.label}: ${worst.text}${others}.${other}`,
      worst.remedy ?? 'Repeat with a longer cap.',
      worst.spotId,
    );
  }
  for (const spot of spots) {
    const spotReview = review.spots.find((candidate) => candidate.spotId === spot.id);
    const share = spotReview?.load?.spikeShare ?? 0;
    if (share > SPIKE_SHARE)
      add(
        'spikes',
        'weakens',
        `${run.label}: ${fixed(100 * share, 1)} % of ${spot.name}'s window was left out as spikes.`,
        "Stop background work and check the probe's wiring.",
        spot.id,
      );
  }
  for (const spot of spots) {
    const stepK = review.spots.find((candidate) => candidate.spotId === spot.id)?.load?.steps.stepK ?? 0;
    if (stepK > COARSER * Math.max(spot.resolutionK, 0.01))
      add(
        'resolution',
        'note',
        `${run.label}: ${spot.name} came in steps of ${Number(stepK.toPrecision(2))} K where ${spot.resolutionK} K is stated; the coarser is reckoned with.`,
        'State the resolution that the sensor has.',
        spot.id,
      );
  }
  const room = review.room;
  if (!room) {
    if (rules.basis !== 'as-found' && !(review.asGiven && rules.basis === 'rise'))
      add(
        'room',
        'blocks',
        `${run.label}: no room temperature was recorded while it was read.`,
        'Repeat with a room probe, or report as found.',
      );
  } else {
    const drift = Math.abs(room.driftK);
    if (drift > DRIFT_WEAKENS_K) {
      add(
        'room',
        drift > DRIFT_BLOCKS_K ? 'blocks' : 'weakens',
        `${run.label}: the room ${room.driftK > 0 ? 'rose' : 'fell'} ${fixed(drift, 1)} K during the reading, and the part follows late.`,
        'Repeat in a steady room.',
      );
    }
    const band = rules.roomBand;
    if (band && (room.minC < band.minC || room.maxC > band.maxC)) {
      add(
        'room',
        'weakens',
        `${run.label}: room ${fixed(room.minC, 1)} to ${fixed(room.maxC, 1)} °C, outside the band of ${band.minC} to ${band.maxC} °C.`,
        'Repeat inside the band.',
      );
    }
  }
  const throttle = review.throttle;
  const where = throttle?.of === 'clock' ? ', seen in its clock' : '';
  if (throttle && throttle.timeToFirstS !== null) {
    const lost = `${fixed(throttle.timeToFirstS / 60, 1)} min${where}, ${fixed(100 * throttle.performanceLost, 1)} % of the work lost`;
    add(
      'throttled',
      throttledInReading(run) ? 'blocks' : 'weakens',
      `${run.label}: throttled after ${lost}; its temperature was no longer free.`,
      'Compare time to throttle and throughput instead.',
    );
  }
  const held = throttle?.heldBack.filter((loss) => loss.limiter !== 'vanished') ?? [];
  if (held.length > 0) {
    const by = [...new Set(held.map((loss) => LIMITER_WORDS[loss.limiter]))].join(' and ');
    const deepest = Math.max(...held.map((loss) => loss.depth));
    add(
      'throttled',
      'note',
      `${run.label}: held back by ${by} from ${clock(held[0]!.startS)} on${where}, by up to ${fixed(100 * deepest, 0)} %; not by heat.`,
      '',
    );
  }
  if (review.goneShare > GONE_SHARE)
    add(
      'throttled',
      'blocks',
      `${run.label}: the part did not answer for ${fixed(100 * review.goneShare, 0)} % of the load.`,
      'Compare what was done before it vanished.',
    );
  for (const { name, unit, lock, watch } of review.locks) {
    if (watch.held) continue;
    const off = `${fixed(Math.abs(watch.largestOff), 1)}${unit ? ` ${unit}` : ''}`;
    // A fan that moved took part of the heat with it: what is left of the difference is not the temperature's alone.
    const fan = rules.fans === 'locked' && /fan/i.test(name);
    add(
      fan ? 'fan-policy' : 'held',
      fan ? 'blocks' : 'weakens',
      `${run.label}: ${name} was to be held at ${lock.value}${unit ? ` ${unit}` : ''} and was off it by up to ${off}, from ${clock(watch.leftAtS!)} on.`,
      'Lock it and repeat.',
    );
  }
  if (run.unconfirmed.length > 0)
    add('held', 'note', `${run.label}: ${run.unconfirmed.join(', ')} not confirmed as held.`, 'Confirm at the start of a run.');
  for (const { spotId, sensor, dueOn } of run.overdue)
    add('calibration', 'weakens', `${run.label}: the calibration of ${sensor} had fallen due on ${dueOn}.`, 'Calibrate it anew.', spotId);
  const busy = busyFinding(run, peers);
  if (busy) add(busy.check, busy.severity, busy.evidence, busy.remedy);
  return findings;
}
