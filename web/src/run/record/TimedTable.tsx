import { clock } from '@red-ember/core';

export interface TimedRow {
  id: string;
  atS: number;
  what: string;
  text: string;
  /** Where it can be taken back. */
  takeBack?: () => void;
}

/** What happened, in the order in which it came; it scrolls within itself where it is long. */
export function TimedTable({ label, rows }: { label: string; rows: TimedRow[] }) {
  return (
    <div className="max-h-80 max-w-3xl overflow-y-auto" tabIndex={0} role="region" aria-label={label}>
      <table className="plain-table">
        <thead>
          <tr>
            <th className="num">At</th>
            <th>What</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows
            .toSorted((a, b) => a.atS - b.atS)
            .map((row) => (
              <tr key={row.id}>
                <td className="num">{clock(row.atS)}</td>
                <td className="whitespace-nowrap text-soft">{row.what}</td>
                <td>
                  {row.text}
                  {row.takeBack ? (
                    <>
                      {' '}
                      <button type="button" className="text-soft underline underline-offset-4" onClick={row.takeBack}>
                        Take it back
                      </button>
                    </>
                  ) : null}
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </div>
  );
}
