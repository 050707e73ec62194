import { Trash2 } from 'lucide-react';
import { type BoardMapBody, type MapPadBody, type MapPartBody, type SpotBody } from '@red-ember/contract';
import { partAt, type MapPlacement } from '@red-ember/core';
import { COMPONENT_CLASSES } from '@red-ember/study';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { entryOf, listOf, placed, withEntry, type Picked } from './edits.ts';

interface Props {
  map: BoardMapBody;
  spots: SpotBody[];
  /** JSON pointer of the map in the study. */
  pointer: string;
  picked: Picked;
  onChange: (map: BoardMapBody) => void;
  onRemove: (picked: Picked) => void;
}

/** A figure of an entry: its field, label, unit, and by how much it is multiplied to be shown. */
type Figure = [field: string, label: string, unit: string, scale?: number];

const PLACE: Figure[] = [
  ['xMm', 'From the left', 'mm'],
  ['yMm', 'From above', 'mm'],
];
const OUTLINE: Figure[] = [...PLACE, ['widthMm', 'Width', 'mm'], ['heightMm', 'Length', 'mm']];
const FIGURES: Record<Exclude<Picked['list'], 'placements'>, Figure[]> = {
  parts: [...OUTLINE, ['tallMm', 'Stands above the board', 'mm'], ['heatShare', 'Share of the heat', '%', 100]],
  covers: [
    ...OUTLINE,
    ['undersideMm', 'Lower face above board', 'mm'],
    ['gapToleranceMm', 'Give or take', 'mm'],
    ['topMm', 'Upper face above board', 'mm'],
  ],
  pads: [...OUTLINE, ['padMm', 'Thickness', 'mm'], ['conductivityWPerMK', 'Conductivity', 'W/m·K']],
  screws: PLACE,
  zones: [...OUTLINE, ['clearMm', 'Free height above board', 'mm']],
};

const KINDS: Record<Picked['list'], string> = {
  parts: 'Part',
  covers: 'Cover',
  pads: 'Pad',
  placements: 'Spot',
  screws: 'Screw',
  zones: 'Zone',
};

/** Shares are kept as parts of one and shown in percent; rounding keeps the binary rest off the screen. */
const shown = (value: number | undefined, scale: number) => (value === undefined ? null : Math.round(value * scale * 1e6) / 1e6);

/** The figures of whatever is picked on the map; everything a pointer can do there can be typed here. */
export function Inspector({ map, spots, pointer, picked, onChange, onRemove }: Props) {
  const entry = entryOf(map, picked);
  if (!entry) return null;
  const index = listOf(map, picked.list).indexOf(entry);
  const at = (field: string) => `${pointer}/${picked.list}/${index}/${field}`;
  const set = (part: object) => onChange(withEntry(map, picked, part));
  const number = ([field, label, unit, scale = 1]: Figure) => (
    <NumberField
      key={field}
      label={label}
      unit={unit}
      pointer={at(field)}
      value={shown((entry as unknown as Record<string, number | undefined>)[field], scale)}
      onChange={(value) => set({ [field]: value / scale })}
    />
  );
  const title =
    picked.list === 'placements'
      ? (spots.find((spot) => spot.id === picked.id)?.name ?? 'Spot')
      : (entry as MapPartBody).name || KINDS[picked.list];
  return (
    <fieldset className="border-l-[3px] border-ember pl-4">
      <legend className="float-left mb-2 flex w-full items-center justify-between gap-3 font-semibold">
        <span>
          {KINDS[picked.list]} <span className="font-normal text-soft">{title}</span>
        </span>
        <Button look="quiet" className="!px-1 !py-0" aria-label={`Take ${title} off the map`} onClick={() => onRemove(picked)}>
          <Trash2 size={15} aria-hidden />
        </Button>
      </legend>
      <div className="clear-both grid grid-cols-2 gap-x-3 gap-y-2 sm:grid-cols-4">
        {picked.list === 'placements' ? (
          <>
            <ChoiceField
              className="col-span-2"
              label="Lies on"
              pointer={at('partId')}
              value={partAt(map, (entry as MapPlacement).face, (entry as MapPlacement).xMm, (entry as MapPlacement).yMm)?.id ?? ''}
              options={[{ value: '', label: 'bare board' }, ...map.parts.map((part) => ({ value: part.id, label: part.name }))]}
              onChange={(id) => {
                const part = map.parts.find((candidate) => candidate.id === id);
                if (part) onChange(placed(map, picked.id, part.face, part.xMm + part.widthMm / 2, part.yMm + part.heightMm / 2));
              }}
            />
            {PLACE.map(number)}
          </>
        ) : (
          <>
            <TextField
              className="col-span-2"
              label="Name"
              pointer={at('name')}
              value={(entry as MapPartBody).name}
              onChange={(name) => set({ name })}
            />
            {picked.list === 'parts' ? (
              <ChoiceField
                className="col-span-2"
                label="Component"
                pointer={at('componentClass')}
                value={(entry as MapPartBody).componentClass}
                options={COMPONENT_CLASSES.map((name) => ({ value: name, label: name }))}
                onChange={(componentClass) => set({ componentClass })}
              />
            ) : null}
            {picked.list === 'pads' || picked.list === 'screws' ? (
              <ChoiceField
                className="col-span-2"
                label={picked.list === 'pads' ? 'Under' : 'Holds'}
                pointer={at('coverId')}
                value={(entry as MapPadBody).coverId}
                options={map.covers.map((cover) => ({ value: cover.id, label: cover.name }))}
                onChange={(coverId) => set({ coverId })}
              />
            ) : null}
            {picked.list === 'covers' ? <span className="col-span-2" /> : null}
            {FIGURES[picked.list].map(number)}
          </>
        )}
      </div>
    </fieldset>
  );
}
