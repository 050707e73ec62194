import { fixed, headroomWords, midSentence } from '@red-ember/core';
import type { PairVerdict, Study } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import { useInHand } from '../../ui/useInHand.ts';
import { tightestInAir } from './restate.ts';

/** The air of the enclosure, and which spot of each side passes its limit first in it. */
export function AirSlider({
  study,
  verdict,
  air,
  onAir,
}: {
  study: Study;
  verdict: PairVerdict;
  air: number;
  onAir: (air: number) => void;
}) {
  const { text } = useDegrees();
  const inHand = useInHand(String(air), (value) => onAir(Number(value)));
  const airC = Number(inHand.value);
  const words = tightestInAir(verdict.judgement, study, airC);
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-ink py-3">
      <label htmlFor="air" className="first-letter:uppercase inline-block">
        {study.enclosure.name} air
      </label>
      <input id="air" type="range" min={15} max={50} step={0.5} {...inHand} className="w-52 accent-ink" />
      <output htmlFor="air" className="w-16 font-semibold">
        {text(`${fixed(airC, 1)} °C`)}
      </output>
      <span className="text-[0.93rem] text-soft">
        dashed on the strips, calculated ·{' '}
        {words.map((word, i) => (
          <span key={word.side} className={word.headroomK === null || word.headroomK < 0 ? 'font-semibold text-ember-text' : ''}>
            {i > 0 ? ' · ' : ''}
            {word.side}: {word.headroomK === null ? 'runs away' : `${midSentence(word.spot)} ${text(headroomWords(word.headroomK, 1))}`}
          </span>
        ))}
      </span>
    </div>
  );
}
