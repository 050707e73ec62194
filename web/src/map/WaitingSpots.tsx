import { Plus } from 'lucide-react';
import type { SpotBody } from '@red-ember/contract';

/** Spots that have no place on the map yet. */
export function WaitingSpots({ spots, onPlace }: { spots: SpotBody[]; onPlace: (spotId: string) => void }) {
  return (
    <div className="mt-4">
      <p className="mb-1 text-[0.87rem] text-soft">Not on this map yet: press one, then its place</p>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {spots.map((spot) => (
          <button
            key={spot.id}
            type="button"
            className="inline-flex items-center gap-1 underline hover:text-soft"
            onClick={() => onPlace(spot.id)}
          >
            <Plus size={13} aria-hidden /> {spot.name}
          </button>
        ))}
      </div>
    </div>
  );
}
