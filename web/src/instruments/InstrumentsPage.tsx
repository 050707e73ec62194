import { Archive, Pencil, Plus, RotateCcw, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { calibrate, counted, fixed, signed } from '@red-ember/core';
import { doubtUnitOf, type Instrument, type InstrumentChannelBody } from '@red-ember/contract';
import { sentenceOf, useInstrumentsQuery, useRestoreInstrumentMutation, useTrashInstrumentMutation } from '../data/api.ts';
import { useToday } from '../ui/useToday.ts';
import { calibrationState, statedK } from '../equip/channels.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Button } from '../ui/Button.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { columnsFor } from '../ui/tableColumns.ts';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { CalibrateDialog } from './CalibrateDialog.tsx';
import { InstrumentEditor } from './InstrumentEditor.tsx';

function accuracyWords(channel: InstrumentChannelBody): string {
  if (channel.quantity === 'temperature') {
    const at = statedK(channel, 80);
    return at === null ? 'unknown' : `± ${fixed(at, 2)} K at 80 °C`;
  }
  return `± (${channel.percentOfReading} % + ${channel.fixed} ${doubtUnitOf(channel.quantity)})`;
}

interface Row {
  channel: InstrumentChannelBody;
  calibration: ReturnType<typeof calibrationState>;
  /** What its newest calibration corrects; null where it has none. */
  corrects: string | null;
}

function rowsOf(instrument: Instrument, today: string): Row[] {
  return instrument.channels.map((channel) => {
    const calibrations = instrument.calibrations.filter((calibration) => calibration.channelId === channel.id);
    const newest = calibrations[0];
    const fit = newest ? calibrate(newest.points) : null;
    return {
      channel,
      calibration: calibrationState({ instrument, channel, calibrations }, today),
      corrects:
        fit && newest
          ? `${signed(fit.correctionAt(20).value, 2)} K at 20 °C, ${signed(fit.correctionAt(80).value, 2)} K at 80 °C; residual ${fixed(fit.residualSd, 2)} K; ${newest.runIds.length === 0 ? 'no run yet' : counted(newest.runIds.length, 'run')}`
          : null,
    };
  });
}

const column = columnsFor<Row>();
const COLUMNS = [
  column.accessor(({ channel }) => channel.name, { id: 'channel', header: 'Channel', meta: { className: 'font-semibold' } }),
  column.accessor(
    ({ channel }) =>
      `${channel.quantity}${channel.thermocouple ? `, type ${channel.thermocouple.type} class ${channel.thermocouple.toleranceClass}` : ''}`,
    { id: 'quantity', header: 'reads', meta: { className: 'text-soft' } },
  ),
  column.accessor(({ channel }) => accuracyWords(channel), { id: 'accuracy', header: 'as stated', meta: { number: true } }),
  column.accessor(({ channel }) => channel.resolution, {
    id: 'step',
    header: 'step',
    meta: { number: true },
    cell: ({ row: { original: row }, getValue }) => `${getValue()} ${doubtUnitOf(row.channel.quantity)}`,
  }),
  column.accessor(({ channel, calibration }) => (channel.quantity === 'temperature' ? calibration.words : ''), {
    id: 'calibration',
    header: 'calibration',
    cell: ({ row: { original: row }, getValue }) => (
      <>
        <span className={row.calibration.tone === 'heat' ? 'text-ember-text' : ''}>{getValue()}</span>
        {row.corrects ? <span className="block text-[0.87rem] text-soft">{row.corrects}</span> : null}
      </>
    ),
  }),
  column.display({
    id: 'calibrate',
    header: () => <span className="sr-only">Calibrate</span>,
    meta: { number: true, className: '!pr-0' },
    cell: ({ row: { original: row }, table }) =>
      row.channel.quantity === 'temperature' ? (
        <button
          type="button"
          className="underline hover:text-soft"
          onClick={() => (table.options.meta!.acts as (channel: InstrumentChannelBody) => void)(row.channel)}
          aria-label={`Calibrate ${row.channel.name}`}
        >
          Calibrate
        </button>
      ) : null,
  }),
];

/** One instrument: what it reads and how well, or the form that changes it. */
function InstrumentSection({
  instrument,
  inTrash,
  editing,
  onEdit,
  onCalibrate,
}: {
  instrument: Instrument;
  inTrash: boolean;
  editing: boolean;
  onEdit: (open: boolean) => void;
  onCalibrate: (channel: InstrumentChannelBody) => void;
}) {
  const today = useToday();
  const [trash] = useTrashInstrumentMutation();
  const [restore] = useRestoreInstrumentMutation();
  return (
    <section className="mb-8">
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-4">
        <h2>
          {instrument.name}
          <span className="ml-3 text-[0.9rem] font-normal text-soft">
            {instrument.kind}
            {instrument.serial ? `, ${instrument.serial}` : ''}
          </span>
        </h2>
        {inTrash ? (
          <Button look="quiet" onClick={() => void restore(instrument.id)}>
            <RotateCcw size={14} aria-hidden /> Bring back
          </Button>
        ) : (
          <span className="flex gap-1">
            <Button look="quiet" aria-label={`Change ${instrument.name}`} onClick={() => onEdit(!editing)}>
              <Pencil size={14} aria-hidden /> Change
            </Button>
            <Button
              look="quiet"
              className="!px-1"
              aria-label={`Put ${instrument.name} in the trash`}
              onClick={() => void trash(instrument.id)}
            >
              <Trash2 size={15} aria-hidden />
            </Button>
          </span>
        )}
      </div>
      {instrument.notes ? <p className="mb-2 text-[0.93rem] text-soft">{instrument.notes}</p> : null}
      {editing ? (
        <div className="border-l-[3px] border-ember pl-4">
          <InstrumentEditor key={instrument.version} instrument={instrument} onDone={() => onEdit(false)} />
        </div>
      ) : (
        <DataTable label={`Channels of ${instrument.name}`} rows={rowsOf(instrument, today)} columns={COLUMNS} acts={onCalibrate} />
      )}
    </section>
  );
}

/** Instruments of the bench with their channels and calibrations, shared by all studies. */
export function InstrumentsPage() {
  const [search, setSearch] = useSearchParams();
  const inTrash = search.get('trash') === 'true';
  const { data: instruments, error, isLoading } = useInstrumentsQuery({ trash: inTrash });
  const [editing, setEditing] = useState<string | null>(null);
  const [calibrating, setCalibrating] = useState<{ instrument: Instrument; channel: InstrumentChannelBody } | null>(null);
  return (
    <Sheet
      crumb={<Link to="/">All studies</Link>}
      windowTitle="Instruments"
      heading={inTrash ? 'Instruments in the trash' : 'What is on the bench, and how good is it?'}
      actions={
        <>
          <Button look="quiet" onClick={() => setSearch(inTrash ? {} : { trash: 'true' })}>
            <Archive size={15} aria-hidden /> {inTrash ? 'Back to the instruments' : 'Trash'}
          </Button>
          {inTrash ? null : (
            <Button onClick={() => setEditing('new')}>
              <Plus size={16} aria-hidden /> Add an instrument
            </Button>
          )}
        </>
      }
      margin={
        <>
          <MarginGroup title="Accuracy">
            <Note>
              Write it down as its maker states it: a percentage of the reading, a fixed part, and for a thermocouple the class of its wire
              on top.
            </Note>
            <Note>Wire classes are those of IEC 60584-1. They hold for the wire as made, not for one that was bent hot.</Note>
          </MarginGroup>
          <MarginGroup title="Calibration">
            <Note>
              Ice in water stirs to 0 °C. Water boils where the air pressure says: at 1013 hPa at 99.97 °C, 300 m higher a kelvin lower.
            </Note>
            <Note>A calibration is never changed. A new one takes over from its date on; raw samples stay as they were read.</Note>
            <Note tone="caution">Boiling water and steam burn. Keep mains leads dry.</Note>
          </MarginGroup>
        </>
      }
    >
      {isLoading ? <Waiting what="Looking over the bench" /> : null}
      {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      {editing === 'new' ? (
        <section className="mb-8 border-l-[3px] border-ember pl-4">
          <InstrumentEditor instrument={null} onDone={() => setEditing(null)} />
        </section>
      ) : null}
      {instruments?.length === 0 && editing === null ? (
        <Notice tone="hint">
          {inTrash
            ? 'The trash is empty.'
            : 'No instrument yet. Write down the logger, the infrared and the room probe once; every study can then name them.'}
        </Notice>
      ) : null}
      {instruments?.map((instrument) => (
        <InstrumentSection
          key={instrument.id}
          instrument={instrument}
          inTrash={inTrash}
          editing={editing === instrument.id}
          onEdit={(open) => setEditing(open ? instrument.id : null)}
          onCalibrate={(channel) => setCalibrating({ instrument, channel })}
        />
      ))}
      {calibrating ? <CalibrateDialog {...calibrating} onClose={() => setCalibrating(null)} /> : null}
    </Sheet>
  );
}
