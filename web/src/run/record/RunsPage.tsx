import { Upload } from 'lucide-react';
import { format } from 'date-fns';
import { Link } from 'react-router';
import { duration } from '@red-ember/core';
import type { Run, Study } from '@red-ember/contract';
import { useMountsQuery, useRigsQuery, useRunsQuery } from '../../data/api.ts';
import { LowSensorNotes } from '../../equip/LowSensorNotes.tsx';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Sheet } from '../../frame/Sheet.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { Section } from '../../ui/Section.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { StartRun } from '../start/StartRun.tsx';
import { DISPOSITIONS, STATES } from '../words.ts';

function RunRow({ run, study }: { run: Run; study: Study }) {
  const live = run.state === 'recording' || run.state === 'waiting';
  return (
    <tr>
      <td>
        <Link to={`/studies/${study.id}/run/${run.id}`} className="font-semibold">
          run {run.number}
        </Link>
      </td>
      <td>{study.variants.find((variant) => variant.id === run.variantId)?.name}</td>
      <td>{run.mountNumber === null ? <span className="text-soft">from {run.sourceName}</span> : `mount ${run.mountNumber}`}</td>
      <td>{format(new Date(run.startedAt), 'd MMM yyyy HH:mm')}</td>
      <td className="num">{duration(run.lengthS)}</td>
      <td className={run.state === 'cut-out' || run.state === 'failed' ? 'text-ember-text' : live ? 'font-semibold' : ''}>
        {STATES[run.state]}
      </td>
      <td>{live ? '' : run.purpose === 'seat-check' ? <span className="text-soft">seat check</span> : DISPOSITIONS[run.disposition]}</td>
    </tr>
  );
}

export function RunsPage() {
  const study = useStudy();
  const { data: runs = [] } = useRunsQuery(study.id, { pollingInterval: 5000 });
  const { data: mounts = [] } = useMountsQuery(study.id);
  const { data: rigs = [] } = useRigsQuery(undefined, { pollingInterval: 3000 });
  const live = runs.find((run) => run.state === 'recording' || run.state === 'waiting');
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
        <ButtonLink to={`/studies/${study.id}/run/import`}>
          <Upload size={16} aria-hidden /> Import a recorded log
        </ButtonLink>
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
          <table className="plain-table">
            <thead>
              <tr>
                <th>No.</th>
                <th>Variant</th>
                <th>Mount</th>
                <th>Started</th>
                <th className="num">Length</th>
                <th>Ended</th>
                <th>Signed off</th>
              </tr>
            </thead>
            <tbody>
              {[...runs].reverse().map((run) => (
                <RunRow key={run.id} run={run} study={study} />
              ))}
            </tbody>
          </table>
        </Section>
      ) : null}
    </Sheet>
  );
}
