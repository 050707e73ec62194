import { Plus, Trash2 } from 'lucide-react';
import { useFieldArray, type UseFormReturn } from 'react-hook-form';
import {
  INSTRUMENT_KINDS,
  InstrumentBody,
  doubtUnitOf,
  QUANTITIES,
  type Instrument,
  type InstrumentChannelBody,
  type Quantity,
  type ThermocoupleBody,
} from '@red-ember/contract';
import { THERMOCOUPLE_TYPES, type ThermocoupleType } from '@red-ember/core';
import { sentenceOf, useCreateInstrumentMutation, useSaveInstrumentMutation } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { ChoiceField } from '../ui/Field.tsx';
import { FormChoice, FormNumber, FormProblems, FormText, problemsOf, useCheckedForm } from '../ui/form.tsx';
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

type Form = UseFormReturn<InstrumentBody, unknown, InstrumentBody>;

function ChannelEditor({ form, index, remove }: { form: Form; index: number; remove: (() => void) | null }) {
  const { control, setValue, watch } = form;
  const at = `channels.${index}` as const;
  const { name, quantity, thermocouple } = watch(at);
  const unit = doubtUnitOf(quantity);
  return (
    <fieldset className="grid gap-x-3 gap-y-2 border-t border-rule py-3 md:grid-cols-12">
      <legend className="sr-only">{name}</legend>
      <FormText control={control} name={`${at}.name`} className="md:col-span-3" label="Channel" />
      <FormChoice
        control={control}
        name={`${at}.quantity`}
        className="md:col-span-2"
        label="Reads"
        options={(Object.keys(QUANTITIES) as Quantity[]).map((value) => ({ value, label: QUANTITIES[value].name }))}
        after={(next) => {
          if (next !== 'temperature') setValue(`${at}.thermocouple`, null);
        }}
      />
      <FormNumber control={control} name={`${at}.percentOfReading`} className="md:col-span-2" label="± of reading" unit="%" />
      <FormNumber control={control} name={`${at}.fixed`} className="md:col-span-2" label="± fixed" unit={unit} />
      <ChoiceField
        className="md:col-span-3"
        label="Wire, on top"
        pointer={`/channels/${index}/thermocouple`}
        value={wireOf(thermocouple)}
        disabled={quantity !== 'temperature'}
        options={WIRES.map((wire) => ({ value: wire, label: wire === '' ? 'none, or included' : `type ${wire[0]}, class ${wire[1]}` }))}
        onChange={(wire) => setValue(`${at}.thermocouple`, toWire(wire), { shouldDirty: true })}
      />
      <FormNumber control={control} name={`${at}.resolution`} className="md:col-span-2" label="Resolution" unit={unit} />
      <FormNumber control={control} name={`${at}.drift`} className="md:col-span-2" label="Drift ±" unit={unit} />
      <FormNumber control={control} name={`${at}.lagS`} className="md:col-span-2" label="Lag" unit="s" />
      <FormText control={control} name={`${at}.place`} className="md:col-span-5" label="Place" />
      <div className="flex items-end justify-end pb-1 md:col-span-1">
        {remove ? (
          <Button look="quiet" className="!px-1" aria-label={`Remove ${name}`} onClick={remove}>
            <Trash2 size={15} aria-hidden />
          </Button>
        ) : null}
      </div>
    </fieldset>
  );
}

const WhatItIs = ({ control }: Pick<Form, 'control'>) => (
  <div className="mb-3 grid gap-3 md:grid-cols-12">
    <FormText control={control} name="name" className="md:col-span-4" label="Instrument" />
    <FormChoice
      control={control}
      name="kind"
      className="md:col-span-4"
      label="Kind"
      options={INSTRUMENT_KINDS.map((kind) => ({ value: kind, label: kind }))}
    />
    <FormText control={control} name="serial" className="md:col-span-4" label="Serial number" />
    <FormText control={control} name="notes" className="md:col-span-12" label="Notes" />
  </div>
);

/** Writes down an instrument, new or known. What was typed stays until it is saved or given up. */
export function InstrumentEditor({ instrument, onDone }: { instrument: Instrument | null; onDone: () => void }) {
  const form = useCheckedForm(InstrumentBody, instrument ? bodyOf(instrument) : newInstrument());
  const { control, formState, getValues, handleSubmit } = form;
  const { fields, append, remove } = useFieldArray({ control, name: 'channels', keyName: 'key' });
  const [create, creating] = useCreateInstrumentMutation();
  const [save, saving] = useSaveInstrumentMutation();
  const calibrated = new Set(instrument?.calibrations.map((calibration) => calibration.channelId));
  const submit = handleSubmit(async (body) => {
    const answer = instrument ? await save({ id: instrument.id, version: instrument.version, body }) : await create(body);
    if ('data' in answer) onDone();
  });
  const error = saving.error ?? creating.error;
  const about = problemsOf(formState.errors).filter(({ pointer }) => pointer === '/channels');
  return (
    <FormProblems errors={formState.errors}>
      <form noValidate onSubmit={(event) => void submit(event)}>
        <WhatItIs control={control} />
        {about.map(({ sentence }) => (
          <Notice key={sentence} tone="error">
            {sentence}
          </Notice>
        ))}
        {fields.map((channel, index) => (
          <ChannelEditor
            key={channel.key}
            form={form}
            index={index}
            remove={fields.length > 1 && !calibrated.has(channel.id) ? () => remove(index) : null}
          />
        ))}
        {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
        <div className="flex flex-wrap justify-between gap-2 border-t border-rule pt-3">
          <Button
            look="quiet"
            onClick={() => {
              const { channels } = getValues();
              append({ ...newChannel(channels.length + 1), ...copyOf(channels.at(-1)) });
            }}
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
    </FormProblems>
  );
}

/** Channels of one instrument are mostly alike: a new one starts as the last, under its own name. */
function copyOf(last: InstrumentChannelBody | undefined): Partial<InstrumentChannelBody> {
  if (!last) return {};
  const { id: _id, name: _name, place: _place, ...figures } = last;
  return figures;
}
