import { mean } from '../../mean.ts';
import { ASSUMED_REPEATABILITY, withScatterOf } from '../figure/scatter.ts';
import { readingsAt } from '../figure/figureOf.ts';
import { withHottest } from '../figure/hottest.ts';
import { sideFigure } from '../figure/sideFigure.ts';
import { byMount, timedMounts } from '../figure/byMount.ts';
import { lookedAt } from '../figure/looked.ts';
import { countMounts } from '../figure/mountOf.ts';
import { pairFindings } from '../fair/pairFindings.ts';
import { runFindings } from '../fair/runFindings.ts';
import { OF_TEMPERATURE, sortOut } from '../fair/sortOut.ts';
import { whereCoolingWent } from '../outcome/cooling.ts';
import { judgeWork } from '../outcome/judgeWork.ts';
import { mayBeCalled } from '../fair/mayBeCalled.ts';
import { callOf } from './call.ts';
import { compareAt } from './compareAt.ts';
import { acrossSpots } from './severalSpots.ts';
import type { Finding, JudgedSide, JudgedSpot, JudgeInput, PairJudgement, SpotJudgement } from '../types.ts';

/** Where no run recorded the room the bench is taken at this, °C: only strips start from it. */
const USUAL_ROOM_C = 22;

function judgeSpot(
  a: JudgedSide,
  b: JudgedSide,
  spot: JudgedSpot,
  { rules, history, others = [] }: JudgeInput,
  roomC: number,
  stands: readonly Finding[],
): SpotJudgement {
  const read = (side: JudgedSide) => ({ name: side.name, readings: readingsAt(side, spot, rules) });
  const beside = (sides: readonly JudgedSide[]) =>
    withScatterOf(
      history[spot.id],
      sides.map((side) => byMount(readingsAt(side, spot, rules)).map((mount) => mount.figure)),
    );
  const timed = others.map((side) => timedMounts(readingsAt(side, spot, rules)));
  const made = compareAt(read(a), read(b), spot, rules, { scatter: beside(others), timed });
  const { comparison, scatter, refusal, restatedW, reach } = made;
  return {
    spotId: spot.id,
    a: sideFigure(a, spot, rules, roomC, beside([...others, b])),
    b: sideFigure(b, spot, rules, roomC, beside([...others, a])),
    comparison,
    coverage: made.coverage,
    call: callOf(made, stands, rules.practicalK),
    repeatability: scatter,
    restatedW,
    reach,
    refusal,
  };
}

/** The spot with the least room left on either side: where a comparison of coolers is decided. */
function tightestFirst(judged: readonly SpotJudgement[], spots: readonly JudgedSpot[]): Parameters<typeof whereCoolingWent>[3] {
  const left = (judgement: SpotJudgement) => {
    const limitC = spots.find((spot) => spot.id === judgement.spotId)?.limitC;
    const hottest = Math.max(judgement.a?.spotC ?? -Infinity, judgement.b?.spotC ?? -Infinity);
    return limitC == null ? Infinity : limitC - hottest;
  };
  const nameOf = ({ spotId }: SpotJudgement) => spots.find((spot) => spot.id === spotId)?.name ?? 'temperature';
  const [first, ...others] = [...judged].sort((p, q) => left(p) - left(q)).map((judgement) => ({ judgement, name: nameOf(judgement) }));
  return [first ?? { judgement: undefined, name: 'temperature' }, ...others];
}

const described = (side: JudgedSide) => ({
  variantId: side.variantId,
  name: side.name,
  runIds: side.runs.map((run) => run.id),
  mounts: side.runs.some((run) => run.mountNo !== null) ? countMounts(side) : null,
});

/**
 * Judges variant b against variant a: which runs take part, what speaks against comparing them, and per spot the difference
 * with its doubt and verdict (methods §§5 and 7).
 *
 * A run with a blocking finding is left out unless the tester signed it off for use; a rejected run always is. The bench's
 * history is pooled with both sides' scatter where there is one; without it a side that is left with one reading gets a stated
 * assumption and a finding.
 */
export function judgePair(asked: JudgeInput): PairJudgement {
  const input = asked.rules.figure === 'hottest' ? hottestFirst(asked) : asked;
  const { rules, spots } = input;
  const takePart = (side: JudgedSide, despite: Parameters<typeof sortOut>[3] = []) =>
    sortOut(
      side,
      side.runs.flatMap((run) => runFindings(run, spots, rules, side.runs)),
      rules,
      despite,
    ).used;
  const findings = [input.a, input.b].flatMap((side) => side.runs.flatMap((run) => runFindings(run, spots, rules, side.runs)));
  const a = sortOut(input.a, findings, rules);
  const b = sortOut(input.b, findings, rules);
  const rooms = [...a.used.runs, ...b.used.runs].flatMap((run) => (run.review.room ? [run.review.room.meanC] : []));
  const roomC = rooms.length > 0 ? mean(rooms) : USUAL_ROOM_C;
  const used = new Set([...a.used.runs, ...b.used.runs].map((run) => run.id));
  // Where a temperature is not free or cannot be used, the work, the time to throttle, the watts and the noise still speak.
  const [workA, workB] = [input.a, input.b].map((side) => takePart(side, OF_TEMPERATURE)) as [JudgedSide, JudgedSide];
  const workOthers = (input.others ?? []).map((side) => takePart(side, OF_TEMPERATURE));
  const seen = a.used.runs.length > 0 && b.used.runs.length > 0 ? [a.used, b.used] : [workA, workB];
  const stands = mayBeCalled(seen[0]!, seen[1]!, rules);
  const blockedBy = stands.filter((finding) => finding.severity === 'blocks');
  const others = (input.others ?? []).map((side) => takePart(side));
  const judged = acrossSpots(
    spots.map((spot) => judgeSpot(a.used, b.used, spot, { ...input, others }, roomC, stands)),
    lookedAt(rules, Math.min(countMounts(a.used), countMounts(b.used)))?.coverage ?? rules.coverage,
    rules.evidence,
  );
  const assumed = judged.find((spot) => spot.repeatability?.assumed);
  const between = pairFindings(seen[0]!, seen[1]!, spots, rules, assumed ? ASSUMED_REPEATABILITY.sd : null);
  // What stands on both sides differs from itself in nothing, whatever is looked at.
  const apart = !blockedBy.some((finding) => finding.check === 'shared-runs');
  const [outA, outB] = apart
    ? [workA, workB]
    : [
        { ...workA, runs: [] },
        { ...workB, runs: [] },
      ];
  return {
    a: described(a.used),
    b: described(b.used),
    roomC,
    spots: judged,
    work: judgeWork(outA.runs, outB.runs, rules, workOthers),
    cooling: whereCoolingWent(outA, outB, rules, tightestFirst(judged, spots), workOthers),
    blockedBy,
    withheldBy: stands.filter((finding) => finding.severity === 'withholds'),
    findings: [...findings.filter((finding) => finding.runId === null || used.has(finding.runId)), ...between],
    leftOut: [...a.leftOut, ...b.leftOut],
  };
}

function hottestFirst(input: JudgeInput): JudgeInput {
  const { sides, spots } = withHottest([input.a, input.b, ...(input.others ?? [])], input.spots);
  const [a, b, ...others] = sides;
  return { ...input, a: a!, b: b!, others, spots };
}
