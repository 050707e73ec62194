import { clock, duration } from '@red-ember/core';
import type { Run } from '@red-ember/contract';
import { Section } from '../../ui/Section.tsx';

const ENDINGS: Record<string, string> = {
  time: 'its time was over',
  settled: 'settled',
  cap: 'reached its cap',
  stopped: 'stopped by hand',
  'cut-out': 'cut out',
  'rig-lost': 'rig lost',
  interrupted: 'the load went off',
  intervention: 'something was changed',
  paused: 'paused',
  resumed: 'gone on',
  'by-hand': 'ended by hand',
  file: 'as mapped at import',
};

/** The phases of a run as they went, and what ended each. */
export function PhasesTable({ run }: { run: Run }) {
  return (
    <Section title="Phases">
      <table className="plain-table max-w-2xl">
        <thead>
          <tr>
            <th>Phase</th>
            <th className="num">From</th>
            <th className="num">Length</th>
            <th>Ended by</th>
          </tr>
        </thead>
        <tbody>
          {run.phases.map((phase, i) => (
            <tr key={i}>
              <td>{phase.name}</td>
              <td className="num">{clock(phase.startS)}</td>
              <td className="num">{duration((phase.endS ?? run.lengthS) - phase.startS)}</td>
              <td>{ENDINGS[phase.endedBy ?? ''] ?? phase.endedBy}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}
