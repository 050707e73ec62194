import { useForm, type UseFormRegisterReturn } from 'react-hook-form';
import { clock, fixed, handValue } from '@red-ember/core';
import type { LiveSnapshot, Run, Study } from '@red-ember/contract';
import { sentenceOf, useReadByHandMutation, useReadLaterMutation, useTakeBackReadingMutation } from '../../data/api.ts';
import { handUnitChosen } from '../../data/settings.ts';
import { useAppDispatch, useAppSelector } from '../../data/store.ts';
import { useDegrees } from '../../data/useDegrees.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';

/** Spots that are read by hand, in the order in which they stand at Look. */
export const handSpots = (study: Study) => study.spots.filter((spot) => spot.byHand);

/** One spot: what the instrument showed last, what is typed, and how it is understood. */
function HandField({
  spot,
  value,
  usual,
  shows,
  last,
  large,
  field,
}: {
  spot: Study['spots'][number];
  value: string;
  usual: 'C' | 'F';
  shows: LiveSnapshot['shows'][number] | undefined;
  last: Run['handReadings'][number] | undefined;
  large: boolean;
  field: UseFormRegisterReturn;
}) {
  const size = large ? '!py-1 text-[1.8rem]' : '';
  const understood = value.trim() === '' ? null : handValue(value, usual);
  return (
    <div>
      <label htmlFor={`hand-${spot.id}`} className={`flex justify-between gap-2 ${large ? 'text-[1.15rem]' : 'text-[0.87rem]'} text-soft`}>
        <span className="truncate">{spot.name}</span>
        {shows ? (
          <span className="shrink-0" title="The simulated instrument in your hand">
            shows {fixed(shows.valueC, 1)} °C
          </span>
        ) : null}
      </label>
      <input
        id={`hand-${spot.id}`}
        className={`field-box ${size}`}
        inputMode="decimal"
        autoComplete="off"
        placeholder={last ? `${fixed(last.valueC, 1)} at ${clock(last.atS)}` : `°${usual}`}
        aria-invalid={understood?.kind === 'unclear'}
        {...field}
      />
      <p className={`min-h-5 text-[0.87rem] ${understood?.kind === 'unclear' ? 'text-ember-text' : 'text-soft'}`}>
        {understood === null
          ? ''
          : understood.kind === 'unclear'
            ? understood.why
            : understood.unit === 'C'
              ? ''
              : `${fixed(understood.valueC, 1)} °C`}
      </p>
    </div>
  );
}

/**
 * A number, Tab, a number, Enter. The clock is stamped by the server; the unit is understood. Large, it can be read and typed at
 * arm's length.
 */
export function HandReadings({
  study,
  run,
  snapshot,
  large = false,
  atS,
}: {
  study: Study;
  run: Run;
  snapshot: LiveSnapshot | null;
  large?: boolean;
  /** When they were read, for a run that has ended; one that goes on stamps them itself. */
  atS?: number;
}) {
  const dispatch = useAppDispatch();
  const { text } = useDegrees();
  const usual = useAppSelector((state) => state.settings.handUnit);
  const { register, handleSubmit, setFocus, setValue, watch } = useForm<{ typed: Record<string, string> }>({
    defaultValues: { typed: {} },
  });
  const typed = watch('typed');
  const [write, writingNow] = useReadByHandMutation();
  const [writeLater, writingLater] = useReadLaterMutation();
  const writing = atS === undefined ? writingNow : writingLater;
  const [takeBack] = useTakeBackReadingMutation();
  const spots = handSpots(study);
  const filled = spots.filter((spot) => (typed[spot.id] ?? '').trim() !== '');
  const unclear = filled.filter((spot) => handValue(typed[spot.id]!, usual).kind === 'unclear');
  const lastOf = (spotId: string) => run.handReadings.filter((reading) => reading.spotId === spotId).at(-1);
  const latest = run.handReadings.at(-1);
  const submit = handleSubmit(async () => {
    if (filled.length === 0 || unclear.length > 0) return;
    const readings = filled.map((spot) => ({ spotId: spot.id, typed: typed[spot.id]!.trim() }));
    const result =
      atS === undefined
        ? await write({ id: run.id, body: { readings, usual } })
        : await writeLater({ id: run.id, body: { readings, usual, atS } });
    if ('error' in result && result.error) return;
    spots.forEach(({ id }) => setValue(`typed.${id}`, ''));
    if (spots[0]) setFocus(`typed.${spots[0].id}`);
  });
  return (
    <form aria-label="Hand readings" onSubmit={(event) => void submit(event)}>
      <div className={`grid gap-x-6 gap-y-2 md:grid-cols-3`}>
        {spots.map((spot) => (
          <HandField
            key={spot.id}
            spot={spot}
            value={typed[spot.id] ?? ''}
            usual={usual}
            shows={snapshot?.shows.find((entry) => entry.spotId === spot.id)}
            last={lastOf(spot.id)}
            large={large}
            field={register(`typed.${spot.id}`)}
          />
        ))}
      </div>
      <div className="flex flex-wrap items-center gap-3">
        <Button
          type="submit"
          look="strong"
          className={large ? '!px-6 !py-3 text-[1.3rem]' : ''}
          disabled={filled.length === 0 || unclear.length > 0 || writing.isLoading}
        >
          Write down {filled.length > 0 ? (filled.length === 1 ? 'one reading' : `${filled.length} readings`) : 'readings'}
        </Button>
        <label className="flex items-center gap-2 text-[0.93rem] text-soft">
          A bare number is
          <select
            className="field-box !w-auto"
            value={usual}
            onChange={(event) => dispatch(handUnitChosen(event.target.value as 'C' | 'F'))}
          >
            <option value="C">°C</option>
            <option value="F">°F</option>
          </select>
        </label>
        {latest ? (
          <span className="text-[0.93rem] text-soft">
            Last: {study.spots.find((spot) => spot.id === latest.spotId)?.name} {text(`${fixed(latest.valueC, 1)} °C`)} at{' '}
            {clock(latest.atS)}{' '}
            <button
              type="button"
              className="underline underline-offset-4"
              onClick={() => void takeBack({ id: run.id, reading: latest.id })}
            >
              Take it back
            </button>
          </span>
        ) : null}
      </div>
      {writing.error ? <Notice tone="error">{sentenceOf(writing.error)}</Notice> : null}
    </form>
  );
}
