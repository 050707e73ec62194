import { type FittedPartBody } from '@red-ember/contract';
import { PART_KINDS, type PartKind } from '@red-ember/study';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';

/** What a kind of part starts from. */
export const STARTS_OF_KIND: Record<PartKind, Partial<FittedPartBody>> = {
  cooler: { reusable: true, pad: null, paste: null },
  sink: { reusable: true, pad: null, paste: null },
  cover: { reusable: true, pad: null, paste: null },
  fan: { reusable: true, pad: null, paste: null },
  fixing: { reusable: true, pad: null, paste: null },
  other: { pad: null, paste: null },
  pad: { reusable: false, pad: { widthMm: 20, heightMm: 20, thickMm: 1 }, paste: null },
  paste: { reusable: false, pad: null, paste: { areaMm2: 200, bondLineMm: 0.04, densityGPerCm3: 2.5, remover: 'isopropanol', dryMin: 3 } },
};

export const PART_KIND_OPTIONS = PART_KINDS.map((value) => ({ value, label: value }));

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

/** What is said of a part besides its name, kind and price. */
export function PartDetails({
  covers,
  part,
  at,
  set,
}: {
  /** Those drawn on the board map, of which it may be one. */
  covers: readonly { id: string; name: string }[];
  part: FittedPartBody;
  at: (field: string) => string;
  set: (part: Partial<FittedPartBody>) => void;
}) {
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
