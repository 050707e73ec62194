import { useState } from 'react';
import { Link } from 'react-router';
import { channelBudget, fixed } from '@red-ember/core';
import type { SpotBody } from '@red-ember/contract';
import { useInstrumentsQuery, useVerdictQuery } from '../data/api.ts';
import { useBenches, type Offered } from '../data/benches.ts';
import { useToday } from '../ui/useToday.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { ChoiceField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { Opener } from '../ui/Opener.tsx';
import { Section } from '../ui/Section.tsx';
import { columnsFor } from '../ui/tableColumns.ts';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft, type StudyDraft } from '../study/useStudyDraft.ts';
import { AgreementSection } from './AgreementSection.tsx';
import { BudgetSection } from './BudgetSection.tsx';
import { calibrationState, doubtOf, temperatureChannels, type KnownChannel } from './channels.ts';
import { SensorEditor } from './SensorEditor.tsx';

const METHODS: Record<SpotBody['method'], string> = { attached: 'attached', own: 'the part’s own', infrared: 'infrared' };

/** What one reading is worth before any scatter between runs, K at 95 %; null while a figure is missing. */
function singleReadingK(spot: SpotBody, known: KnownChannel | undefined): number | null {
  if (![spot.accuracyK, spot.resolutionK, spot.placementK, spot.limitC].every((value) => Number.isFinite(value) && value >= 0)) return null;
  return channelBudget({ use: 'absolute', sensor: doubtOf(spot, known, spot.limitC), repeatability: null }).total.expanded;
}

interface Row {
  spot: SpotBody;
  index: number;
  /** One reading, K at 95 %; null while a figure is missing. */
  single: number | null;
  calibration: ReturnType<typeof calibrationState> | null;
}
interface Acts {
  open: string | null;
  toggle(id: string): void;
}
const column = columnsFor<Row>();
const COLUMNS = [
  column.accessor(({ spot }) => spot.name, {
    id: 'spot',
    header: 'Spot',
    cell: ({ row: { original: row }, table }) => {
      const { open, toggle } = table.options.meta!.acts as Acts;
      return (
        <Opener name={row.spot.name} pointer={`/spots/${row.index}`} open={open === row.spot.id} onToggle={() => toggle(row.spot.id)} />
      );
    },
  }),
  column.accessor(({ spot }) => spot.sensor, {
    id: 'sensor',
    header: 'read by',
    cell: ({ row: { original: row } }) => (
      <>
        {row.spot.sensor}
        <span className="text-soft">, {METHODS[row.spot.method]}</span>
      </>
    ),
  }),
  column.accessor(({ spot }) => (spot.byHand ? 'typed in' : spot.channel), {
    id: 'channel',
    header: 'on',
    meta: { className: 'text-soft' },
  }),
  column.accessor(({ spot }) => spot.accuracyK, {
    id: 'accuracy',
    header: 'accuracy',
    meta: { number: true },
    cell: ({ getValue }) => `± ${getValue()} K`,
  }),
  column.accessor(({ spot }) => spot.resolutionK, {
    id: 'step',
    header: 'step',
    meta: { number: true },
    cell: ({ getValue }) => `${getValue()} K`,
  }),
  column.accessor('single', {
    header: 'one reading',
    meta: { number: true, className: 'font-semibold' },
    cell: ({ getValue }) => (getValue() === null ? 'unknown' : `± ${fixed(getValue()!, 1)} K`),
  }),
  column.accessor(({ calibration }) => calibration?.words ?? 'no instrument', {
    id: 'calibration',
    header: 'calibration',
    meta: { className: 'text-[0.87rem]' },
    cell: ({ row: { original: row }, getValue }) => (
      <span className={row.calibration?.tone === 'heat' ? 'text-ember-text' : 'text-soft'}>{getValue()}</span>
    ),
  }),
];

function SensorTable({
  body,
  change,
  channels,
  offered,
}: Pick<StudyDraft, 'body' | 'change'> & { channels: Map<string, KnownChannel>; offered: Offered[] }) {
  const [open, setOpen] = useState<string | null>(null);
  const today = useToday();
  const set = (index: number, part: Partial<SpotBody>) =>
    change({ spots: body.spots.map((spot, i) => (i === index ? { ...spot, ...part } : spot)) });
  if (body.spots.length === 0) return <Notice tone="hint">Place spots at Look first.</Notice>;
  const rows = body.spots.map((spot, index): Row => {
    const known = channels.get(spot.instrumentChannelId ?? '');
    return { spot, index, single: singleReadingK(spot, known), calibration: known ? calibrationState(known, today) : null };
  });
  return (
    <DataTable
      label="Sensors"
      rows={rows}
      idOf={({ spot }) => spot.id}
      columns={COLUMNS}
      acts={{ open, toggle: (id) => setOpen(open === id ? null : id) } satisfies Acts}
      renderBelow={({ spot, index }) =>
        open === spot.id ? (
          <SensorEditor spot={spot} index={index} body={body} channels={channels} offered={offered} change={(part) => set(index, part)} />
        ) : null
      }
    />
  );
}

export function EquipPage() {
  const study = useStudy();
  const { rigs, channels: offered } = useBenches(study.family);
  const { data: instruments = [] } = useInstrumentsQuery({ trash: false });
  const { data: verdict } = useVerdictQuery({ studyId: study.id });
  const { body: shown } = useStudyDraft(study);
  const channels = temperatureChannels(instruments);
  const room = offered.find((channel) => channel.key === 'room');
  const scatter = Object.fromEntries(
    (verdict?.judgement.spots ?? []).flatMap((spot) => (spot.repeatability ? [[spot.spotId, spot.repeatability]] : [])),
  );
  const today = useToday();
  const overdue = shown.spots.flatMap((spot) => {
    const known = channels.get(spot.instrumentChannelId ?? '');
    return known && calibrationState(known, today).tone === 'heat' ? [known.channel.name] : [];
  });
  return (
    <EditSheet
      study={study}
      station="Equip"
      heading="Which instrument reads what, and how good is it?"
      margin={
        <>
          <MarginGroup title="On the bench">
            {rigs.length === 0 ? (
              <Note tone="caution" lead="No rig is connected.">
                Channel names are kept and matched when one is.
              </Note>
            ) : null}
            {rigs.map((rig) => (
              <Note key={rig.id} tone={rig.connected ? 'cool' : 'caution'} lead={rig.name}>
                {rig.connected ? 'is connected' : 'is gone'}:{' '}
                {rig.channels.map((channel) => `${channel.key} (${channel.label})`).join(', ')}.
              </Note>
            ))}
            {offered.length > 0 && !room ? (
              <Note tone="heat" lead="No room probe.">
                Rise over room cannot be reported without one.
              </Note>
            ) : null}
            <Note>
              Instruments and their calibrations belong to the bench, not to a study: <Link to="/instruments">instruments</Link>.
            </Note>
            {overdue.length > 0 ? (
              <Note tone="heat" lead="Calibration overdue:">
                {[...new Set(overdue)].join(', ')}.
              </Note>
            ) : null}
          </MarginGroup>
          <MarginGroup title="Accuracy">
            <Note>
              In a <b>difference</b> by one sensor in one place the accuracy cancels; resolution and scatter between runs stay. With two
              sensors nothing cancels.
            </Note>
            <Note>State accuracy as its maker does, half-width. It counts in full against the limit.</Note>
            <Note tone="caution" lead="A sink is not the part.">
              What infrared reads on it is an estimate of the part beneath, and is marked as one everywhere.
            </Note>
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => (
        <>
          <Section title="Sensors" hint="one for each spot; open one to change it">
            <SensorTable body={body} change={change} channels={channels} offered={offered.filter(({ unit }) => unit === '°C')} />
            {channels.size > 0 ? (
              <ChoiceField
                className="mt-4 max-w-sm"
                label="Room air is read by"
                pointer="/roomChannelId"
                value={body.roomChannelId ?? ''}
                options={[
                  { value: '', label: 'an instrument not written down' },
                  ...[...channels.values()].map(({ instrument, channel }) => ({
                    value: channel.id,
                    label: `${instrument.name}, ${channel.name}`,
                  })),
                ]}
                onChange={(id) => change({ roomChannelId: id === '' ? null : id })}
              />
            ) : null}
          </Section>
          <BudgetSection body={body} channels={channels} scatter={scatter} />
          <AgreementSection body={body} studyId={study.id} />
        </>
      )}
    </EditSheet>
  );
}
