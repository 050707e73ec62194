import { ListPlus, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { counted } from '@red-ember/core';
import type { Limit, SpotBody, StudyBody } from '@red-ember/contract';
import type { StudyDraft } from '../study/useStudyDraft.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { Opener } from '../ui/Opener.tsx';
import { Section } from '../ui/Section.tsx';
import { columnsFor, type TableOf } from '../ui/tableColumns.ts';
import { AddSeveral } from './AddSeveral.tsx';
import { SpotEditor } from './SpotEditor.tsx';
import { freeChannels, newSpot } from './spots.ts';

const METHODS: Record<SpotBody['method'], string> = { attached: '', own: 'own', infrared: 'infrared' };

/** Removes a spot and everything in the study that names it. */
export function withoutSpot(body: StudyBody, id: string): Partial<StudyBody> {
  return {
    spots: body.spots.filter((spot) => spot.id !== id).map((spot) => (spot.twinOf === id ? { ...spot, twinOf: null } : spot)),
    claims: body.claims.map((claim) => (claim.spotId === id ? { ...claim, spotId: null } : claim)),
    predictions: body.predictions.filter((prediction) => prediction.spotId !== id),
    subjects: body.subjects.map((subject) => ({
      ...subject,
      map: subject.map && { ...subject.map, placements: subject.map.placements.filter((placement) => placement.spotId !== id) },
    })),
  };
}

interface Row {
  spot: SpotBody;
  index: number;
}
interface Acts {
  open: string | null;
  toggle(id: string): void;
  remove(id: string): void;
}
const actsOf = (table: TableOf<Row>) => table.options.meta!.acts as Acts;
const column = columnsFor<Row>();
const celsius = (value: number | null) => (value === null || Number.isNaN(value) ? '' : `${value} °C`);
const limitColumn = (id: 'advisoryC' | 'throttleC' | 'limitC' | 'cutOutC', header: string, className = 'text-soft') =>
  column.accessor(({ spot }) => spot[id], {
    id,
    header,
    meta: { number: true, className },
    cell: ({ getValue }) => celsius(getValue()),
  });
const COLUMNS = [
  column.accessor(({ spot }) => spot.name, {
    id: 'spot',
    header: 'Spot',
    cell: ({ row: { original: row }, table }) => (
      <Opener
        name={row.spot.name}
        pointer={`/spots/${row.index}`}
        open={actsOf(table).open === row.spot.id}
        onToggle={() => actsOf(table).toggle(row.spot.id)}
      />
    ),
  }),
  column.accessor(({ spot }) => spot.componentClass, { id: 'component', header: 'Component' }),
  limitColumn('advisoryC', 'Advisory'),
  limitColumn('throttleC', 'Throttles'),
  limitColumn('limitC', 'Limit', 'font-semibold'),
  limitColumn('cutOutC', 'Cut-out'),
  column.accessor(({ spot }) => spot.sensor, {
    id: 'sensor',
    header: 'Read by',
    cell: ({ row: { original: row } }) => (
      <>
        {row.spot.sensor}
        <span className="text-soft">
          {METHODS[row.spot.method] ? `, ${METHODS[row.spot.method]}` : ''}
          {row.spot.byHand ? ', by hand' : ''}
        </span>
      </>
    ),
  }),
  column.display({
    id: 'remove',
    header: () => <span className="sr-only">Remove</span>,
    meta: { number: true, className: '!pr-0' },
    cell: ({ row: { original: row }, table }) => (
      <button
        type="button"
        className="p-1 text-soft hover:text-ink"
        aria-label={`Remove ${row.spot.name}`}
        onClick={() => actsOf(table).remove(row.spot.id)}
      >
        <Trash2 size={15} aria-hidden />
      </button>
    ),
  }),
];

/** @param library the limits library; undefined until it has come: a spot that is added before would get limits that nobody stated */
export function SpotTable({
  body,
  change,
  library,
  offered,
}: Pick<StudyDraft, 'body' | 'change'> & { library: Limit[] | undefined; offered: string[] }) {
  const limits = library ?? [];
  const [open, setOpen] = useState<string | null>(null);
  const [several, setSeveral] = useState(false);
  const set = (index: number, part: Partial<SpotBody>) =>
    change({ spots: body.spots.map((spot, i) => (i === index ? { ...spot, ...part } : spot)) });
  const add = () => {
    const spot = newSpot(body.spots, limits, `Spot ${body.spots.length + 1}`, offered);
    change({ spots: [...body.spots, spot] });
    setOpen(spot.id);
  };
  return (
    <Section
      title={body.spots.length === 0 ? 'Spots' : counted(body.spots.length, 'spot')}
      action={
        <span className="flex gap-2">
          {library ? null : <span className="self-center text-[0.93rem] text-soft">The limits library is being opened…</span>}
          <Button look="quiet" disabled={!library} onClick={() => setSeveral(true)}>
            <ListPlus size={16} aria-hidden /> Add several
          </Button>
          <Button disabled={!library} onClick={add}>
            <Plus size={16} aria-hidden /> Add a spot
          </Button>
        </span>
      }
    >
      {body.spots.length === 0 ? (
        <Notice tone="hint">
          A spot is one place whose temperature is read, with the limit it must stay under. Survey the bare part first; then place spots
          where it runs hot, on both faces.
        </Notice>
      ) : (
        <DataTable
          label="Spots"
          rows={body.spots.map((spot, index) => ({ spot, index }))}
          idOf={({ spot }) => spot.id}
          columns={COLUMNS}
          acts={
            {
              open,
              toggle: (id) => setOpen(open === id ? null : id),
              remove: (id) => change(withoutSpot(body, id)),
            } satisfies Acts
          }
          renderBelow={({ spot, index }) =>
            open === spot.id ? (
              <SpotEditor
                spot={spot}
                index={index}
                limits={limits}
                family={body.family}
                drive={body.subjects[0]!.drive}
                change={(part) => set(index, part)}
              />
            ) : null
          }
        />
      )}
      <AddSeveral
        open={several}
        free={offered.length > 0 ? freeChannels(body.spots, offered).length : null}
        onClose={() => setSeveral(false)}
        onAdd={(names, method) =>
          change({
            spots: names.reduce(
              (spots, name) => [...spots, newSpot(spots, limits, name, offered, method, body.subjects[0]!.drive, body.family)],
              body.spots,
            ),
          })
        }
      />
    </Section>
  );
}
