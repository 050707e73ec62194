import type { ReactNode } from 'react';
import type { Face } from '@red-ember/core';
import type { BoardMapBody } from '@red-ember/contract';
import { newPad, newScrew, type Picked } from './edits.ts';

/** A name in the row, which picks what it names. */
function Entry({ picked, look, onClick, children }: { picked: boolean; look: string; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={picked}
      className={picked ? 'font-semibold underline decoration-ember decoration-2 underline-offset-4' : `${look} hover:underline`}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

interface FaceEntriesProps {
  map: BoardMapBody;
  face: Face;
  picked: Picked | null;
  onPick: (picked: Picked) => void;
  /** The map with something new on it, which is picked. */
  onAdd: (map: BoardMapBody, picked: Picked) => void;
}

/** Covers of a face with their pads, and its zones, by name: for what is hard to hit on the map. Nothing where the face has no cover. */
export function FaceEntries({ map, face, picked, onPick, onAdd }: FaceEntriesProps) {
  if (!map.covers.some((cover) => cover.face === face)) return null;
  return (
    <p className="mb-2 flex flex-wrap gap-x-5 gap-y-1 text-[0.93rem]">
      {map.covers
        .filter((cover) => cover.face === face)
        .flatMap((cover) => [
          { list: 'covers' as const, id: cover.id, name: cover.name },
          ...map.pads.filter((pad) => pad.coverId === cover.id).map((pad) => ({ list: 'pads' as const, id: pad.id, name: pad.name })),
        ])
        .map(({ list, id, name }) => (
          <Entry key={id} picked={picked?.id === id} look="text-quench-text" onClick={() => onPick({ list, id })}>
            {name}
          </Entry>
        ))}
      <button
        type="button"
        className="text-soft hover:text-ink"
        onClick={() => {
          const cover = map.covers.find((candidate) => candidate.face === face)!;
          const pad = newPad(map, cover);
          onAdd({ ...map, pads: [...map.pads, pad] }, { list: 'pads', id: pad.id });
        }}
      >
        + another pad
      </button>
      <button
        type="button"
        className="text-soft hover:text-ink"
        onClick={() => {
          const at =
            map.covers.find((candidate) => candidate.id === picked?.id) ?? map.covers.find((candidate) => candidate.face === face)!;
          const screw = newScrew(map, at);
          onAdd({ ...map, screws: [...(map.screws ?? []), screw] }, { list: 'screws', id: screw.id });
        }}
      >
        + a screw
      </button>
      {(map.zones ?? [])
        .filter((zone) => zone.face === face)
        .map((zone) => (
          <Entry key={zone.id} picked={picked?.id === zone.id} look="text-soft" onClick={() => onPick({ list: 'zones', id: zone.id })}>
            {zone.name}
          </Entry>
        ))}
    </p>
  );
}
