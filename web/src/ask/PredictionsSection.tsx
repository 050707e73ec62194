import { Plus, Trash2 } from 'lucide-react';
import { fixed, signed } from '@red-ember/core';
import type { PredictionBody, StudyBody } from '@red-ember/contract';
import { PREDICTED_OUTCOMES } from '@red-ember/study';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { Section } from '../ui/Section.tsx';
import type { StudyDraft } from '../study/useStudyDraft.ts';
import { outcomeOptions, spotOptions, unitOf, variantOptions } from './ClaimsSection.tsx';
import { timeOf } from '../ui/dates.ts';
import { Shown } from '../ui/Shown.tsx';

const aboutOf = ({ outcome = 'temperature' }: PredictionBody) => outcome;
const ofTemperature = (prediction: PredictionBody) => aboutOf(prediction) === 'temperature';

/** As it was typed, with one decimal at least. */
const amount = (value: number, sign = false) => {
  const decimals = Math.max(1, String(Math.abs(value)).split('.')[1]?.length ?? 0);
  return sign ? signed(value, decimals) : fixed(value, decimals);
};

function placeOf(body: StudyBody, prediction: PredictionBody): string {
  if (ofTemperature(prediction)) return `at ${body.spots.find((spot) => spot.id === prediction.spotId)?.name ?? 'a spot that is gone'}`;
  const about = outcomeOptions(body, PREDICTED_OUTCOMES).find(({ value }) => value === prediction.outcome);
  return `in ${about?.label ?? 'a figure that is gone'}`;
}

function PredictionRow({
  body,
  prediction,
  index,
  written,
  set,
  remove,
}: {
  body: StudyBody;
  prediction: PredictionBody;
  index: number;
  /** When, in words. */
  written: string;
  set: (part: Partial<PredictionBody>) => void;
  remove: () => void;
}) {
  const [first] = body.spots;
  const at = (field: keyof PredictionBody) => `/predictions/${index}/${field}`;
  return (
    <fieldset className="mb-3 grid gap-x-4 gap-y-2 border-t border-rule pt-3 md:grid-cols-12">
      <legend className="sr-only">Prediction {index + 1}</legend>
      {body.variants.length > 2 || prediction.variantId ? (
        <ChoiceField
          className="md:col-span-12"
          label="Of"
          pointer={at('variantId')}
          value={prediction.variantId ?? ''}
          onChange={(id) => set({ variantId: id === '' ? null : id })}
          options={variantOptions(body)}
        />
      ) : null}
      <ChoiceField
        className="md:col-span-2"
        label="About"
        pointer={at('outcome')}
        value={aboutOf(prediction)}
        onChange={(outcome) => set({ outcome, spotId: outcome === 'temperature' ? (first?.id ?? '') : '' })}
        options={outcomeOptions(body, PREDICTED_OUTCOMES).filter(({ value }) => value !== 'temperature' || first !== undefined)}
      />
      {ofTemperature(prediction) ? (
        <ChoiceField
          className="md:col-span-3"
          label="Spot"
          pointer={at('spotId')}
          value={prediction.spotId}
          onChange={(spotId) => set({ spotId })}
          options={spotOptions(body)}
        />
      ) : (
        <span className="hidden md:col-span-3 md:block" />
      )}
      <NumberField
        className="md:col-span-3"
        label="Change against the reference"
        unit={unitOf(body, aboutOf(prediction))}
        pointer={at('expectedK')}
        value={prediction.expectedK}
        onChange={(expectedK) => set({ expectedK })}
        hint={ofTemperature(prediction) ? 'Negative is cooler.' : 'Negative is less.'}
      />
      <NumberField
        className="md:col-span-3"
        label="Give or take"
        unit={unitOf(body, aboutOf(prediction))}
        pointer={at('plusMinusK')}
        value={prediction.plusMinusK}
        onChange={(plusMinusK) => set({ plusMinusK })}
      />
      <div className="flex justify-end pt-7 md:col-span-1">
        <Button look="quiet" className="!px-1" aria-label={`Remove prediction ${index + 1}`} onClick={remove}>
          <Trash2 size={16} aria-hidden />
        </Button>
      </div>
      <TextField
        className="md:col-span-12"
        label="Why"
        hint={written}
        pointer={at('text')}
        value={prediction.text}
        onChange={(text) => set({ text })}
      />
    </fieldset>
  );
}

/** Since when nothing can be changed; variants that came later had theirs written before their own first run. */
function fixedWords(locked: string, predictions: readonly PredictionBody[], stamps: Record<string, string>): string {
  const later = predictions.filter(({ id }) => (stamps[id] ?? '') > locked).length;
  const fixed = `Fixed since the first run, ${locked.slice(0, 10)}`;
  if (later === 0) return `${fixed}.`;
  return `${fixed}; ${later === 1 ? 'one is of a variant' : `${later} are of variants`} that came later, written before a run of it.`;
}

/** What the tester expects, spot by spot. Open until the first run starts; after that a record and no form. */
export function PredictionsSection({
  body,
  change,
  locked,
  stamps,
}: Pick<StudyDraft, 'body' | 'change'> & { locked: string | null; stamps: Record<string, string> }) {
  const written = (id: string) => (stamps[id] ? `written ${timeOf(stamps[id])}` : 'stamped when it is saved');
  const ofVariant = ({ variantId }: PredictionBody) => {
    const variant = body.variants.find((candidate) => candidate.id === variantId);
    return variant ? `of ${variant.name}` : '';
  };
  const { predictions } = body;
  const first = body.spots[0];
  const set = (index: number, part: Partial<PredictionBody>) =>
    change({ predictions: predictions.map((entry, i) => (i === index ? { ...entry, ...part } : entry)) });
  if (locked)
    return (
      <Section title="What you expected" hint={fixedWords(locked, predictions, stamps)}>
        {predictions.length === 0 ? <p className="text-soft">No prediction was written down before the first run.</p> : null}
        <ul className="grid gap-2">
          {predictions.map((prediction) => (
            <li key={prediction.id} className="border-l-[3px] border-stone/60 pl-3">
              <b className="font-semibold">
                <Shown>
                  {amount(prediction.expectedK, true)} ± {amount(prediction.plusMinusK)} {unitOf(body, aboutOf(prediction))}
                </Shown>
              </b>{' '}
              {ofVariant(prediction)} {placeOf(body, prediction)}
              <span className="text-soft">
                {prediction.text ? `. ${prediction.text}` : ''} <span className="text-[0.87rem]">({written(prediction.id)})</span>
              </span>
            </li>
          ))}
        </ul>
      </Section>
    );
  return (
    <Section
      title="What you expect"
      hint={
        predictions.length === 0
          ? 'Written before the runs, fixed by the first of them, scored afterwards.'
          : 'Fixed when the first run starts.'
      }
      action={
        <Button
          disabled={!first}
          onClick={() =>
            change({ predictions: [...predictions, { id: crypto.randomUUID(), text: '', spotId: first!.id, expectedK: 0, plusMinusK: 1 }] })
          }
        >
          <Plus size={16} aria-hidden /> {predictions.length === 0 ? 'Write down a prediction' : 'Another prediction'}
        </Button>
      }
    >
      {!first ? <p className="text-[0.87rem] text-soft">Place at least one spot at Look first.</p> : null}
      {predictions.map((prediction, index) => (
        <PredictionRow
          key={prediction.id}
          body={body}
          prediction={prediction}
          index={index}
          written={written(prediction.id)}
          set={(part) => set(index, part)}
          remove={() => change({ predictions: predictions.filter((_, i) => i !== index) })}
        />
      ))}
    </Section>
  );
}
