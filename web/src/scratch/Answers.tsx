import { fixed, measured, type ScratchAnswer } from '@red-ember/core';
import { useDegrees } from '../data/useDegrees.ts';

/** Twice the standard uncertainty: what the interval of a number off a note comes to. */
const COVERED = 2;
const DECIMALS: Record<string, number> = { 'K/W': 3, '%': 0 };

/** An answer as it is shown: in the degrees that were chosen, with its doubt where one was typed. */
function useShown() {
  const degrees = useDegrees();
  return ({ value, unit }: ScratchAnswer): string => {
    if (!value) return 'cannot be said';
    const [amount, u, as] =
      unit === 'K'
        ? [degrees.step(value.value), degrees.step(value.u), degrees.stepUnit]
        : unit === '°C'
          ? [degrees.temp(value.value), degrees.step(value.u), degrees.tempUnit]
          : [value.value, value.u, unit];
    return u > 0
      ? measured(amount, COVERED * u, as, { most: unit === 'K/W' ? DECIMALS[unit]! : 2 })
      : `${fixed(amount, DECIMALS[unit] ?? 1)} ${as}`;
  };
}

function Group({ title, answers }: { title: string; answers: ScratchAnswer[] }) {
  const shown = useShown();
  const { text } = useDegrees();
  return (
    <section className="mb-6" aria-label={title}>
      <h2 className="mb-1">{title}</h2>
      <dl>
        {answers.map((answer) => (
          <div key={answer.key} className="grid grid-cols-[minmax(8.5rem,1fr)_auto] items-baseline gap-x-5 border-t border-rule py-1.5">
            <dt>
              {text(answer.label)}
              <span className="block text-[0.87rem] text-soft">{text(answer.how)}</span>
            </dt>
            <dd className={answer.value ? 'num text-[1.15rem] font-semibold' : 'text-soft'}>{shown(answer)}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

const NOISE = ['sum', 'free'];

/** Everything that the note says, by what it is about. */
export function Answers({ answers }: { answers: ScratchAnswer[] }) {
  if (answers.length === 0)
    return (
      <p className="text-soft">Type what stands on the note. Whatever follows from it stands here at once, with how it was worked out.</p>
    );
  const spots = [...new Set(answers.map(({ about }) => about).filter(Boolean))];
  const bare = answers.filter(({ about }) => about === '');
  const groups = [
    { title: 'The air', answers: bare.filter(({ key }) => !NOISE.includes(key) && key !== 'joint') },
    ...spots.map((name) => ({ title: name, answers: answers.filter(({ about }) => about === name) })),
    { title: 'Noise', answers: bare.filter(({ key }) => NOISE.includes(key)) },
    { title: 'Pad or paste', answers: bare.filter(({ key }) => key === 'joint') },
  ];
  return (
    <div aria-live="polite">
      {groups
        .filter((group) => group.answers.length > 0)
        .map((group) => (
          <Group key={group.title} {...group} />
        ))}
    </div>
  );
}
