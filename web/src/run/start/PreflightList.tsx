import type { PreflightKey } from '@red-ember/core';
import type { PreflightRecord, PreflightReport } from '@red-ember/contract';

const NAMES: Record<PreflightKey, string> = {
  locks: 'Held as written',
  room: 'Room probe',
  sensors: 'Sensors',
  fans: 'Fans',
  'cut-outs': 'Cut-outs',
  rehearsal: 'Load goes off',
  seat: 'Seat',
  cold: 'Cold enough',
};
const MARKS = { true: '✓', false: '!', null: '–' };
const WORDS = { true: 'fine', false: 'look at this', null: 'not seen' };

export function PreflightChecks({ checks }: Pick<PreflightRecord, 'checks'>) {
  return (
    <ul aria-label="Pre-flight list" className="grid gap-1">
      {checks.map(({ key, ok, text }) => (
        <li key={key} className={`grid grid-cols-[1.4rem_8.5rem_minmax(0,1fr)] ${ok === null ? 'text-soft' : ''}`}>
          <span aria-hidden className={ok === false ? 'font-bold text-ember-text' : 'text-quench-text'}>
            {MARKS[`${ok}`]}
          </span>
          <span className={ok === false ? 'font-semibold' : ''}>
            {NAMES[key]}
            <span className="sr-only">: {WORDS[`${ok}`]}</span>
          </span>
          <span>{text}</span>
        </li>
      ))}
    </ul>
  );
}

/** What was seen before the run, and why it is started all the same. */
export function PreflightList({ report, reason, onReason }: { report: PreflightReport; reason: string; onReason: (text: string) => void }) {
  return (
    <div className="border-l-[3px] border-rule pl-4">
      <p className="mb-2 font-semibold">{report.clear ? 'Ready.' : 'Not everything is as it should be.'}</p>
      <PreflightChecks checks={report.checks} />
      {report.clear ? null : (
        <div className="mt-3 max-w-xl">
          <label htmlFor="override" className="mb-1 block text-[0.87rem] text-soft">
            Put it right and look again, or say why the run is started all the same; the reason stays with the run
          </label>
          <input id="override" className="field-box" maxLength={300} value={reason} onChange={(event) => onReason(event.target.value)} />
        </div>
      )}
    </div>
  );
}
