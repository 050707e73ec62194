import { Trash2 } from 'lucide-react';
import type { SurveyBody } from '@red-ember/contract';
import { Button } from '../ui/Button.tsx';
import { NumberField, TextField } from '../ui/Field.tsx';

/** Emissivities of a picture: of all of it, and of the surfaces that were marked. */
export function Surfaces({ said, change }: { said: SurveyBody; change: (part: Partial<SurveyBody>) => void }) {
  const setRegion = (index: number, part: object) =>
    change({ regions: said.regions.map((region, i) => (i === index ? { ...region, ...part } : region)) });
  return (
    <>
      <div className="grid grid-cols-3 gap-3">
        <NumberField
          label="Camera set to"
          pointer="/emissivitySet"
          value={said.emissivitySet}
          onChange={(emissivitySet) => change({ emissivitySet })}
        />
        <NumberField
          label="Emissivity"
          pointer="/emissivity"
          value={said.emissivity}
          onChange={(emissivity) => change({ emissivity })}
          hint="outside the regions"
        />
        <NumberField
          label="Reflected"
          unit="°C"
          pointer="/reflectedC"
          value={said.reflectedC}
          onChange={(reflectedC) => change({ reflectedC })}
        />
      </div>
      {said.regions.map((region, index) => (
        <div key={index} className="mt-2 grid grid-cols-[minmax(0,1fr)_5rem_6.4rem_2rem] items-end gap-3 border-t border-rule pt-2">
          <TextField
            label="Surface"
            pointer={`/regions/${index}/name`}
            value={region.name}
            onChange={(name) => setRegion(index, { name })}
          />
          <NumberField
            label="Emissivity"
            pointer={`/regions/${index}/emissivity`}
            value={region.emissivity}
            onChange={(emissivity) => setRegion(index, { emissivity })}
          />
          <NumberField
            label="Reflected"
            unit="°C"
            pointer={`/regions/${index}/reflectedC`}
            value={region.reflectedC}
            onChange={(value) => setRegion(index, { reflectedC: Number.isNaN(value) ? null : value })}
          />
          <Button
            look="quiet"
            className="!px-1"
            aria-label={`Remove ${region.name}`}
            onClick={() => change({ regions: said.regions.filter((_, i) => i !== index) })}
          >
            <Trash2 size={15} aria-hidden />
          </Button>
          {region.emissivity < 0.6 ? (
            <p className="col-span-4 text-[0.87rem] text-ochre-text">Cannot be read; use matt tape or paint.</p>
          ) : null}
        </div>
      ))}
    </>
  );
}
