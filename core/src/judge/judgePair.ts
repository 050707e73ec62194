import { InsufficientDataError } from '../errors.ts';
import { welchSatterthwaite, type Estimate } from '../estimate.ts';
import { capital } from '../format/words.ts';
import { combineUncertainty, type UncertaintyComponent } from '../uncertainty/combineUncertainty.ts';
import { compare } from '../uncertainty/compare.ts';
import { pooledRepeatability } from '../uncertainty/pooledRepeatability.ts';
import { typeB } from '../uncertainty/typeB.ts';
import type { PhaseReading } from '../review/types.ts';
import { CLAIM_UNITS } from './claim.ts';
import { countMounts, pairFindings } from './pairFindings.ts';
import { runFindings } from './runFindings.ts';
import { withHottest } from './hottest.ts';
import { whereCoolingWent } from './cooling.ts';
import { figureOfReading, restatedFigure } from './restate.ts';
import { judgeWork } from './judgeWork.ts';
import type {
  FairnessCheck,
  Finding,
  JudgedRun,
  JudgedSide,
  JudgedSpot,
  JudgeRules,
  LeftOut,
  PairJudgement,
  SideFigure,
  SpotJudgement,
} from './types.ts';

/** Scatter between runs assumed where the bench has no history yet; a finding says so (methods §5). */
export const ASSUMED_REPEATABILITY = { sd: 0.6, dof: 4 };
/** Half-width of the room assumed where none was recorded, K (methods §1). */
const ASSUMED_ROOM_K = 2;

export interface JudgeInput {
  a: JudgedSide;
  b: JudgedSide;
  spots: JudgedSpot[];
  rules: JudgeRules;
  /** The bench's pooled scatter from other studies, by spot id; a spot without history is left out. */
  history: Readonly<Record<string, Scatter>>;
}

function loadReading(run: JudgedRun, spotId: string): PhaseReading | null {
  return run.review.spots.find((spot) => spot.spotId === spotId)?.load ?? null;
}

/** The study's figure of one run at one spot, restated where the rules say so; null where it could not be read. */
export function figureOf(run: JudgedRun, spotId: string, rules: JudgeRules): Estimate | null {
  return rules.restate
    ? restatedFigure(run, spotId, rules.basis, rules.figure, rules.restate)
    : figureOfReading(loadReading(run, spotId), rules.basis, rules.figure);
}

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

function average(values: number[]): number {
  return values.reduce((sum, value) => sum + value / values.length, 0);
}

interface Scatter {
  sd: number;
  dof: number;
}

/** Scatter of this side and scatter known beforehand, weighted by their degrees of freedom. */
function poolScatter(own: Scatter | null, known: Scatter | null): Scatter | null {
  if (!own || !known) return own ?? known;
  const dof = own.dof + known.dof;
  return { sd: Math.sqrt((own.dof * own.sd ** 2 + known.dof * known.sd ** 2) / dof), dof };
}

/** Lines that do not cancel in a single side's figure. */
function absoluteLines(figures: Estimate[], spot: JudgedSpot, rules: JudgeRules, known: Scatter | null): UncertaintyComponent[] {
  const n = figures.length;
  const own = poolScatter(pooledRepeatability([figures.map((figure) => figure.value)]), known);
  const floor = Math.hypot(...figures.map((figure) => figure.u)) / n;
  const scatter = (own?.sd ?? 0) / Math.sqrt(n);
  const lines: UncertaintyComponent[] = [
    scatter >= floor
      ? { name: 'scatter between runs', u: scatter, dof: own?.dof ?? Infinity }
      : { name: 'noise in the window', u: floor, dof: welchSatterthwaite(figures) },
    { name: 'sensor accuracy', u: typeB(spot.accuracyK, 'rectangular') },
    { name: 'sensor resolution', u: typeB(spot.resolutionK / 2, 'rectangular') },
  ];
  if (rules.basis === 'as-found') lines.push({ name: 'room not recorded', u: typeB(ASSUMED_ROOM_K, 'rectangular') });
  return lines;
}

function sideFigure(side: JudgedSide, spot: JudgedSpot, rules: JudgeRules, roomC: number, scatter: Scatter | null): SideFigure | null {
  const readable = side.runs.flatMap((run) => {
    const figure = figureOf(run, spot.id, rules);
    return figure ? [{ figure, load: loadReading(run, spot.id)!, run }] : [];
  });
  if (readable.length === 0) return null;
  const figures = readable.map((entry) => entry.figure);
  const value = average(figures.map((figure) => figure.value));
  const budget = combineUncertainty(absoluteLines(figures, spot, rules, scatter), { coverage: rules.coverage });
  const idles = readable.flatMap(({ run }) => {
    const idle = run.review.spots.find((candidate) => candidate.spotId === spot.id)?.idle;
    const reading = rules.basis === 'rise' ? idle?.rise : idle?.absolute;
    return reading ? [reading.mean.value] : [];
  });
  const toC = (figure: number) => (rules.basis === 'rise' ? roomC + figure : figure);
  return {
    runs: readable.length,
    figure: { value, u: budget.u, dof: budget.dof },
    doubtK: budget.expanded,
    budget,
    spotC: toC(value),
    idleC: idles.length > 0 ? toC(average(idles)) : null,
    peakC: Math.max(...readable.map(({ load }) => load.peakC)),
  };
}

/** Lines of the difference that do not cancel between the sides. */
function independentLines(a: JudgedSide, b: JudgedSide, spot: JudgedSpot, rules: JudgeRules): { name: string; u: number }[] {
  const sides = [a, b].map((side) => side.name);
  const lines = sides.map((name) => ({ name: `sensor resolution, ${name}`, u: typeB(spot.resolutionK / 2, 'rectangular') }));
  const sensors = new Set([...a.runs, ...b.runs].map((run) => run.sensors[spot.id]).filter(Boolean));
  if (sensors.size > 1) for (const name of sides) lines.push({ name: `sensor accuracy, ${name}`, u: typeB(spot.accuracyK, 'rectangular') });
  if (rules.basis === 'as-found')
    for (const name of sides) lines.push({ name: `room not recorded, ${name}`, u: typeB(ASSUMED_ROOM_K, 'rectangular') });
  return lines;
}

function judgeSpot(a: JudgedSide, b: JudgedSide, spot: JudgedSpot, input: JudgeInput, roomC: number, lone: boolean): SpotJudgement {
  const { rules } = input;
  const known = input.history[spot.id] ?? (lone ? ASSUMED_REPEATABILITY : null);
  const figures = [a, b].map((side) => side.runs.flatMap((run) => figureOf(run, spot.id, rules) ?? []));
  const result: SpotJudgement = {
    spotId: spot.id,
    a: sideFigure(a, spot, rules, roomC, known),
    b: sideFigure(b, spot, rules, roomC, known),
    repeatability: known && { ...known, assumed: !input.history[spot.id] },
    comparison: null,
    refusal: null,
  };
  if (!result.a || !result.b) {
    const missing = [!result.a && a.name, !result.b && b.name].filter(Boolean).join(' and ');
    return { ...result, refusal: `No usable reading of ${missing}.` };
  }
  try {
    result.comparison = compare({
      a: figures[0]!,
      b: figures[1]!,
      practicalK: rules.practicalK,
      coverage: rules.coverage,
      ...(known ? { repeatability: { sd: known.sd, dof: known.dof } } : {}),
      independent: independentLines(a, b, spot, rules),
    });
  } catch (error) {
    if (!(error instanceof InsufficientDataError)) throw error;
    result.refusal = 'Too few runs to tell a difference from scatter.';
  }
  return result;
}

/** The spot with the least room left on either side: where a comparison of coolers is decided. */
function tightestSpot(
  judged: readonly SpotJudgement[],
  spots: readonly JudgedSpot[],
): { judgement: SpotJudgement | undefined; name: string } {
  const left = (judgement: SpotJudgement) => {
    const limitC = spots.find((spot) => spot.id === judgement.spotId)?.limitC;
    const hottest = Math.max(judgement.a?.spotC ?? -Infinity, judgement.b?.spotC ?? -Infinity);
    return limitC == null ? Infinity : limitC - hottest;
  };
  const judgement = [...judged].sort((p, q) => left(p) - left(q))[0];
  return { judgement, name: spots.find((spot) => spot.id === judgement?.spotId)?.name ?? 'temperature' };
}

/**
 * Judges variant b against variant a: which runs take part, what speaks against comparing them, and per spot the difference
 * with its doubt and verdict (methods §§5 and 7).
 *
 * A run with a blocking finding is left out unless the tester signed it off for use; a rejected run always is. The bench's
 * history is pooled with both sides' scatter where there is one; without it a side that is left with one run gets a stated
 * assumption and a finding.
 */
export function judgePair(asked: JudgeInput): PairJudgement {
  const input = asked.rules.figure === 'hottest' ? withHottest(asked) : asked;
  const { rules, spots } = input;
  const findings = [...input.a.runs, ...input.b.runs].flatMap((run) => runFindings(run, spots, rules));
  const a = sortOut(input.a, findings, rules);
  const b = sortOut(input.b, findings, rules);
  const lone = a.used.runs.length === 1 || b.used.runs.length === 1;
  const rooms = [...a.used.runs, ...b.used.runs].flatMap((run) => (run.review.room ? [run.review.room.meanC] : []));
  const roomC = rooms.length > 0 ? average(rooms) : 22;
  const leftOut = [...a.leftOut, ...b.leftOut];
  const used = new Set([...a.used.runs, ...b.used.runs].map((run) => run.id));
  const assumedSd = lone && spots.some((spot) => !input.history[spot.id]) ? ASSUMED_REPEATABILITY.sd : null;
  const judged = spots.map((spot) => judgeSpot(a.used, b.used, spot, input, roomC, lone));
  // A part that throttles has no free temperature, but its work and its time to throttle still speak.
  const [workA, workB] = [input.a, input.b].map((side) => sortOut(side, findings, rules, ['throttled']).used) as [JudgedSide, JudgedSide];
  const seen = a.used.runs.length > 0 && b.used.runs.length > 0 ? [a.used, b.used] : [workA, workB];
  const between = pairFindings(seen[0]!, seen[1]!, spots, rules, assumedSd);
  const tightest = tightestSpot(judged, spots);
  const blockedBy = between.filter((finding) => finding.severity === 'blocks');
  return {
    a: { variantId: a.used.variantId, name: a.used.name, runIds: a.used.runs.map((run) => run.id), mounts: countMounts(a.used.runs) },
    b: { variantId: b.used.variantId, name: b.used.name, runIds: b.used.runs.map((run) => run.id), mounts: countMounts(b.used.runs) },
    roomC,
    spots: judged,
    work: judgeWork(workA.runs, workB.runs, rules.coverage, rules.throughputUnit ?? CLAIM_UNITS.throughput),
    cooling: whereCoolingWent(workA, workB, rules, tightest, blockedBy.length > 0),
    blockedBy,
    findings: [...findings.filter((finding) => finding.runId === null || used.has(finding.runId)), ...between],
    leftOut,
  };
}
