import { Layers, Square, SquareDashed } from 'lucide-react';
import type { Face } from '@red-ember/core';
import type { BoardMapBody } from '@red-ember/contract';
import { Button } from '../ui/Button.tsx';
import { newCover, newPart, newZone, type Picked } from './edits.ts';

const FACES: { value: Face; label: string }[] = [
  { value: 'top', label: 'Upper face' },
  { value: 'under', label: 'Underside' },
];

interface MapToolsProps {
  map: BoardMapBody;
  face: Face;
  onFace: (face: Face) => void;
  /** The map with something new on it, which is picked. */
  onAdd: (map: BoardMapBody, picked: Picked) => void;
}

/** Which face is looked at, and what can be added to it. */
export function MapTools({ map, face, onFace, onAdd }: MapToolsProps) {
  return (
    <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
      <div className="flex" role="group" aria-label="Face">
        {FACES.map(({ value, label }) => (
          <button
            key={value}
            type="button"
            aria-pressed={face === value}
            className={`-ml-px border px-3 py-1 first:ml-0 ${face === value ? 'border-ink bg-ink text-paper' : 'border-stone'}`}
            onClick={() => onFace(value)}
          >
            {label}
          </button>
        ))}
      </div>
      <span className="flex flex-wrap gap-1">
        <Button
          look="quiet"
          onClick={() => {
            const part = newPart(map, face);
            onAdd({ ...map, parts: [...map.parts, part as BoardMapBody['parts'][number]] }, { list: 'parts', id: part.id });
          }}
        >
          <Square size={15} aria-hidden /> Add a part
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            const { cover, pad } = newCover(map, face);
            onAdd({ ...map, covers: [...map.covers, cover], pads: [...map.pads, pad] }, { list: 'covers', id: cover.id });
          }}
        >
          <Layers size={15} aria-hidden /> Add a cover
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            const zone = newZone(map, face);
            onAdd({ ...map, zones: [...(map.zones ?? []), zone] }, { list: 'zones', id: zone.id });
          }}
        >
          <SquareDashed size={15} aria-hidden /> Add a zone
        </Button>
      </span>
    </div>
  );
}
