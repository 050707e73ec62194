import { headroomWords } from '@red-ember/core';
import type { LiveSnapshot, Study } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import { HeadroomStrip } from '../../ui/HeadroomStrip.tsx';

/** A strip per spot for this moment; the one that binds is in ember. */
export function RunStrips({ study, snapshot, bindingId }: { study: Study; snapshot: LiveSnapshot; bindingId: string | null }) {
  const { text } = useDegrees();
  return (
    <div className="grid gap-x-10 gap-y-2 md:grid-cols-2">
      {study.spots.map((definition) => {
        const spot = snapshot.spots.find((candidate) => candidate.spotId === definition.id);
        if (!spot || spot.valueC === null)
          return (
            <div key={definition.id} className="flex justify-between text-soft">
              <span>{definition.name}</span>
              <span>no reading</span>
            </div>
          );
        const over = spot.headroomK! < 0;
        return (
          <div key={definition.id} className="grid grid-cols-[8.4rem_minmax(0,1fr)_4.6rem] items-center gap-3">
            <span className="truncate text-soft" title={definition.name}>
              {definition.name}
            </span>
            <HeadroomStrip
              label={definition.name}
              roomC={snapshot.roomC ?? 22}
              limitC={definition.limitC}
              spotC={spot.valueC}
              doubtK={definition.accuracyK}
              idleC={spot.idleC}
              tone={bindingId === definition.id ? 'ember' : 'stone'}
            />
            <span className={`text-right ${over ? 'font-semibold text-ember-text' : ''}`}>{text(headroomWords(spot.headroomK!))}</span>
          </div>
        );
      })}
    </div>
  );
}
