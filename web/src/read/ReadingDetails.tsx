import { LONGEST_TAU_S, clock, duration, fixed, settledWords, signed, type PhaseReading, type SpotReview } from '@red-ember/core';
import type { Run, Study } from '@red-ember/contract';
import { useDegrees } from '../data/useDegrees.ts';
import { Dialogue } from '../ui/Dialogue.tsx';

function Rows({ reading, rule }: { reading: PhaseReading; rule: { toleranceK: number } }) {
  const { text } = useDegrees();
  const shown = reading.rise ?? reading.absolute;
  const { settling } = reading;
  const rows: [string, string][] = [
    ['Window', `${clock(reading.window.startS)} to ${clock(reading.window.endS)}`],
    [reading.rise ? 'Mean rise over room' : 'Mean', `${fixed(shown.mean.value, 3)} ${reading.rise ? 'K' : '°C'}`],
    ['Samples', `${shown.n}, of which ${fixed(shown.nEffective, 1)} count as independent`],
    ['Standard uncertainty of the mean', `${fixed(shown.mean.u, 3)} K, ${fixed(shown.mean.dof, 1)} degrees of freedom`],
    ['Mean temperature', `${fixed(reading.absolute.mean.value, 2)} °C`],
    [
      'Lowest, 95th percentile, highest',
      `${fixed(shown.min, 2)}, ${fixed(shown.p95, 2)}, ${fixed(shown.max, 2)} ${reading.rise ? 'K' : '°C'}`,
    ],
    ['Peak of the phase', `${fixed(reading.peakC, 1)} °C, spikes left out`],
    ['Spikes left out of the window', `${reading.spikes} (${fixed(100 * reading.spikeShare, 1)} %)`],
    ['Slope over five minutes', `${signed(settling.slopeKPerMin.value, 3)} ± ${fixed(2 * settling.slopeKPerMin.u, 3)} K per minute`],
    [
      'From the mean to the settled value',
      reading.toGo
        ? `${signed(reading.toGo.likely.value, 2)} ± ${fixed(2 * reading.toGo.likely.u, 2)} K likely; ${signed(reading.toGo.lowK, 2)} to ${signed(reading.toGo.highK, 2)} K at 95 % each way`
        : 'too few samples to bound it',
    ],
    ...(reading.toGo
      ? [
          ['Settled value', `${fixed(shown.mean.value + reading.toGo.likely.value, 2)} ${reading.rise ? 'K' : '°C'}`] satisfies [
            string,
            string,
          ],
        ]
      : []),
    [
      'State',
      `${settledWords(reading)} (slope over five minutes and 95 % bound within ${rule.toleranceK} K)${settling.etaS ? `; ${duration(settling.etaS)} more were needed by the best curve` : ''}`,
    ],
  ];
  return (
    <tbody>
      {rows.map(([name, value]) => (
        <tr key={name}>
          <td className="text-soft">{name}</td>
          <td>{text(value)}</td>
        </tr>
      ))}
    </tbody>
  );
}

/** The numbers behind one spot's readings. */
export function ReadingDetails({ study, run, spot, onClose }: { study: Study; run: Run; spot: SpotReview; onClose: () => void }) {
  const name = study.spots.find((candidate) => candidate.id === spot.spotId)?.name ?? '';
  return (
    <Dialogue open onClose={onClose} title={`${name}, run ${run.number}: how it was worked out`} wide>
      <div className="grid gap-6 text-[0.95rem]">
        {(
          [
            ['Load', spot.load],
            ['Idle', spot.idle],
          ] as const
        ).map(([title, reading]) => (
          <section key={title}>
            <h3 className="mb-1 font-semibold">{title}</h3>
            {reading ? (
              <table className="plain-table">
                <Rows reading={reading} rule={{ toleranceK: 0.5 }} />
              </table>
            ) : (
              <p className="text-soft">Too few samples to read.</p>
            )}
          </section>
        ))}
        <p className="text-soft">
          Spikes: Hampel identifier, 15 s window, 5 scaled deviations. Rise: the room interpolated to each sample’s own time. Independent
          samples: Geyer’s initial positive sequence. Settling: least-squares slope, and what is likely to remain, weighed over a fast and a
          slow time constant of up to {duration(LONGEST_TAU_S)}.
        </p>
      </div>
    </Dialogue>
  );
}
