import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Controller, useFieldArray, useWatch } from 'react-hook-form';
import { boilingPoint, calibrate, fixed, measured, pressureAtAltitude, signed } from '@red-ember/core';
import { CalibrationBody, type Instrument, type InstrumentChannelBody } from '@red-ember/contract';
import { sentenceOf, useCalibrateMutation, useRunsOfChannelQuery } from '../data/api.ts';
import { useToday } from '../ui/useToday.ts';
import { leftByCalibration } from '../equip/channels.ts';
import { Button } from '../ui/Button.tsx';
import { Dialogue } from '../ui/Dialogue.tsx';
import { NumberField } from '../ui/Field.tsx';
import { FormNumber, FormProblems, FormText, problemsOf, useCheckedForm } from '../ui/form.tsx';
import { Notice } from '../ui/Notice.tsx';
import { aYearAfter } from '../ui/dates.ts';

/** Boiling point of water for a pressure, or for an altitude where no barometer is at hand; null where neither makes sense. */
function boilingAt(by: 'pressure' | 'altitude', value: number): number | null {
  try {
    return boilingPoint(by === 'pressure' ? value : pressureAtAltitude(value));
  } catch {
    return null;
  }
}

function FixedPoints({ onAdd }: { onAdd: (referenceC: number, reference: string) => void }) {
  const [by, setBy] = useState<'pressure' | 'altitude'>('pressure');
  const [value, setValue] = useState(1013);
  const boiling = boilingAt(by, value);
  return (
    <div className="flex flex-wrap items-end gap-x-4 gap-y-2 border-t border-rule pt-3">
      <Button look="quiet" onClick={() => onAdd(0, 'ice point')}>
        <Plus size={14} aria-hidden /> Ice point
      </Button>
      <Button
        look="quiet"
        disabled={boiling === null}
        onClick={() => onAdd(Math.round(boiling! * 100) / 100, `boiling point at ${by === 'pressure' ? `${value} hPa` : `${value} m`}`)}
      >
        <Plus size={14} aria-hidden /> Boiling point, {boiling === null ? 'unknown' : `${fixed(boiling, 2)} °C`}
      </Button>
      <label className="text-[0.87rem] text-soft">
        by
        <select
          className="field-box ml-2 !w-auto"
          value={by}
          onChange={(event) => {
            const next = event.target.value as 'pressure' | 'altitude';
            setBy(next);
            setValue(next === 'pressure' ? 1013 : 100);
          }}
        >
          <option value="pressure">air pressure, hPa</option>
          <option value="altitude">altitude, m</option>
        </select>
      </label>
      <NumberField
        hideLabel
        className="w-24"
        label={by === 'pressure' ? 'Air pressure' : 'Altitude'}
        pointer=""
        value={value}
        onChange={setValue}
      />
      <Button look="quiet" onClick={() => onAdd(60, 'reference thermometer')}>
        <Plus size={14} aria-hidden /> Another reference
      </Button>
      {boiling === null ? (
        <p className="w-full text-[0.87rem] text-ember-text">
          Air pressure lies between 300 and 1200 hPa, altitude between −500 and 6000 m.
        </p>
      ) : null}
    </div>
  );
}

/** What the points come to: the line, its residual, and what it leaves in doubt. */
function Fit({ body }: { body: CalibrationBody }) {
  let words: string;
  try {
    const fit = calibrate(body.points);
    const left = leftByCalibration({ ...body, id: '', instrumentId: '', createdAt: '', runIds: [] }, 80);
    const at = (c: number) => `${signed(fit.correctionAt(c).value, 2)} K at ${c} °C`;
    words =
      body.points.length === 1
        ? `One point: the same correction everywhere, ${signed(fit.offset.value, 2)} K.`
        : `Correction ${at(0)}, ${at(50)}, ${at(100)}${body.points.length > 2 ? `; the points scatter by ${fixed(fit.residualSd, 2)} K about the line` : '; two points leave no residual'}. Left in doubt at 80 °C: ${measured(
            0,
            2 * left.u,
            'K',
          )
            .replace('0.00 ', '')
            .replace('0.0 ', '')}.`;
  } catch (error) {
    words =
      error instanceof RangeError
        ? 'All points stand at one indicated temperature: no line can be drawn through them.'
        : 'Fill in the points to see the correction.';
  }
  return <p className="my-3 text-[0.93rem]">{words}</p>;
}

function Ending({ saving, onSave, onClose }: { saving: boolean; onSave: () => void; onClose: () => void }) {
  return (
    <div className="mt-4 flex justify-end gap-2">
      <Button look="quiet" onClick={onClose}>
        Cancel
      </Button>
      <Button look="strong" disabled={saving} onClick={onSave}>
        Save the calibration
      </Button>
    </div>
  );
}

/** A calibration of one channel: points, fit, when it falls due, and which earlier runs it corrects. */
export function CalibrateDialog({
  instrument,
  channel,
  onClose,
}: {
  instrument: Instrument;
  channel: InstrumentChannelBody;
  onClose: () => void;
}) {
  const today = useToday();
  const { control, handleSubmit, formState } = useCheckedForm(CalibrationBody, {
    channelId: channel.id,
    madeOn: today,
    dueOn: aYearAfter(today),
    referenceAccuracyK: 0.1,
    points: [],
    note: '',
    applyToRuns: [],
  });
  const points = useFieldArray({ control, name: 'points' });
  const body = useWatch({ control }) as CalibrationBody;
  const { data: runs = [] } = useRunsOfChannelQuery(channel.id);
  const [save, saving] = useCalibrateMutation();
  const problems = problemsOf(formState.errors);
  const submit = handleSubmit(async (sent) => {
    const answer = await save({ instrumentId: instrument.id, body: sent });
    if ('data' in answer) onClose();
  });
  return (
    <Dialogue open onClose={onClose} title={`Calibrate ${channel.name} of ${instrument.name}`} wide>
      <FormProblems errors={formState.errors}>
        <div className="mb-4 grid gap-3 sm:grid-cols-3">
          <FormText type="date" label="Made on" control={control} name="madeOn" />
          <FormText type="date" label="Due again on" control={control} name="dueOn" />
          <FormNumber label="References are good to ±" unit="K" control={control} name="referenceAccuracyK" />
        </div>
        {problems
          .filter((problem) => problem.pointer === '/points')
          .map((problem) => (
            <Notice key={problem.sentence} tone="error">
              {problem.sentence}
            </Notice>
          ))}
        {points.fields.map((point, index) => (
          <div key={point.id} className="mb-2 grid items-end gap-3 sm:grid-cols-[minmax(0,1fr)_8rem_8rem_2rem]">
            <FormText label="Reference" control={control} name={`points.${index}.reference`} />
            <FormNumber label="It is" unit="°C" control={control} name={`points.${index}.referenceC`} />
            <FormNumber label="Shown" unit="°C" control={control} name={`points.${index}.indicatedC`} />
            <Button look="quiet" className="!px-1" aria-label={`Remove point ${index + 1}`} onClick={() => points.remove(index)}>
              <Trash2 size={15} aria-hidden />
            </Button>
          </div>
        ))}
        <FixedPoints onAdd={(referenceC, reference) => points.append({ referenceC, indicatedC: NaN, reference })} />
        {body.points.length > 0 ? <Fit body={body} /> : null}
        <p className="mt-3 text-[0.93rem]">
          The correction applies to every run from {body.madeOn} on. The samples themselves stay as they were read.
        </p>
        {runs.length > 0 ? (
          <fieldset className="mt-2">
            <legend className="text-[0.93rem] text-soft">Apply it to earlier runs as well</legend>
            <div className="mt-1 grid max-h-40 gap-1 overflow-y-auto">
              <Controller
                control={control}
                name="applyToRuns"
                render={({ field }) => (
                  <>
                    {runs.map((run) => (
                      <label key={run.runId} className="flex items-center gap-2 text-[0.93rem]">
                        <input
                          type="checkbox"
                          checked={field.value.includes(run.runId)}
                          onBlur={field.onBlur}
                          onChange={(event) =>
                            field.onChange(
                              event.target.checked ? [...field.value, run.runId] : field.value.filter((id: string) => id !== run.runId),
                            )
                          }
                        />
                        {run.studyTitle}, run {run.number}{' '}
                        <span className="text-soft">
                          {run.startedAt.slice(0, 10)}
                          {run.calibrationId ? ', corrected already' : ''}
                        </span>
                      </label>
                    ))}
                  </>
                )}
              />
            </div>
          </fieldset>
        ) : null}
        {saving.error ? <Notice tone="error">{sentenceOf(saving.error)}</Notice> : null}
        <Ending saving={saving.isLoading} onSave={() => void submit()} onClose={onClose} />
      </FormProblems>
    </Dialogue>
  );
}
