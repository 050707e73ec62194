import { fixed, type Finding } from '@red-ember/core';
import { goesOn, notedAfterwards, type Run, type Study } from '@red-ember/contract';
import { useTakeBackNoteMutation, useTakeBackReadingMutation } from '../../data/api.ts';
import { Section } from '../../ui/Section.tsx';
import { NoteLater } from './NoteLater.tsx';
import { TimedTable } from './TimedTable.tsx';

const KINDS: Record<string, string> = {
  mark: 'mark',
  change: 'change',
  note: 'note',
  'mark-due': 'to be read',
  'lock-moved': 'lock moved',
  'clock-off': 'clock off',
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
  const [takeBackNote] = useTakeBackNoteMutation();
  const [takeBackReading] = useTakeBackReadingMutation();
  const open = run.disposition === 'undecided' && !goesOn(run);
  const nameOf = (spotId: string) => study.spots.find((spot) => spot.id === spotId)?.name ?? '';
  const rows = [
    ...run.events.map((event) => ({
      id: event.id,
      atS: event.atS,
      what: KINDS[event.kind] ?? event.kind,
      text: event.text,
      ...(open && notedAfterwards(run, event) ? { takeBack: () => void takeBackNote({ id: run.id, event: event.id }) } : {}),
    })),
    ...run.handReadings.map((reading) => ({
      id: reading.id,
      atS: reading.atS,
      what: 'read by hand',
      text: `${nameOf(reading.spotId)} ${fixed(reading.valueC, 1)} °C${/[fk]/i.test(reading.typed) ? `, typed ${reading.typed}` : ''}`,
      ...(open ? { takeBack: () => void takeBackReading({ id: run.id, reading: reading.id }) } : {}),
    })),
  ];
  if (rows.length === 0 && goesOn(run)) return null;
  return (
    <Section title="What happened">
      {rows.length > 0 ? <TimedTable label="What happened" rows={rows} /> : <p className="text-soft">Nothing was noted.</p>}
      {goesOn(run) || run.figures ? null : <NoteLater study={study} run={run} />}
    </Section>
  );
}
