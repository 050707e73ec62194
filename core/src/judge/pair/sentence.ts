import { reachWords } from '../../review/reach.ts';
import { duration, fixed } from '../../format/measured.ts';
import { capital, listWords, midSentence } from '../../format/words.ts';
import type { ClaimOutcome } from '../claim/claim.ts';
import { callWords, namesASide } from './call.ts';
import type { JudgedSpot, PairJudgement, SpotJudgement } from '../types.ts';

export interface Segment {
  text: string;
  tone: 'plain' | 'cooler' | 'warmer' | 'strong';
}

function list(items: Segment[][]): Segment[] {
  return items.flatMap((item, i) => [
    ...(i === 0 ? [] : [{ text: i === items.length - 1 ? ' and ' : ', ', tone: 'plain' as const }]),
    ...item,
  ]);
}

/** Differences this large first; a call before what is merely equivalent. */
function rank(spot: SpotJudgement): number {
  return -Math.abs(spot.comparison?.difference.value ?? 0);
}

/** Where a side has no temperature left because the part held its own, no more runs like them will bring one. */
function notCompared({ a, b, work }: PairJudgement): string {
  const held = [
    { side: a, by: work.throttled.a },
    { side: b, by: work.throttled.b },
  ].filter(({ side, by }) => side.runIds.length === 0 && by.runs > 0);
  if (a.name === '' || b.name === '') return `There is nothing yet to hold ${a.name || b.name || 'it'} against.`;
  if (held.length === 0) return `${a.name} and ${b.name} cannot be compared yet.`;
  const who = listWords(held.map(({ side }) => side.name));
  return `${capital(a.name)} and ${b.name} cannot be compared by temperature: ${who} throttled, and held ${held.length > 1 ? 'their' : 'its'} own.`;
}

/** A spot that would be called if it were the only one. */
function byItself(compared: readonly SpotJudgement[], nameOf: (spot: SpotJudgement) => string): string {
  const [first] = compared.filter((spot) => spot.call.byItself).sort((p, q) => rank(p) - rank(q));
  if (!first) return '';
  return `: ${nameOf(first)} reads ${first.call.kind} by itself, which among ${compared.length} spots may be chance`;
}

/**
 * The verdict as one sentence set large: which spots variant b cools or heats, by how much, and what that makes of the claim.
 * Segments carry their tone, so that page and report can set them alike.
 */
export function verdictSentence(
  judgement: PairJudgement,
  spots: readonly JudgedSpot[],
  claim: { outcome: ClaimOutcome; text: string } | null,
): Segment[] {
  const subject = judgement.b.name;
  const nameOf = (spot: SpotJudgement) => midSentence(spots.find((candidate) => candidate.id === spot.spotId)?.name ?? spot.spotId);
  const all = judgement.spots.filter((spot) => spot.comparison);
  // What is not called of the part beside it says nothing of the one that is measured, where nothing else stands against a call.
  const ofNeighbour = new Set(spots.filter((spot) => spot.ofNeighbour).map(({ id }) => id));
  const aside = ({ spotId, call }: SpotJudgement) =>
    call.kind === 'withheld' && judgement.withheldBy.length === 0 && ofNeighbour.has(spotId);
  const own = all.filter((spot) => !aside(spot));
  const compared = own.length > 0 ? own : all;
  const [block] = judgement.blockedBy;
  if (block)
    return [
      { text: `${capital(subject)} against ${judgement.a.name} is `, tone: 'plain' },
      { text: 'blocked', tone: 'strong' },
      { text: `. ${capital(block.evidence)}`, tone: 'plain' },
    ];
  if (compared.length === 0 && judgement.cooling.rows.some((row) => row.better !== null))
    return [{ text: capital(judgement.cooling.sentence), tone: 'plain' }];
  if (compared.length === 0) return [{ text: notCompared(judgement), tone: 'plain' }];
  const withheld = compared.filter((spot) => spot.call.kind === 'withheld').sort((p, q) => rank(p) - rank(q));
  if (withheld.length > 0) {
    const [first] = withheld as [SpotJudgement];
    const { value } = first.comparison!.difference;
    const { why, earnBy } = first.call;
    return [
      {
        text: `${capital(subject)} reads ${value < 0 ? 'lower' : 'higher'} by ${fixed(Math.abs(value), 1)} K at ${nameOf(first)}; `,
        tone: 'plain',
      },
      { text: 'not called', tone: 'strong' },
      {
        text: `: ${why}. To earn it: ${earnBy!.what}${earnBy!.minutes > 0 ? `, about ${duration(60 * earnBy!.minutes)}` : ''}.`,
        tone: 'plain',
      },
    ];
  }
  const called = compared.filter((spot) => namesASide(spot.call) && !spot.call.byItself).sort((p, q) => rank(p) - rank(q));
  const clause = (spot: SpotJudgement): Segment[] => {
    const { value } = spot.comparison!.difference;
    const { tone } = callWords(spot.call);
    return [
      {
        text: `${tone === 'cooler' ? 'cools' : 'heats'} ${nameOf(spot)} by ${reachWords(spot.reach)}${fixed(Math.abs(value), 1)} K`,
        tone,
      },
    ];
  };
  const start: Segment = { text: `${capital(subject)} `, tone: 'plain' };
  const body =
    called.length > 0
      ? list(called.slice(0, 3).map(clause))
      : compared.every((spot) => spot.call.kind === 'equivalent')
        ? [{ text: 'makes no difference that matters', tone: 'strong' as const }]
        : [
            { text: 'cannot be told from ', tone: 'plain' as const },
            { text: judgement.a.name, tone: 'strong' as const },
            { text: ` with these runs${byItself(compared, nameOf)}`, tone: 'plain' as const },
          ];
  const end: Segment[] = claim
    ? [
        { text: `. The claim “${claim.text.replace(/[.\s]+$/, '')}” is `, tone: 'plain' },
        { text: { supported: 'supported', contradicted: 'contradicted', 'not-shown': 'not shown' }[claim.outcome], tone: 'strong' },
        { text: '.', tone: 'plain' },
      ]
    : [{ text: '.', tone: 'plain' }];
  return [start, ...body, ...end];
}
