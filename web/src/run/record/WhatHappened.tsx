import { fixed, type Finding } from '@red-ember/core';
import type { Run, Study } from '@red-ember/contract';
import { Section } from '../../ui/Section.tsx';
import { TimedTable } from './TimedTable.tsx';

const KINDS: Record<string, string> = {
  mark: 'mark',
  change: 'change',
  note: 'note',
  'mark-due': 'to be read',
  'lock-moved': 'lock moved',
  'load-removed': 'load removed',
  'load-off': 'load off',
  'load-on': 'gone on',
  'rig-quiet': 'rig silent',
  'rig-lost': 'rig lost',
  'cut-out': 'cut-out',
  vanished: 'part gone',
  returned: 'part back',
  stopped: 'stopped',
};

/** What is to be done again, in a line; nothing where the run can stand. */
export function repeatWords(run: Run, findings: Finding[]): string | undefined {
  const blocking = findings.filter((finding) => finding.severity === 'blocks');
  if (run.state !== 'finished') return 'It ended early: repeat it, unless a lower bound is all that is asked.';
  if (run.faults.length > 0) return 'A fault was planted in it: repeat it without.';
  if (blocking.length > 0) return `Repeat it: ${blocking.map((finding) => finding.remedy).join(' ')}`;
  return undefined;
}

/** Marks, changes and hand readings in the order in which they came. */
export function WhatHappened({ study, run }: { study: Study; run: Run }) {
  const nameOf = (spotId: string) => study.spots.find((spot) => spot.id === spotId)?.name ?? '';
  const rows = [
    ...run.events.map((event) => ({ id: event.id, atS: event.atS, what: KINDS[event.kind] ?? event.kind, text: event.text })),
    ...run.handReadings.map((reading) => ({
      id: reading.id,
      atS: reading.atS,
      what: 'read by hand',
      text: `${nameOf(reading.spotId)} ${fixed(reading.valueC, 1)} °C${/[fk]/i.test(reading.typed) ? `, typed ${reading.typed}` : ''}`,
    })),
  ];
  if (rows.length === 0) return null;
  return (
    <Section title="What happened">
      <TimedTable label="What happened" rows={rows} />
    </Section>
  );
}
