import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { type FittedPartBody } from '@red-ember/contract';
import { tagsOf } from '@red-ember/study';
import { PART_KIND_OPTIONS, PartDetails, STARTS_OF_KIND } from '../parts/PartDetails.tsx';
import { amountWords } from '../parts/partWords.ts';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import type { StudyDraft } from '../study/useStudyDraft.ts';
import { BelongsField } from './BelongsField.tsx';

/** One part to fit: what everybody needs to see in a row, the rest on demand. */
export function PartRow({ body, change, index }: Pick<StudyDraft, 'body' | 'change'> & { index: number }) {
  const part = body.parts[index]!;
  const [more, setMore] = useState(false);
  const covers = body.subjects.flatMap((subject) => subject.map?.covers ?? []);
  const at = (field: string) => `/parts/${index}/${field}`;
  const set = (now: Partial<FittedPartBody>) =>
    change({ parts: body.parts.map((entry, i) => (i === index ? { ...entry, ...now } : entry)) });
  const words = [
    amountWords(part),
    part.weightG > 0 ? `${part.weightG} g` : '',
    part.conductive ? 'conducts' : '',
    part.liquid ? 'holds liquid' : '',
    part.reusable ? '' : 'used up',
    part.serial ?? '',
    ...tagsOf(part),
    part.note ? 'noted' : '',
  ].filter(Boolean);
  return (
    <fieldset className="border-t border-rule py-2">
      <legend className="sr-only">{part.name}</legend>
      <div className="grid items-start gap-x-3 gap-y-2 sm:grid-cols-[minmax(0,1fr)_7rem_11rem_4.5rem_7.5rem_2rem]">
        <TextField hideLabel label={`Part ${index + 1}`} pointer={at('name')} value={part.name} onChange={(name) => set({ name })} />
        <ChoiceField
          hideLabel
          label={`Kind of ${part.name}`}
          pointer={at('kind')}
          value={part.kind}
          options={PART_KIND_OPTIONS}
          onChange={(kind) => set({ kind, ...STARTS_OF_KIND[kind] })}
        />
        <BelongsField hideLabel label={`${part.name} belongs to`} body={body} pointer={at('level')} value={part} onChange={set} />
        <NumberField
          hideLabel
          label={`Pieces of ${part.name}`}
          pointer={at('quantity')}
          value={part.quantity}
          onChange={(quantity) => set({ quantity })}
        />
        <NumberField
          hideLabel
          label={`Price of ${part.name}`}
          unit={part.paste ? '/ g' : 'each'}
          pointer={at('price')}
          value={part.price}
          onChange={(price) => set({ price })}
        />
        <Button
          look="quiet"
          className="!px-1"
          aria-label={`Remove ${part.name}`}
          onClick={() => change({ parts: body.parts.filter((_, i) => i !== index) })}
        >
          <Trash2 size={15} aria-hidden />
        </Button>
      </div>
      <button
        type="button"
        className="mt-1 text-[0.87rem] text-soft hover:text-ink hover:underline"
        aria-expanded={more}
        onClick={() => setMore(!more)}
      >
        {words.join(' · ') || 'weight, sound, size, serial number'}
      </button>
      {more ? <PartDetails covers={covers} part={part} at={at} set={set} /> : null}
    </fieldset>
  );
}
