import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { type FittedPartBody, type StudyBody } from '@red-ember/contract';
import { PART_KINDS, tagsOf, type PartKind } from '@red-ember/study';
import { amountWords } from './partWords.ts';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import type { StudyDraft } from '../study/useStudyDraft.ts';
import { BelongsField } from './BelongsField.tsx';

/** What a kind of part starts from. */
const STARTS: Record<PartKind, Partial<FittedPartBody>> = {
  cooler: { reusable: true, pad: null, paste: null },
  sink: { reusable: true, pad: null, paste: null },
  cover: { reusable: true, pad: null, paste: null },
  fan: { reusable: true, pad: null, paste: null },
  fixing: { reusable: true, pad: null, paste: null },
  other: { pad: null, paste: null },
  pad: { reusable: false, pad: { widthMm: 20, heightMm: 20, thickMm: 1 }, paste: null },
  paste: { reusable: false, pad: null, paste: { areaMm2: 200, bondLineMm: 0.04, densityGPerCm3: 2.5, remover: 'isopropanol', dryMin: 3 } },
};

/** Figures of one kind of thing on a part: field, label and unit. */
type Figure<T> = [field: keyof T & string, label: string, unit: string];
const CUT: Figure<NonNullable<FittedPartBody['pad']>>[] = [
  ['widthMm', 'Cut to', 'mm'],
  ['heightMm', 'by', 'mm'],
  ['thickMm', 'Thickness', 'mm'],
];
const LAYER: Figure<NonNullable<FittedPartBody['paste']>>[] = [
  ['areaMm2', 'Die or lid', 'mm²'],
  ['bondLineMm', 'Bond line', 'mm'],
  ['densityGPerCm3', 'Density', 'g/cm³'],
  ['dryMin', 'Dries in', 'min'],
  ['heatW', 'Heat through it', 'W'],
];

function PartDetails({
  body,
  part,
  at,
  set,
}: {
  body: StudyBody;
  part: FittedPartBody;
  at: (field: string) => string;
  set: (part: Partial<FittedPartBody>) => void;
}) {
  const covers = body.subjects.flatMap((subject) => subject.map?.covers ?? []);
  const check = (field: 'reusable' | 'conductive' | 'liquid', label: string) => (
    <label className="flex items-center gap-2 text-[0.93rem]">
      <input type="checkbox" checked={part[field]} onChange={(event) => set({ [field]: event.target.checked })} />
      {label}
    </label>
  );
  return (
    <div className="mt-2 grid items-start gap-x-3 gap-y-2 sm:grid-cols-4">
      {part.pad
        ? CUT.map(([field, label, unit]) => (
            <NumberField
              key={field}
              label={label}
              unit={unit}
              pointer={at(`pad/${field}`)}
              value={part.pad![field]}
              onChange={(value) => set({ pad: { ...part.pad!, [field]: value } })}
            />
          ))
        : null}
      {part.paste
        ? LAYER.map(([field, label, unit]) => (
            <NumberField
              key={field}
              label={label}
              unit={unit}
              pointer={at(`paste/${field}`)}
              value={(part.paste![field] as number | undefined) ?? null}
              // The heat may stay open; everything else is needed.
              onChange={(value) =>
                set({ paste: { ...part.paste!, [field]: field === 'heatW' && Number.isNaN(value) ? undefined : value } })
              }
            />
          ))
        : null}
      {part.paste ? (
        <TextField
          label="Taken off with"
          pointer={at('paste/remover')}
          value={part.paste.remover}
          onChange={(remover) => set({ paste: { ...part.paste!, remover } })}
        />
      ) : null}
      <NumberField label="Weight" unit="g" pointer={at('weightG')} value={part.weightG} onChange={(weightG) => set({ weightG })} />
      <NumberField
        label="Sound it adds"
        unit="dB(A)"
        pointer={at('noiseDb')}
        value={part.noiseDb}
        onChange={(noiseDb) => set({ noiseDb: Number.isNaN(noiseDb) ? null : noiseDb })}
      />
      {covers.length > 0 ? (
        <ChoiceField
          label="On the board map"
          pointer={at('coverId')}
          value={part.coverId}
          options={[{ value: '', label: 'not drawn' }, ...covers.map((cover) => ({ value: cover.id, label: cover.name }))]}
          onChange={(coverId) => set({ coverId })}
        />
      ) : null}
      <TextField label="Serial number" pointer={at('serial')} value={part.serial ?? ''} onChange={(serial) => set({ serial })} />
      <TextField
        label="Tags"
        hint="commas between them"
        className="sm:col-span-3"
        pointer={at('tags')}
        value={part.tags ?? ''}
        onChange={(tags) => set({ tags })}
      />
      <TextField label="Note" className="sm:col-span-4" pointer={at('note')} value={part.note ?? ''} onChange={(note) => set({ note })} />
      <div className="flex flex-wrap gap-x-5 gap-y-1 sm:col-span-4">
        {check('reusable', 'comes off whole and goes on again')}
        {check('conductive', 'conducts electricity')}
        {check('liquid', 'holds liquid')}
      </div>
    </div>
  );
}

/** One part to fit: what everybody needs to see in a row, the rest on demand. */
export function PartRow({ body, change, index }: Pick<StudyDraft, 'body' | 'change'> & { index: number }) {
  const part = body.parts[index]!;
  const [more, setMore] = useState(false);
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
          options={PART_KINDS.map((value) => ({ value, label: value }))}
          onChange={(kind) => set({ kind, ...STARTS[kind] })}
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
      {more ? <PartDetails body={body} part={part} at={at} set={set} /> : null}
    </fieldset>
  );
}
