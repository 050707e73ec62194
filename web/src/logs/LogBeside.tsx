import { skipToken } from '@reduxjs/toolkit/query';
import { TIME_FORMATS } from '@red-ember/contract';
import { sentenceOf, useLogTraceQuery } from '../data/api.ts';
import { ColumnTable, type SpotChoice } from './ColumnTable.tsx';
import { TIMES } from './timeWords.ts';
import { Button } from '../ui/Button.tsx';
import { ChoiceField } from '../ui/Field.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { TableBeside } from './TableBeside.tsx';
import { Section } from '../ui/Section.tsx';
import { isoOf, localOf } from './localTime.ts';
import { PhaseTable, PhaseTrace } from './PhaseEditor.tsx';
import type { LogEdit, LogRow } from './rows.ts';

/** One log beside the table: its trace with the phases on it, its columns, everything that is not sure about it. */
export function LogBeside({
  row,
  spots,
  edit,
  onClose,
}: {
  row: LogRow;
  spots: readonly SpotChoice[];
  edit: (part: LogEdit) => void;
  onClose: () => void;
}) {
  const trace = row.log.kind === 'trace';
  const { data, error, isLoading } = useLogTraceQuery(trace ? row.log.id : skipToken);
  const columns = { timeColumn: row.timeColumn, dateColumn: row.log.guess.dateColumn, columns: row.columns };
  return (
    <Section
      title={row.log.fileName}
      action={
        <Button look="quiet" onClick={onClose}>
          Close
        </Button>
      }
    >
      {row.log.doubts.length > 0 ? (
        <ul className="mb-3 list-disc pl-5 text-[0.93rem] text-soft">
          {row.log.doubts.map((doubt) => (
            <li key={doubt}>{doubt}</li>
          ))}
        </ul>
      ) : null}
      {isLoading ? <Waiting what="Drawing the log" /> : null}
      {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      {trace ? (
        <>
          {data ? <PhaseTrace trace={data} columns={row.columns} phases={row.phases} onChange={(phases) => edit({ phases })} /> : null}
          <div className="mt-3">
            <PhaseTable phases={row.phases} onChange={(phases) => edit({ phases })} />
          </div>
          <div className="my-4 grid gap-4 md:grid-cols-2">
            <ChoiceField
              label="Time is given as"
              pointer="/timeFormat"
              value={row.timeFormat}
              onChange={(timeFormat) => edit({ timeFormat })}
              options={TIME_FORMATS.map((value) => ({ value, label: TIMES[value] }))}
            />
            <label className="block text-[0.87rem] text-soft">
              Began at
              <input
                type="datetime-local"
                className="field-box mt-1 text-[1rem] text-ink"
                value={localOf(row.startedAt)}
                onChange={(event) => edit({ startedAt: isoOf(event.target.value) })}
              />
            </label>
          </div>
          <ColumnTable family={row.log.guess.family} spots={spots} log={row.log} value={columns} onChange={edit} />
        </>
      ) : (
        <TableBeside row={row} spots={spots} edit={edit} />
      )}
    </Section>
  );
}
