import { Plus, Trash2 } from 'lucide-react';
import type { Study, VariantBody } from '@red-ember/contract';
import { useBenches } from '../data/benches.ts';
import type { StudyDraft } from '../study/useStudyDraft.ts';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, TextField } from '../ui/Field.tsx';
import { Section } from '../ui/Section.tsx';
import { withoutVariant } from './edits.ts';

type Setups = ReturnType<typeof useBenches>['setups'];

/** One variant: its name, its set-up, its part. What was measured is retired, what was not is removed. */
function VariantRow({
  variant,
  index,
  measured,
  setups,
  draft: { body, change },
}: {
  variant: VariantBody;
  index: number;
  measured: boolean;
  setups: Setups;
  draft: StudyDraft;
}) {
  const set = (part: Partial<VariantBody>) =>
    change({ variants: body.variants.map((entry, i) => (i === index ? { ...entry, ...part } : entry)) });
  return (
    <fieldset className="mb-3 grid items-start gap-x-3 gap-y-2 border-t border-rule pt-3 md:grid-cols-12">
      <legend className="sr-only">{variant.name}</legend>
      <TextField
        className="md:col-span-3"
        label="Variant"
        pointer={`/variants/${index}/name`}
        value={variant.name}
        onChange={(name) => set({ name })}
      />
      <ChoiceField
        className="md:col-span-3"
        label="Set-up on the simulated bench"
        pointer={`/variants/${index}/setup`}
        value={variant.setup}
        onChange={(setup) => set({ setup })}
        options={[
          { value: '', label: 'none: recorded logs only' },
          ...setups.map((setup) => ({ value: setup.key, label: setup.label })),
          ...(variant.setup !== '' && !setups.some((setup) => setup.key === variant.setup)
            ? [{ value: variant.setup, label: variant.setup }]
            : []),
        ]}
      />
      {body.subjects.length > 1 ? (
        <ChoiceField
          className="md:col-span-3"
          label="On the part"
          pointer={`/variants/${index}/subjectId`}
          value={variant.subjectId}
          onChange={(subjectId) => set({ subjectId })}
          options={body.subjects.map((subject) => ({ value: subject.id, label: subject.name }))}
        />
      ) : null}
      <TextField
        className="md:col-span-3"
        label="Notes"
        pointer={`/variants/${index}/notes`}
        value={variant.notes}
        onChange={(notes) => set({ notes })}
      />
      <label className="flex items-center gap-2 pt-7 md:col-span-2">
        <input
          type="radio"
          name="reference"
          checked={variant.isReference}
          onChange={() => change({ variants: body.variants.map((entry, i) => ({ ...entry, isReference: i === index })) })}
        />{' '}
        reference
      </label>
      <div className="flex justify-end pt-6 md:col-span-1">
        {measured ? (
          <Button
            look="quiet"
            className="!px-1"
            title={variant.retired ? 'Plan runs of it again' : 'It has mounts or runs: these stay, and no more are planned'}
            onClick={() => set({ retired: !variant.retired })}
          >
            {variant.retired ? 'Take up again' : 'Retire'}
            <span className="sr-only"> {variant.name}</span>
          </Button>
        ) : (
          <Button
            look="quiet"
            className="!px-1"
            onClick={() => change(withoutVariant(body, variant.id))}
            aria-label={`Remove ${variant.name}`}
          >
            <Trash2 size={16} aria-hidden />
          </Button>
        )}
      </div>
    </fieldset>
  );
}

export function Variants({ study, draft }: { study: Study; draft: StudyDraft }) {
  const { body, change } = draft;
  const { setups } = useBenches(study.family);
  const addVariant = () =>
    change({
      variants: [
        ...body.variants,
        {
          id: crypto.randomUUID(),
          name: body.variants.length === 0 ? 'bare' : `variant ${body.variants.length + 1}`,
          subjectId: body.variants.at(-1)?.subjectId ?? body.subjects[0]!.id,
          isReference: body.variants.length === 0,
          setup: setups[Math.min(body.variants.length, setups.length - 1)]?.key ?? '',
          notes: '',
        },
      ],
    });
  return (
    <Section
      title="Variants"
      action={
        <Button onClick={addVariant}>
          <Plus size={16} aria-hidden /> Add a variant
        </Button>
      }
    >
      {body.variants.map((variant, index) => (
        <VariantRow
          key={variant.id}
          variant={variant}
          index={index}
          measured={study.variantsWithRuns.includes(variant.id)}
          setups={setups}
          draft={draft}
        />
      ))}
      {body.variants.length < 2 ? <p className="text-soft">A comparison needs two: the part as it is, and what you put on it.</p> : null}
    </Section>
  );
}
