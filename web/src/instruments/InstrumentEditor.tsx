import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import {
  check,
  INSTRUMENT_KINDS,
  InstrumentBody,
  doubtUnitOf,
  QUANTITIES,
  type FieldProblem,
  type Instrument,
  type InstrumentChannelBody,
  type Quantity,
  type ThermocoupleBody,
} from '@red-ember/contract';
import { THERMOCOUPLE_TYPES, type ThermocoupleType } from '@red-ember/core';
import { sentenceOf, useCreateInstrumentMutation, useSaveInstrumentMutation } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, ProblemsContext, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';

function newChannel(n: number): InstrumentChannelBody {
  return {
    id: crypto.randomUUID(),
    name: `TC ${n}`,
    quantity: 'temperature',
    percentOfReading: 0,
    fixed: 0.5,
    thermocouple: null,
    resolution: 0.1,
    lagS: 3,
    drift: 0.1,
    place: '',
  };
}

function newInstrument(): InstrumentBody {
  return { name: '', kind: 'thermocouple logger', serial: '', notes: '', channels: [newChannel(1)] };
}

function bodyOf({ id: _i, version: _v, updatedAt: _u, deletedAt: _d, calibrations: _c, ...body }: Instrument): InstrumentBody {
  return body;
}

const WIRES = ['', ...THERMOCOUPLE_TYPES.flatMap((type) => [`${type}1`, `${type}2`])];
const wireOf = (wire: ThermocoupleBody | null) => (wire ? `${wire.type}${wire.toleranceClass}` : '');
const toWire = (text: string): ThermocoupleBody | null =>
  text === '' ? null : { type: text[0] as ThermocoupleType, toleranceClass: Number(text[1]) as 1 | 2 };

function ChannelEditor({
  channel,
  index,
  set,
  remove,
}: {
  channel: InstrumentChannelBody;
  index: number;
  set: (part: Partial<InstrumentChannelBody>) => void;
  remove: (() => void) | null;
}) {
  const at = (field: string) => `/channels/${index}/${field}`;
  const unit = doubtUnitOf(channel.quantity);
  return (
    <fieldset className="grid gap-x-3 gap-y-2 border-t border-rule py-3 md:grid-cols-12">
      <legend className="sr-only">{channel.name}</legend>
      <TextField className="md:col-span-3" label="Channel" pointer={at('name')} value={channel.name} onChange={(name) => set({ name })} />
      <ChoiceField
        className="md:col-span-2"
        label="Reads"
        pointer={at('quantity')}
        value={channel.quantity}
        options={(Object.keys(QUANTITIES) as Quantity[]).map((quantity) => ({ value: quantity, label: QUANTITIES[quantity].name }))}
        onChange={(quantity) => set(quantity === 'temperature' ? { quantity } : { quantity, thermocouple: null })}
      />
      <NumberField
        className="md:col-span-2"
        label="± of reading"
        unit="%"
        pointer={at('percentOfReading')}
        value={channel.percentOfReading}
        onChange={(percentOfReading) => set({ percentOfReading })}
      />
      <NumberField
        className="md:col-span-2"
        label="± fixed"
        unit={unit}
        pointer={at('fixed')}
        value={channel.fixed}
        onChange={(fixed) => set({ fixed })}
      />
      <ChoiceField
        className="md:col-span-3"
        label="Wire, on top"
        pointer={at('thermocouple')}
        value={wireOf(channel.thermocouple)}
        disabled={channel.quantity !== 'temperature'}
        options={WIRES.map((wire) => ({ value: wire, label: wire === '' ? 'none, or included' : `type ${wire[0]}, class ${wire[1]}` }))}
        onChange={(wire) => set({ thermocouple: toWire(wire) })}
      />
      <NumberField
        className="md:col-span-2"
        label="Resolution"
        unit={unit}
        pointer={at('resolution')}
        value={channel.resolution}
        onChange={(resolution) => set({ resolution })}
      />
      <NumberField
        className="md:col-span-2"
        label="Drift ±"
        unit={unit}
        pointer={at('drift')}
        value={channel.drift}
        onChange={(drift) => set({ drift })}
      />
      <NumberField
        className="md:col-span-2"
        label="Lag"
        unit="s"
        pointer={at('lagS')}
        value={channel.lagS}
        onChange={(lagS) => set({ lagS })}
      />
      <TextField className="md:col-span-5" label="Place" pointer={at('place')} value={channel.place} onChange={(place) => set({ place })} />
      <div className="flex items-end justify-end pb-1 md:col-span-1">
        {remove ? (
          <Button look="quiet" className="!px-1" aria-label={`Remove ${channel.name}`} onClick={remove}>
            <Trash2 size={15} aria-hidden />
          </Button>
        ) : null}
      </div>
    </fieldset>
  );
}

function WhatItIs({ body, set }: { body: InstrumentBody; set: (part: Partial<InstrumentBody>) => void }) {
  return (
    <div className="mb-3 grid gap-3 md:grid-cols-12">
      <TextField className="md:col-span-4" label="Instrument" pointer="/name" value={body.name} onChange={(name) => set({ name })} />
      <ChoiceField
        className="md:col-span-4"
        label="Kind"
        pointer="/kind"
        value={body.kind}
        options={INSTRUMENT_KINDS.map((kind) => ({ value: kind, label: kind }))}
        onChange={(kind) => set({ kind })}
      />
      <TextField
        className="md:col-span-4"
        label="Serial number"
        pointer="/serial"
        value={body.serial}
        onChange={(serial) => set({ serial })}
      />
      <TextField className="md:col-span-12" label="Notes" pointer="/notes" value={body.notes} onChange={(notes) => set({ notes })} />
    </div>
  );
}

/** Writes down an instrument, new or known. What was typed stays until it is saved or given up. */
export function InstrumentEditor({ instrument, onDone }: { instrument: Instrument | null; onDone: () => void }) {
  const [body, setBody] = useState<InstrumentBody>(() => (instrument ? bodyOf(instrument) : newInstrument()));
  const [tried, setTried] = useState(false);
  const [create, creating] = useCreateInstrumentMutation();
  const [save, saving] = useSaveInstrumentMutation();
  const result = check(InstrumentBody, JSON.parse(JSON.stringify(body)));
  const problems: FieldProblem[] = tried && !result.ok ? result.problems : [];
  const calibrated = new Set(instrument?.calibrations.map((calibration) => calibration.channelId));
  const setChannel = (index: number, part: Partial<InstrumentChannelBody>) =>
    setBody({ ...body, channels: body.channels.map((channel, i) => (i === index ? { ...channel, ...part } : channel)) });
  const submit = async () => {
    setTried(true);
    if (!result.ok) return;
    const answer = instrument ? await save({ id: instrument.id, version: instrument.version, body }) : await create(body);
    if ('data' in answer) onDone();
  };
  const error = saving.error ?? creating.error;
  return (
    <ProblemsContext.Provider value={problems}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <WhatItIs body={body} set={(part) => setBody({ ...body, ...part })} />
        {problems
          .filter((problem) => problem.pointer === '/channels')
          .map((problem) => (
            <Notice key={problem.sentence} tone="error">
              {problem.sentence}
            </Notice>
          ))}
        {body.channels.map((channel, index) => (
          <ChannelEditor
            key={channel.id}
            channel={channel}
            index={index}
            set={(part) => setChannel(index, part)}
            remove={
              body.channels.length > 1 && !calibrated.has(channel.id)
                ? () => setBody({ ...body, channels: body.channels.filter((_, i) => i !== index) })
                : null
            }
          />
        ))}
        {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
        <div className="flex flex-wrap justify-between gap-2 border-t border-rule pt-3">
          <Button
            look="quiet"
            onClick={() =>
              setBody({
                ...body,
                channels: [...body.channels, { ...newChannel(body.channels.length + 1), ...copyOf(body.channels.at(-1)) }],
              })
            }
          >
            <Plus size={15} aria-hidden /> Another channel
          </Button>
          <span className="flex gap-2">
            <Button look="quiet" onClick={onDone}>
              Cancel
            </Button>
            <Button type="submit" look="strong" disabled={saving.isLoading || creating.isLoading}>
              Save the instrument
            </Button>
          </span>
        </div>
      </form>
    </ProblemsContext.Provider>
  );
}

/** Channels of one instrument are mostly alike: a new one starts as the last, under its own name. */
function copyOf(last: InstrumentChannelBody | undefined): Partial<InstrumentChannelBody> {
  if (!last) return {};
  const { id: _id, name: _name, place: _place, ...figures } = last;
  return figures;
}
