import { counted, duration } from '@red-ember/core';
import type { MountOfBench } from '@red-ember/contract';
import { familyOf } from '@red-ember/study';
import { useBenchMountsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { ZoneNote } from '../frame/ZoneNote.tsx';
import { timeOf } from '../ui/dates.ts';
import { columnsFor } from '../ui/tableColumns.ts';
import { BenchList, inStudies, StudyCell } from './BenchList.tsx';

const column = columnsFor<MountOfBench>();

const columns = [
  column.accessor((mount) => `${mount.studyTitle} ${familyOf(mount.family).name}`, {
    id: 'study',
    header: 'Study',
    cell: ({ row: { original: mount } }) => (
      <StudyCell to={`/studies/${mount.studyId}/mount`} title={mount.studyTitle} family={familyOf(mount.family).name} />
    ),
  }),
  column.accessor((mount) => [mount.variant, mount.part, mount.serial].filter(Boolean).join(' '), {
    id: 'variant',
    header: 'What was put on',
    cell: ({ row: { original: mount } }) => (
      <>
        <span className="font-semibold">{mount.variant}</span>, mount {mount.number}
        <span className="block text-[0.87rem] text-soft">{[mount.part, mount.serial].filter(Boolean).join(', ')}</span>
      </>
    ),
  }),
  column.accessor('from', { header: 'In place of', cell: ({ getValue }) => getValue() || 'nothing' }),
  column.accessor('madeAt', { header: 'Made', cell: ({ getValue }) => timeOf(getValue()), meta: { className: 'whitespace-nowrap' } }),
  column.accessor('handsMin', {
    header: 'Hands',
    cell: ({ getValue }) => {
      const minutes = getValue();
      return minutes === null ? 'not taken' : duration(60 * minutes);
    },
    meta: { number: true },
  }),
  column.accessor('runs', { header: 'Runs', meta: { number: true } }),
  column.accessor(
    ({ note, by, skipped, photos }) =>
      [
        note,
        by && `mounted by ${by}`,
        skipped > 0 ? `${counted(skipped, 'step')} left out` : '',
        photos > 0 ? counted(photos, 'photograph') : '',
      ]
        .filter(Boolean)
        .join(', '),
    { id: 'noted', header: 'Noted', cell: ({ getValue }) => <span className="break-words">{getValue()}</span> },
  ),
];

/** Every mount of the bench in one table: which had a note, which was never run, and how long do they take? */
export function AllMountsPage() {
  const asked = useBenchMountsQuery();
  const idle = (asked.data ?? []).filter(({ runs }) => runs === 0).length;
  return (
    <BenchList
      kind="mounts"
      asked={asked}
      headingOf={(all) => inStudies('mount', all)}
      none={{
        heading: 'Nothing was mounted on this bench yet.',
        sentence: 'Mounts appear here as their cards are worked, or as logs say them.',
      }}
      columns={columns}
      sorted={[{ id: 'madeAt', desc: true }]}
      margin={
        <MarginGroup title="At a glance">
          {idle > 0 ? <Note>{counted(idle, 'mount')} without a run.</Note> : null}
          <Note>Minutes of hands are taken where a card is worked step by step; mounts out of logs have none.</Note>
          <Note>Mounts of exercises and of studies in the trash are not among them.</Note>
          <ZoneNote />
        </MarginGroup>
      }
    />
  );
}
