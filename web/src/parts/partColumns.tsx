import { counted, fixed } from '@red-ember/core';
import type { PartOfBench } from '@red-ember/contract';
import { tagsOf } from '@red-ember/study';
import { amountWords } from './partWords.ts';
import { columnsFor } from '../ui/tableColumns.ts';

export const partColumn = columnsFor<PartOfBench>();

/** By which it is told from all others of the bench: studies that were copied go on calling their parts by the same ids. */
export const idOf = ({ part, kept, studies }: PartOfBench): string => kept?.id ?? `${studies[0]?.id ?? ''}.${part.id}`;

/** All that a part is found by. */
export const wordsOfPart = ({ part }: PartOfBench): string => [part.name, part.serial, part.note, part.tags].filter(Boolean).join(' ');

/** What stands below its name. */
export const belowPart = ({ part, kept }: PartOfBench): string =>
  [part.serial, part.note, ...tagsOf(part), kept && kept.photos.length > 0 ? counted(kept.photos.length, 'photograph') : '']
    .filter(Boolean)
    .join(', ');

/** What is said of a part wherever parts of the bench are listed. */
export const partColumns = [
  partColumn.accessor(wordsOfPart, {
    id: 'name',
    header: 'Part',
    cell: ({ row: { original } }) => (
      <>
        <span className="font-semibold">{original.part.name}</span>
        <span className="block text-[0.87rem] text-soft">{belowPart(original)}</span>
      </>
    ),
  }),
  partColumn.accessor(({ part }) => part.kind, { id: 'kind', header: 'Kind' }),
  partColumn.accessor(
    ({ part }) =>
      [amountWords(part), part.conductive ? 'conducts' : '', part.liquid ? 'holds liquid' : '', part.reusable ? '' : 'used up']
        .filter(Boolean)
        .join(', '),
    { id: 'size', header: 'Size' },
  ),
  partColumn.accessor(({ part }) => part.weightG, {
    id: 'weight',
    header: 'Weight, g',
    cell: ({ getValue }) => (getValue() > 0 ? fixed(getValue(), 0) : ''),
    meta: { number: true },
  }),
  partColumn.accessor(({ part }) => part.noiseDb, {
    id: 'sound',
    header: 'Sound, dB(A)',
    cell: ({ getValue }) => {
      const level = getValue();
      return level === null ? '' : fixed(level, 0);
    },
    meta: { number: true },
  }),
  partColumn.accessor(({ part }) => part.price, {
    id: 'price',
    header: 'Price',
    cell: ({ row: { original }, getValue }) =>
      getValue() > 0 ? `${fixed(getValue(), 2)} ${original.currency}${original.part.paste ? ' / g' : ''}` : '',
    meta: { number: true, className: 'whitespace-nowrap' },
  }),
];
