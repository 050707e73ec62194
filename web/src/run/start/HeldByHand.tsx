import type { Study } from '@red-ember/contract';
import { lockValue } from '@red-ember/study';

type Lock = Study['locks'][number];

/** The locks that no channel watches, each to be ticked by whoever looked. */
export function HeldByHand({
  locks,
  subjectId,
  confirmed,
  onChange,
}: {
  locks: Lock[];
  subjectId: string;
  confirmed: string[];
  onChange: (names: string[]) => void;
}) {
  const all = confirmed.length === locks.length;
  return (
    <fieldset className="border-t border-rule pt-3">
      <legend className="float-left mb-1 w-full text-[0.87rem] text-soft">
        Held as written? No channel watches these.{' '}
        <button type="button" className="underline hover:text-ink" onClick={() => onChange(all ? [] : locks.map((lock) => lock.name))}>
          {all ? 'None' : 'All of them'}
        </button>
      </legend>
      <div className="clear-both flex flex-wrap gap-x-6 gap-y-1">
        {locks.map((lock) => (
          <label key={lock.name} className="flex items-center gap-2 text-[0.93rem]">
            <input
              type="checkbox"
              checked={confirmed.includes(lock.name)}
              onChange={(event) =>
                onChange(event.target.checked ? [...confirmed, lock.name] : confirmed.filter((name) => name !== lock.name))
              }
            />
            {lock.name}: {lockValue(lock, subjectId)}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
