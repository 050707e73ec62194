import { fixed, measured } from '@red-ember/core';
import { type BeneathBody, type SpotBody, type StudyBody } from '@red-ember/contract';
import { estimateBeneath } from '@red-ember/study';
import type { Offered } from '../data/benches.ts';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { fromChannel, type KnownChannel } from './channels.ts';

const METHODS: { value: SpotBody['method']; label: string }[] = [
  { value: 'attached', label: 'attached sensor' },
  { value: 'own', label: 'the part’s own sensor' },
  { value: 'infrared', label: 'infrared, an estimate' },
];

const START_BENEATH: BeneathBody = {
  heatW: 2,
  gapMm: 1,
  gapToleranceMm: 0.1,
  padMm: 1.25,
  conductivityWPerMK: 5,
  areaMm2: 36,
  caseKPerW: 1,
};
const BENEATH: [keyof BeneathBody, string, string][] = [
  ['heatW', 'Heat of the part', 'W'],
  ['areaMm2', 'Area of the part', 'mm²'],
  ['gapMm', 'Gap under the sink', 'mm'],
  ['gapToleranceMm', 'give or take', 'mm'],
  ['padMm', 'Pad', 'mm'],
  ['conductivityWPerMK', 'Conductivity', 'W/m·K'],
  ['caseKPerW', 'Case resistance', 'K/W'],
];

/** What is stated of how well a sensor reads. */
const DOUBTS: ['accuracyK' | 'resolutionK' | 'placementK', string][] = [
  ['accuracyK', 'Accuracy ±'],
  ['resolutionK', 'Resolution'],
  ['placementK', 'Place, contact ±'],
];

/** What a surface temperature says of the part beneath it, as a sentence. */
function beneathWords(spot: SpotBody): string {
  const surfaceC = Math.max(40, Math.min(spot.limitC - 20, 80));
  try {
    const estimate = estimateBeneath(spot, { value: surfaceC, u: 0, dof: Infinity });
    if (!estimate) return 'The pad may not touch at all: nothing can be said of the part.';
    return `${fixed(surfaceC, 0)} °C on the surface means about ${measured(estimate.value, 2 * estimate.u, '°C')} beneath it: an estimate, not a reading.`;
  } catch {
    return 'Fill in the figures to see what the surface says of the part.';
  }
}

/** What lies between a surface that is read and the part beneath it, and what the surface says of that. */
function Beneath({ spot, at, change }: { spot: SpotBody; at: (field: string) => string; change: (part: Partial<SpotBody>) => void }) {
  const { beneath } = spot;
  if (!beneath)
    return (
      <Button look="quiet" className="!px-0 text-[0.93rem]" onClick={() => change({ beneath: START_BENEATH })}>
        Estimate the part beneath this surface
      </Button>
    );
  return (
    <fieldset>
      <legend className="mb-1 flex items-baseline gap-3 text-[0.93rem]">
        The part beneath this surface
        <button type="button" className="text-[0.87rem] text-soft underline hover:text-ink" onClick={() => change({ beneath: null })}>
          leave out
        </button>
      </legend>
      <div className="grid gap-x-4 gap-y-2 sm:grid-cols-4">
        {BENEATH.map(([field, label, unit]) => (
          <NumberField
            key={field}
            label={label}
            unit={unit}
            pointer={at(`beneath/${field}`)}
            value={beneath[field]}
            onChange={(value) => change({ beneath: { ...beneath, [field]: value } })}
          />
        ))}
      </div>
      <p className="mt-2 text-[0.93rem]">{beneathWords(spot)}</p>
    </fieldset>
  );
}

/** Who reads a spot and how well; opened from its row. */
export function SensorEditor({
  spot,
  index,
  body,
  channels,
  offered,
  change,
}: {
  spot: SpotBody;
  index: number;
  body: StudyBody;
  channels: Map<string, KnownChannel>;
  offered: Offered[];
  change: (part: Partial<SpotBody>) => void;
}) {
  const at = (field: string) => `/spots/${index}/${field}`;
  return (
    <div className="grid gap-x-4 gap-y-3 bg-margin/60 px-3 pb-4 pt-3 md:grid-cols-12">
      <ChoiceField
        className="md:col-span-4"
        label="Instrument"
        pointer={at('instrumentChannelId')}
        value={spot.instrumentChannelId ?? ''}
        options={[
          { value: '', label: 'none written down' },
          ...[...channels.values()].map(({ instrument, channel }) => ({ value: channel.id, label: `${instrument.name}, ${channel.name}` })),
        ]}
        hint="brings its accuracy and calibration"
        onChange={(id) => {
          const known = channels.get(id);
          change(known ? fromChannel(known, spot) : { instrumentChannelId: null });
        }}
      />
      <TextField
        className="md:col-span-3"
        label="Sensor"
        pointer={at('sensor')}
        value={spot.sensor}
        onChange={(sensor) => change({ sensor })}
      />
      <ChoiceField
        className="md:col-span-3"
        label="Reads as"
        pointer={at('method')}
        value={spot.method}
        options={METHODS}
        onChange={(method) => change({ method })}
      />
      <label className="flex items-center gap-2 pt-7 md:col-span-2">
        <input type="checkbox" checked={spot.byHand} onChange={(event) => change({ byHand: event.target.checked })} /> by hand
      </label>
      <TextField
        className="md:col-span-4"
        label={spot.byHand ? 'Short name' : 'Channel of the rig'}
        pointer={at('channel')}
        value={spot.channel}
        suggestions={offered}
        hint={
          spot.byHand
            ? 'typed in at set minutes'
            : offered.length > 0 && !offered.some(({ key }) => key === spot.channel)
              ? 'No rig has this channel.'
              : undefined
        }
        onChange={(channel) => change({ channel })}
      />
      {DOUBTS.map(([field, label]) => (
        <NumberField
          key={field}
          className="md:col-span-2"
          label={label}
          unit="K"
          pointer={at(field)}
          value={spot[field]}
          onChange={(value) => change({ [field]: value })}
        />
      ))}
      <ChoiceField
        className="md:col-span-5"
        label="Reads the same place as"
        pointer={at('twinOf')}
        value={spot.twinOf ?? ''}
        options={[
          { value: '', label: 'no other spot' },
          ...body.spots.filter((other) => other.id !== spot.id).map((other) => ({ value: other.id, label: other.name })),
        ]}
        hint="the two are held against each other in every run"
        onChange={(id) => change({ twinOf: id === '' ? null : id })}
      />
      <div className="md:col-span-12">
        <Beneath spot={spot} at={at} change={change} />
      </div>
    </div>
  );
}
