import { Plus } from 'lucide-react';
import { fixed } from '@red-ember/core';
import type { SurveyBody } from '@red-ember/contract';
import { NumberField } from '../ui/Field.tsx';
import { Section } from '../ui/Section.tsx';
import type { Proposal, ReadPicture } from './picture.ts';
import { Shown } from '../ui/Shown.tsx';

interface HotSpotsProps {
  read: ReadPicture;
  said: SurveyBody;
  /** One for each hot spot, in its order. */
  proposals: Proposal[];
  taken: (proposal: Proposal) => boolean;
  onShow: (index: number | null) => void;
  onAccept: (proposal: Proposal) => void;
  change: (part: Partial<SurveyBody>) => void;
}

/** Hot spots of a picture, each a proposal for a thermocouple. */
export function HotSpots({ read, said, proposals, taken, onShow, onAccept, change }: HotSpotsProps) {
  return (
    <Section
      title="Hot spots"
      hint={read.registration ? 'proposed places for thermocouples' : 'lay the picture over the map to name the parts'}
    >
      {read.spots.length === 0 ? (
        <p className="text-soft">Nothing stands out by {said.minProminenceK} K. Lower the figure below, or look at the surfaces.</p>
      ) : null}
      <ol>
        {read.spots.map((spot, i) => {
          const proposal = proposals[i]!;
          return (
            <li
              key={i}
              className="grid grid-cols-[1.4rem_4.6rem_minmax(0,1fr)_auto] items-baseline gap-2 border-b border-rule py-1.5"
              onPointerEnter={() => onShow(i)}
              onPointerLeave={() => onShow(null)}
            >
              <span className="text-soft">{i + 1}</span>
              <b className="font-semibold">
                <Shown>{fixed(spot.temperatureC, 1)} °C</Shown>
              </b>
              <span className="truncate">{proposal.name}</span>
              {taken(proposal) ? (
                <span className="text-[0.87rem] text-soft">is a spot</span>
              ) : (
                <button
                  type="button"
                  className="inline-flex items-center gap-1 underline hover:text-soft"
                  onClick={() => onAccept(proposal)}
                >
                  <Plus size={13} aria-hidden /> Place a spot
                </button>
              )}
            </li>
          );
        })}
      </ol>
      <NumberField
        className="mt-3 w-48"
        label="Stands out by at least"
        unit="K"
        pointer="/minProminenceK"
        value={said.minProminenceK}
        onChange={(minProminenceK) => change({ minProminenceK })}
      />
    </Section>
  );
}
