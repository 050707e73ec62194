import { useMemo } from 'react';
import { columnsFor } from '../../ui/tableColumns.ts';
import { Upload } from 'lucide-react';
import { Link } from 'react-router';
import { duration } from '@red-ember/core';
import { goesOn, wentWrong, type Run, type Study } from '@red-ember/contract';
import { beganWords } from '@red-ember/study';
import { useMountsQuery, useRigsQuery, useRunsQuery } from '../../data/api.ts';
import { LowSensorNotes } from '../../equip/LowSensorNotes.tsx';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { ZoneNote } from '../../frame/ZoneNote.tsx';
import { Sheet } from '../../frame/Sheet.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { DataTable } from '../../ui/DataTable.tsx';
import { Section } from '../../ui/Section.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { StartRun } from '../start/StartRun.tsx';
import { signedWords, STATES } from '../words.ts';
import { timeOf } from '../../ui/dates.ts';

const column = columnsFor<Run>();

const columnsOf = (study: Study) => [
  column.accessor('number', {
    header: 'No.',
    cell: ({ row: { original: run } }) => (
      <Link to={`/studies/${study.id}/run/${run.id}`} className="font-semibold">
        run {run.number}
      </Link>
    ),
  }),
  column.accessor((run) => study.variants.find((variant) => variant.id === run.variantId)?.name ?? '', {
    id: 'variant',
    header: 'Variant',
  }),
  column.accessor((run) => (run.mountNumber === null ? 'mount unknown' : `mount ${run.mountNumber}`), {
    id: 'mount',
    header: 'Mount',
    cell: ({ row: { original: run }, getValue }) => (
      <>
        <span className={run.mountNumber === null ? 'text-soft' : ''}>{getValue()}</span>
        {run.source === 'file' ? <span className="block text-[0.87rem] text-soft">from {run.sourceName}</span> : null}
      </>
    ),
  }),
  column.accessor('startedAt', { header: 'Started', cell: ({ row: { original: run } }) => beganWords(run, timeOf) }),
  column.accessor('lengthS', { header: 'Length', cell: ({ getValue }) => duration(getValue()), meta: { number: true } }),
  column.accessor((run) => STATES[run.state], {
    id: 'state',
    header: 'Ended',
    cell: ({ row: { original: run }, getValue }) => (
      <span className={wentWrong(run) ? 'text-ember-text' : goesOn(run) ? 'font-semibold' : ''}>{getValue()}</span>
    ),
  }),
  column.accessor((run) => (goesOn(run) ? '' : run.purpose === 'seat-check' ? 'seat check' : signedWords(run)), {
    id: 'signed',
    header: 'Signed off',
    cell: ({ row: { original: run }, getValue }) => <span className={run.purpose === 'seat-check' ? 'text-soft' : ''}>{getValue()}</span>,
  }),
];

export function RunsPage() {
  const study = useStudy();
  const { data: runs = [] } = useRunsQuery(study.id, { pollingInterval: 5000 });
  const { data: mounts = [] } = useMountsQuery(study.id);
  const { data: rigs = [] } = useRigsQuery(undefined, { pollingInterval: 3000 });
  const columns = useMemo(() => columnsOf(study), [study]);
  const live = runs.find(goesOn);
  return (
    <Sheet
      crumb={`${study.title} / Run`}
      windowTitle={`Runs, ${study.title}`}
      heading={
        live
          ? `Run ${live.number} goes on.`
          : runs.length === 0
            ? 'No run yet.'
            : `${runs.length === 1 ? 'One run' : `${runs.length} runs`} so far.`
      }
      actions={
        <>
          <ButtonLink look="quiet" to={`/logs?study=${study.id}`}>
            A day of logs
          </ButtonLink>
          <ButtonLink to={`/studies/${study.id}/run/import`}>
            <Upload size={16} aria-hidden /> Import a recorded log
          </ButtonLink>
        </>
      }
      margin={
        <>
          <MarginGroup title="Armed for the next run">
            {study.spots.length === 0 ? (
              <Note tone="caution">No spots, so nothing is armed: place them at Look.</Note>
            ) : (
              study.spots.map((spot) => (
                <Note key={spot.id} lead={spot.name} tone={spot.byHand ? 'caution' : 'plain'}>
                  {spot.byHand ? 'read by hand: nothing stops the load for it' : `cut-out at ${spot.cutOutC} °C for ${spot.cutOutHoldS} s`}
                </Note>
              ))
            )}
            <Note>The load is also removed when the room probe is silent for 60 s or the rig is lost.</Note>
          </MarginGroup>
          <MarginGroup title="Times">
            <ZoneNote />
          </MarginGroup>
          <LowSensorNotes study={study} />
          <MarginGroup title="Cautions">
            <Note tone="caution">Fans start without warning. Metal above 60 °C burns. Stay within reach of the stop.</Note>
          </MarginGroup>
        </>
      }
    >
      <Section title="Start">
        <StartRun study={study} mounts={mounts} rigs={rigs} />
      </Section>
      {runs.length > 0 ? (
        <Section title="Runs" hint="Rejected runs stay visible and out of results.">
          <DataTable label="Runs" rows={runs} columns={columns} sorted={[{ id: 'number', desc: true }]} />
        </Section>
      ) : null}
    </Sheet>
  );
}
