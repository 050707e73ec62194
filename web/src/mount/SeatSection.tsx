import { useState } from 'react';
import { useNavigate } from 'react-router';
import { fixed } from '@red-ember/core';
import type { Mount, Run, Study } from '@red-ember/contract';
import { sentenceOf, useRigsQuery, useSeatQuery, useStartRunMutation } from '../data/api.ts';
import { useAppSelector } from '../data/store.ts';
import { PlantFaults } from '../run/start/PlantFaults.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { CAUSES, seatSentence } from './seatWords.ts';
import { Shown } from '../ui/Shown.tsx';

const EDGES = { alike: 'border-quench', hotter: 'border-ember', cooler: 'border-quench', unknown: 'border-stone' } as const;

/** Whether the mount on the bench sits as earlier ones did, from its first minutes of load. */
export function SeatSection({ study, mount, runs }: { study: Study; mount: Mount; runs: Run[] }) {
  const navigate = useNavigate();
  const timeScale = useAppSelector((state) => state.settings.timeScale);
  const { data: rigs = [] } = useRigsQuery(undefined, { pollingInterval: 4000 });
  const { data: report } = useSeatQuery(mount.id);
  const [faults, setFaults] = useState<string[]>([]);
  const [start, starting] = useStartRunMutation();
  const rig = rigs.find((candidate) => candidate.connected);
  const setup = study.variants.find((variant) => variant.id === mount.variantId)?.setup ?? '';
  const able = rig?.busyRunId === null && (!rig.simulated || rig.setups.some((entry) => entry.key === setup));
  const nameOf = (spotId: string) => study.spots.find((spot) => spot.id === spotId)?.name ?? spotId;
  const check = report?.check ?? null;
  const go = async () => {
    const result = await start({
      studyId: study.id,
      body: {
        mountId: mount.id,
        timeScale: rig?.simulated ? timeScale : 1,
        seed: null,
        purpose: 'seat-check',
        faults: rig?.simulated ? faults : [],
      },
    });
    if ('data' in result) void navigate(`/studies/${study.id}/run/${result.data!.id}`);
  };
  return (
    <Section
      title="Seat"
      hint={`${report?.atMin ?? 3} minutes of load, against other mounts of the variant`}
      action={
        able ? (
          <Button onClick={() => void go()} disabled={starting.isLoading}>
            Check the seat, about 6 min
          </Button>
        ) : undefined
      }
    >
      {able && rig.simulated && rig.faults.length > 0 ? (
        <div className="mb-3">
          <PlantFaults faults={rig.faults} chosen={faults} onChange={setFaults} />
        </div>
      ) : null}
      {starting.error ? <Notice tone="error">{sentenceOf(starting.error)}</Notice> : null}
      {check === null ? (
        <p className="text-soft">
          {report?.sentence ?? ''} {able || runs.length > 0 ? '' : 'A bench that runs this variant would measure it.'}
        </p>
      ) : (
        <>
          <p className={`mb-3 border-l-[3px] pl-3 text-[1.15rem] ${EDGES[check.verdict]}`}>{seatSentence(check, nameOf)}</p>
          <Shown>
            <table className="plain-table">
              <thead>
                <tr>
                  <th>Spot</th>
                  <th className="num">gained</th>
                  <th className="num">expected</th>
                  <th className="num">difference</th>
                  <th className="num">mounts differ by</th>
                </tr>
              </thead>
              <tbody>
                {check.spots.map((spot) => (
                  <tr key={spot.spotId} className={spot.verdict === 'hotter' ? 'font-semibold' : ''}>
                    <td>{nameOf(spot.spotId)}</td>
                    <td className="num">{fixed(spot.gainK, 1)} K</td>
                    <td className="num">{spot.expectedK === null ? '' : `${fixed(spot.expectedK, 1)} K`}</td>
                    <td className="num">
                      {spot.differenceK === null ? '' : `${spot.differenceK > 0 ? '+' : ''}${fixed(spot.differenceK, 1)} K`}
                    </td>
                    <td className="num text-soft">{spot.doubtK === null ? '' : `± ${fixed(spot.doubtK, 1)} K`}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Shown>
          {check.causes.length > 0 ? (
            <ol className="mt-3 list-decimal pl-6" aria-label="Likely causes">
              {check.causes.map((cause) => (
                <li key={cause}>{CAUSES[cause]}</li>
              ))}
            </ol>
          ) : null}
        </>
      )}
    </Section>
  );
}
