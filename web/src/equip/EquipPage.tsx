import { Fragment, useState } from 'react';
import { Link } from 'react-router';
import { channelBudget, fixed } from '@red-ember/core';
import type { SpotBody } from '@red-ember/contract';
import { useInstrumentsQuery, useVerdictQuery } from '../data/api.ts';
import { useBenches, type Offered } from '../data/benches.ts';
import { useToday } from '../ui/useToday.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { ChoiceField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { OpenerCell } from '../ui/OpenerCell.tsx';
import { Section } from '../ui/Section.tsx';
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
  return (
    <table className="plain-table">
      <thead>
        <tr>
          <th>Spot</th>
          <th>read by</th>
          <th>on</th>
          <th className="num">accuracy</th>
          <th className="num">step</th>
          <th className="num">one reading</th>
          <th>calibration</th>
        </tr>
      </thead>
      <tbody>
        {body.spots.map((spot, index) => {
          const shown = open === spot.id;
          const known = channels.get(spot.instrumentChannelId ?? '');
          const single = singleReadingK(spot, known);
          const state = known ? calibrationState(known, today) : null;
          return (
            <Fragment key={spot.id}>
              <tr>
                <OpenerCell name={spot.name} pointer={`/spots/${index}`} open={shown} onToggle={() => setOpen(shown ? null : spot.id)} />
                <td>
                  {spot.sensor}
                  <span className="text-soft">, {METHODS[spot.method]}</span>
                </td>
                <td className="text-soft">{spot.byHand ? 'typed in' : spot.channel}</td>
                <td className="num">± {spot.accuracyK} K</td>
                <td className="num">{spot.resolutionK} K</td>
                <td className="num font-semibold">{single === null ? 'unknown' : `± ${fixed(single, 1)} K`}</td>
                <td className={`text-[0.87rem] ${state?.tone === 'heat' ? 'text-ember-text' : 'text-soft'}`}>
                  {state?.words ?? 'no instrument'}
                </td>
              </tr>
              {shown ? (
                <tr>
                  <td colSpan={7} className="!p-0">
                    <SensorEditor
                      spot={spot}
                      index={index}
                      body={body}
                      channels={channels}
                      offered={offered}
                      change={(part) => set(index, part)}
                    />
                  </td>
                </tr>
              ) : null}
            </Fragment>
          );
        })}
      </tbody>
    </table>
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
