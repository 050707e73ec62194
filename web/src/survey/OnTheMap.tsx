import { fixed } from '@red-ember/core';
import type { BoardMapBody, SurveyBody } from '@red-ember/contract';
import { NumberField } from '../ui/Field.tsx';
import type { ReadPicture } from './picture.ts';

interface OnTheMapProps {
  map: BoardMapBody | null;
  said: SurveyBody;
  read: ReadPicture;
  change: (part: Partial<SurveyBody>) => void;
}

/** Two places that lie in the picture and on the map, by which one is laid over the other. */
export function OnTheMap({ map, said, read, change }: OnTheMapProps) {
  const setReference = (index: number, part: object) =>
    change({ references: said.references.map((reference, i) => (i === index ? { ...reference, ...part } : reference)) });
  return (
    <>
      <h2 className="mb-2 mt-5">On the map</h2>
      {map ? null : <p className="text-[0.93rem] text-soft">This part has no map yet: draw it at Board map first.</p>}
      {said.references.map((reference, index) => (
        <div key={index} className="mt-1 grid grid-cols-[6rem_1fr_1fr] items-end gap-3">
          <span className="pb-2 text-[0.93rem]">Reference {index === 0 ? 'A' : 'B'}</span>
          <NumberField
            label="From the left"
            unit="mm"
            pointer={`/references/${index}/xMm`}
            value={reference.xMm}
            onChange={(xMm) => setReference(index, { xMm })}
          />
          <NumberField
            label="From above"
            unit="mm"
            pointer={`/references/${index}/yMm`}
            value={reference.yMm}
            onChange={(yMm) => setReference(index, { yMm })}
          />
        </div>
      ))}
      {said.references.length < 2 ? (
        <p className="mt-1 text-[0.93rem] text-soft">Mark two places that you know in both, and say where they lie on the map.</p>
      ) : read.registration ? (
        <p className="mt-2 text-[0.93rem] text-soft">
          One cell covers {fixed(read.registration.mmPerCell, 2)} mm; the picture is turned by {fixed(read.registration.turnedDeg, 1)}°.
        </p>
      ) : (
        <p className="mt-2 text-[0.93rem] text-ember-text">The two references are one and the same place.</p>
      )}
      <label className="mt-2 flex items-center gap-2 text-[0.93rem]">
        <input type="checkbox" checked={said.mirrored} onChange={(event) => change({ mirrored: event.target.checked })} /> taken from
        behind: left and right are swapped
      </label>
    </>
  );
}
