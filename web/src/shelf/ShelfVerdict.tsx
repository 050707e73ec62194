import { headroomWords } from '@red-ember/core';
import { useVerdictQuery } from '../data/api.ts';
import { useDegrees } from '../data/useDegrees.ts';
import { toneOf } from '../ui/tones.ts';
import { HeadroomStrip, type StripTone } from '../ui/HeadroomStrip.tsx';

const OUTCOMES = { supported: 'claim supported', contradicted: 'claim contradicted', 'not-shown': 'claim not shown' };

/** The tightest spot of a study in two strips, and what became of the claim. */
export function ShelfVerdict({ studyId }: { studyId: string }) {
  const { text } = useDegrees();
  const { data: verdict } = useVerdictQuery({ studyId });
  if (!verdict) return <div aria-hidden />;
  const { judgement } = verdict;
  const sides = judgement.spots.flatMap((spot) => {
    const limitC = verdict.spots.find((judged) => judged.id === spot.spotId)?.limitC ?? undefined;
    const worst = Math.max(spot.a?.spotC ?? -Infinity, spot.b?.spotC ?? -Infinity);
    return limitC === undefined || !Number.isFinite(worst) ? [] : [{ spot, limitC, headroomK: limitC - worst }];
  });
  const tightest = sides.sort((p, q) => p.headroomK - q.headroomK)[0];
  if (!tightest) return <p className="self-center text-[0.87rem] text-soft">{text(verdict.refusal ?? '')}</p>;
  const name = verdict.spots.find((judged) => judged.id === tightest.spot.spotId)!.name;
  const rows = [
    ['a', 'stone'],
    ['b', toneOf(tightest.spot.call)],
  ] as ['a' | 'b', StripTone][];
  return (
    <div className="self-center text-[0.87rem]">
      <p className="mb-1 flex justify-between gap-3 text-soft">
        <span className="truncate">{name}, the tightest</span>
        <span className="whitespace-nowrap">{verdict.claims[0] && !verdict.refusal ? OUTCOMES[verdict.claims[0].outcome] : ''}</span>
      </p>
      {rows.map(([side, tone]) => {
        const figure = tightest.spot[side];
        return figure ? (
          <div key={side} className="grid grid-cols-[4.6rem_minmax(0,1fr)_3.4rem] items-center gap-2">
            <span className="truncate text-soft">{judgement[side].name}</span>
            <HeadroomStrip
              label={`${name}, ${judgement[side].name}`}
              roomC={judgement.roomC}
              limitC={tightest.limitC}
              spotC={figure.spotC}
              doubtK={figure.doubtK}
              idleC={figure.idleC}
              tone={tone}
              height={7}
            />
            <span className="text-right">{text(headroomWords(tightest.limitC - figure.spotC))}</span>
          </div>
        ) : null;
      })}
    </div>
  );
}
