import { Plus } from 'lucide-react';
import { Link } from 'react-router';
import type { RecipePhaseBody } from '@red-ember/contract';
import { SAMPLE_INTERVALS_MS, USUAL_SAMPLE_INTERVAL_MS } from '@red-ember/study';
import type { StudyDraft } from '../study/useStudyDraft.ts';
import { Note } from '../frame/Margin.tsx';
import { Button } from '../ui/Button.tsx';
import { ChoiceField } from '../ui/Field.tsx';
import { Section } from '../ui/Section.tsx';
import { PhaseEditor } from './PhaseEditor.tsx';
import { RecipeTimeline } from './RecipeTimeline.tsx';

function swap<T>(list: T[], i: number, j: number): T[] {
  const copy = [...list];
  [copy[i], copy[j]] = [copy[j]!, copy[i]!];
  return copy;
}

/** The phases of one run, to scale and one by one. */
export function Recipe({ body, change }: Pick<StudyDraft, 'body' | 'change'>) {
  const setPhase = (index: number, part: Partial<RecipePhaseBody>) =>
    change({ recipe: body.recipe.map((phase, i) => (i === index ? { ...phase, ...part } : phase)) });
  const addPhase = () =>
    change({
      recipe: [...body.recipe, { kind: 'load', name: 'Load again', mode: 'until-settled', durationS: 600, capS: 3600, loadPercent: 100 }],
    });
  return (
    <Section
      title="Recipe of a run"
      hint="the same for every variant"
      action={
        <Button onClick={addPhase}>
          <Plus size={16} aria-hidden /> Add a phase
        </Button>
      }
    >
      <RecipeTimeline recipe={body.recipe} onChange={setPhase} />
      <div className="mt-4 grid gap-x-6 sm:grid-cols-3">
        <ChoiceField
          label="Samples"
          pointer="/plan/sampleIntervalMs"
          value={String(body.plan.sampleIntervalMs ?? USUAL_SAMPLE_INTERVAL_MS)}
          options={SAMPLE_INTERVALS_MS.map((ms) => ({ value: String(ms), label: `${1000 / ms} a second` }))}
          onChange={(ms) => change({ plan: { ...body.plan, sampleIntervalMs: Number(ms) } })}
        />
      </div>
      {body.recipe.some(({ mode }) => mode === 'until-read') && body.rules.figure !== 'settled-value' ? (
        <div className="mt-4">
          <Note tone="caution">
            A load that ends when it can be read is not settled then. Choose the settled value at <Link to="../ask">Ask</Link>: by any other
            figure all that was still to come is left in doubt.
          </Note>
        </div>
      ) : null}
      <div className="mt-5">
        {body.recipe.map((phase, index) => (
          <PhaseEditor
            key={index}
            phase={phase}
            index={index}
            last={index === body.recipe.length - 1}
            change={(part) => setPhase(index, part)}
            replace={(now) => change({ recipe: body.recipe.map((entry, i) => (i === index ? now : entry)) })}
            remove={() => change({ recipe: body.recipe.filter((_, i) => i !== index) })}
            move={(by) => change({ recipe: swap(body.recipe, index, index + by) })}
          />
        ))}
      </div>
    </Section>
  );
}
