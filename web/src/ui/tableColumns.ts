import {
  columnFilteringFeature,
  createColumnHelper,
  createFilteredRowModel,
  createSortedRowModel,
  filterFn_includesString,
  globalFilteringFeature,
  rowSortingFeature,
  sortFn_alphanumeric,
  sortFn_text,
  tableFeatures,
  type Cell,
  type ColumnDef,
  type RowData,
  type Table,
} from '@tanstack/react-table';

/** What a column says of itself beside its heading and its cells. */
interface ColumnMeta {
  /** Figures stand at the right. */
  number?: boolean;
  className?: string;
}

/** What every table can do: it is sorted by its headings and looked through by a word. */
export const features = tableFeatures({
  rowSortingFeature,
  columnFilteringFeature,
  globalFilteringFeature,
  filteredRowModel: createFilteredRowModel(),
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, text: sortFn_text },
  filterFns: { includesString: filterFn_includesString },
  columnMeta: {} as ColumnMeta,
  /** `acts`: what cells can do; read when they do it, so that columns need not be made anew. */
  tableMeta: {} as { acts?: unknown },
});

export type TableOf<T extends RowData> = Table<typeof features, T>;
// Columns of one table hold values of different kinds.
// eslint-disable-next-line typescript/no-explicit-any
export type ColumnOf<T extends RowData> = ColumnDef<typeof features, T, any>;

export type CellOf<T extends RowData> = Cell<typeof features, T, unknown>;

/** Makes the columns of a table of such rows. */
export const columnsFor = <T extends RowData>() => createColumnHelper<typeof features, T>();
