import { type DriveTemperaturesBody, type Limit, type SpotBody } from '@red-ember/contract';
import { COMPONENT_CLASSES, type Family } from '@red-ember/study';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { CUT_OUT_ABOVE_K, cutOutFollows, fromLibrary, limited, renamed, standsAsGiven } from './spots.ts';

/** A temperature that may be unknown, and where it is from. */
function Degrees({
  spot,
  index,
  field,
  source,
  label,
  ofIt,
  change,
}: {
  spot: SpotBody;
  index: number;
  field: 'advisoryC' | 'throttleC';
  source: 'advisorySource' | 'throttleSource';
  label: string;
  ofIt: string;
  change: (part: Partial<SpotBody>) => void;
}) {
  return (
    <>
      <NumberField
        className="md:col-span-2"
        label={label}
        unit="°C"
        pointer={`/spots/${index}/${field}`}
        value={spot[field]}
        hint="Empty: unknown"
        onChange={(value) =>
          change(Number.isNaN(value) ? { [field]: null, [source]: '' } : { [field]: value, [source]: spot[source] || spot.limitSource })
        }
      />
      <TextField
        className="md:col-span-4"
        label={`Source of ${ofIt}`}
        pointer={`/spots/${index}/${source}`}
        value={spot[source]}
        disabled={spot[field] === null}
        onChange={(value) => change({ [source]: value })}
      />
    </>
  );
}

/** Everything about one spot and its limits; opened from its row. */
export function SpotEditor({
  spot,
  index,
  limits,
  family,
  drive,
  change,
}: {
  spot: SpotBody;
  index: number;
  limits: Limit[];
  family: Family;
  drive: DriveTemperaturesBody | null;
  change: (part: Partial<SpotBody>) => void;
}) {
  const at = (field: keyof SpotBody) => `/spots/${index}/${field}`;
  return (
    <div className="grid gap-x-4 gap-y-3 bg-margin/60 px-3 pb-4 pt-3 md:grid-cols-12">
      <TextField
        className="md:col-span-4"
        label="Spot"
        pointer={at('name')}
        value={spot.name}
        onChange={(name) => change(renamed(spot, name, limits, family, drive))}
      />
      <ChoiceField
        className="md:col-span-3"
        label="Component"
        pointer={at('componentClass')}
        value={spot.componentClass}
        options={COMPONENT_CLASSES.map((name) => ({ value: name, label: name }))}
        onChange={(componentClass) => change(standsAsGiven(spot, limits) ? fromLibrary(limits, componentClass, drive) : { componentClass })}
      />
      <TextField
        className="md:col-span-5"
        label="Where exactly"
        pointer={at('place')}
        value={spot.place}
        onChange={(place) => change({ place })}
      />
      <NumberField
        className="md:col-span-2"
        label="Limit"
        unit="°C"
        pointer={at('limitC')}
        value={spot.limitC}
        onChange={(limitC) => change(limited(spot, limitC, limits))}
      />
      <TextField
        className="md:col-span-4"
        label="Source of the limit"
        pointer={at('limitSource')}
        value={spot.limitSource}
        onChange={(limitSource) => change({ limitSource })}
      />
      <NumberField
        className="md:col-span-2"
        label="Cut-out"
        unit="°C"
        pointer={at('cutOutC')}
        value={spot.cutOutC}
        hint={cutOutFollows(spot) ? `follows ${CUT_OUT_ABOVE_K} K above the limit` : undefined}
        onChange={(cutOutC) => change({ cutOutC })}
      />
      <NumberField
        className="md:col-span-2"
        label="held for"
        unit="s"
        pointer={at('cutOutHoldS')}
        value={spot.cutOutHoldS}
        onChange={(cutOutHoldS) => change({ cutOutHoldS })}
      />
      <span className="hidden md:col-span-2 md:block" />
      <Degrees
        spot={spot}
        index={index}
        field="throttleC"
        source="throttleSource"
        label="Throttles at"
        ofIt="the throttling point"
        change={change}
      />
      <Degrees spot={spot} index={index} field="advisoryC" source="advisorySource" label="Advisory" ofIt="the advisory" change={change} />
    </div>
  );
}
