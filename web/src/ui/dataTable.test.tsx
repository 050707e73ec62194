// @vitest-environment happy-dom
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { store } from '../data/store.ts';
import { cellsAsText } from './copyCells.ts';
import { DataTable } from './DataTable.tsx';
import { columnsFor } from './tableColumns.ts';

interface Row {
  name: string;
  watts: number | null;
}
const column = columnsFor<Row>();
const COLUMNS = [
  column.accessor('name', { header: 'Part' }),
  column.accessor('watts', { header: 'Power', meta: { number: true }, cell: ({ getValue }) => `${getValue()} W` }),
  column.display({ id: 'acts', header: '', cell: () => <button type="button">Away</button> }),
];
const many = (n: number): Row[] => Array.from({ length: n }, (_, i) => ({ name: `part ${i + 1}`, watts: (7 * i) % n }));
const shown = (rows: Row[]) =>
  render(
    <Provider store={store}>
      <DataTable label="Parts" rows={rows} columns={COLUMNS} />
    </Provider>,
  );
const names = () =>
  within(screen.getByRole('table'))
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('cell')[0]!.textContent);

describe('a table', () => {
  afterEach(() => {
    cleanup();
    localStorage.clear();
    vi.restoreAllMocks();
  });

  it('is sorted by its headings with the keyboard, figures as figures, and is found sorted so again', async () => {
    const user = userEvent.setup();
    shown(many(12));
    screen.getByRole('button', { name: 'Part' }).focus();
    await user.keyboard('{Enter}');
    expect(names().slice(0, 3)).toEqual(['part 1', 'part 2', 'part 3']);
    expect(screen.getByRole('columnheader', { name: 'Part' }).getAttribute('aria-sort')).toBe('ascending');
    await user.keyboard('{Enter}');
    expect(names()[0]).toBe('part 12');
    cleanup();
    shown(many(12));
    expect(names()[0]).toBe('part 12');
  });

  it('begins as it is at first where what was kept makes no sense any more', () => {
    localStorage.setItem('red-ember sorted Parts', JSON.stringify([{ id: 'gone', desc: true }]));
    shown(many(3));
    expect(names()).toEqual(['part 1', 'part 2', 'part 3']);
    cleanup();
    localStorage.setItem('red-ember sorted Parts', '{broken');
    shown(many(3));
    expect(names()).toHaveLength(3);
  });

  it('copies what is found in the order in which it stands, without columns that only act', async () => {
    const user = userEvent.setup();
    const written = vi.fn(() => Promise.resolve());
    vi.spyOn(navigator.clipboard, 'writeText').mockImplementation(written);
    shown(many(10));
    await user.type(screen.getByLabelText('Look for in Parts'), 'part 1');
    await user.click(screen.getByRole('button', { name: 'Copy' }));
    expect(written).toHaveBeenCalledWith('Part\tPower\npart 1\t0\npart 10\t3');
    expect(await screen.findByText('Copied, for a spreadsheet.')).toBeTruthy();
  });

  it('says so where the browser lets no page copy', async () => {
    const user = userEvent.setup();
    vi.spyOn(navigator.clipboard, 'writeText').mockRejectedValue(new Error('not allowed'));
    shown(many(10));
    await user.click(screen.getByRole('button', { name: 'Copy' }));
    expect(await screen.findByText(/lets no page copy here/)).toBeTruthy();
  });

  it('draws of many rows those in sight, and says how many there are', () => {
    shown(many(3000));
    expect(names().length).toBeLessThan(600);
    expect(names()[0]).toBe('part 1');
    expect(screen.getByRole('table').getAttribute('aria-rowcount')).toBe('3001');
  });
});

it('cells are quoted where they hold what parts them', () => {
  expect(cellsAsText([['a\tb', 'say "x"'], [null, 1.5], [true, 'two\nlines']])).toBe('"a\tb"\t"say ""x"""\n\t1.5\ntrue\t"two\nlines"'); // prettier-ignore
});
