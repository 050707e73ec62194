import type { Study } from '@red-ember/contract';
import { heldAgainst } from '@red-ember/study';
import { useAgreementsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';

/** Sensors that read low near their limit by another on the same place: said wherever they are used. */
export function LowSensorNotes({ study }: { study: Study }) {
  const paired = study.spots.some((spot) => heldAgainst(spot, study.spots) !== null);
  const { data: twins = [] } = useAgreementsQuery(study.id, { skip: !paired });
  const newest = new Map(twins.map((twin) => [twin.bId, twin]));
  const low = [...newest.values()].filter((twin) => twin.flag !== null && twin.biasAtLimitK > 0);
  if (low.length === 0) return null;
  return (
    <MarginGroup title="Reads low">
      {low.map((twin) => (
        <Note key={twin.bId} tone="caution">
          {twin.flag}
        </Note>
      ))}
    </MarginGroup>
  );
}
