import { useState } from 'react';
import { Link } from 'react-router';
import { check, PutLimitBody, type FieldProblem, type Limit } from '@red-ember/contract';
import { sentenceOf, useLimitsQuery, usePutLimitMutation } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Button } from '../ui/Button.tsx';
import { NumberField, ProblemsContext, TextField } from '../ui/Field.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';

type Field = 'advisory' | 'throttle' | 'neverExceed';
const FIELDS: { field: Field; label: string; mayBeEmpty: boolean }[] = [
  { field: 'advisory', label: 'Advisory', mayBeEmpty: true },
  { field: 'throttle', label: 'Throttles at', mayBeEmpty: true },
  { field: 'neverExceed', label: 'Never exceed', mayBeEmpty: false },
];

function bodyOf({ version: _v, updatedAt: _u, ...body }: Limit): PutLimitBody {
  return body;
}

const [FROM_C, TO_C] = [20, 130];
const at = (celsius: number) => `${Math.min(100, Math.max(0, (100 * (celsius - FROM_C)) / (TO_C - FROM_C)))}%`;

/** Where a class stands between room air and the hottest of all: shaded from the advisory, a notch where it throttles, a bar it must not pass. */
function LimitTrack({ limit }: { limit: Limit }) {
  const words = [
    limit.advisoryC === null ? '' : `advisory ${limit.advisoryC} °C`,
    limit.throttleC === null ? '' : `throttles at ${limit.throttleC} °C`,
    `never exceed ${limit.neverExceedC} °C`,
  ];
  return (
    <div role="img" aria-label={words.filter(Boolean).join(', ')} className="relative h-4">
      <span className="absolute inset-x-0 top-1/2 border-t border-rule" />
      <span className="absolute top-1 h-2 bg-stone/60" style={{ left: 0, width: at(limit.advisoryC ?? limit.neverExceedC) }} />
      {limit.advisoryC === null ? null : (
        <span
          className="absolute top-1 h-2 bg-ochre/70"
          style={{ left: at(limit.advisoryC), width: `calc(${at(limit.neverExceedC)} - ${at(limit.advisoryC)})` }}
        />
      )}
      {limit.throttleC === null ? null : <span className="absolute top-0 h-4 w-0.5 bg-ember" style={{ left: at(limit.throttleC) }} />}
      <span className="absolute top-0 h-4 w-[3px] bg-ink" style={{ left: at(limit.neverExceedC) }} />
    </div>
  );
}

function LimitForm({ limit, onDone }: { limit: Limit; onDone: () => void }) {
  const [body, setBody] = useState<PutLimitBody>(() => bodyOf(limit));
  const [put, putting] = usePutLimitMutation();
  const result = check(PutLimitBody, JSON.parse(JSON.stringify(body)));
  const problems: FieldProblem[] = result.ok ? [] : result.problems;
  const save = async () => {
    if (problems.length > 0) return;
    const answer = await put({ version: limit.version, body });
    if ('data' in answer) onDone();
  };
  return (
    <ProblemsContext.Provider value={problems}>
      <form
        className="mb-4 grid items-start gap-x-4 gap-y-2 border-l-[3px] border-ember pl-4 md:grid-cols-3"
        aria-label={limit.componentClass}
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        {FIELDS.map(({ field, label, mayBeEmpty }) => {
          const value = body[`${field}C`];
          return (
            <div key={field} className="grid gap-2">
              <NumberField
                label={label}
                unit="°C"
                pointer={`/${field}C`}
                value={value}
                hint={mayBeEmpty ? 'Empty: unknown' : undefined}
                onChange={(typed) => {
                  const empty = mayBeEmpty && Number.isNaN(typed);
                  setBody({ ...body, [`${field}C`]: empty ? null : typed, ...(empty ? { [`${field}Source`]: '' } : {}) });
                }}
              />
              <TextField
                label="Source"
                placeholder="data sheet, standard, house rule"
                pointer={`/${field}Source`}
                disabled={value === null}
                value={body[`${field}Source`]}
                onChange={(source) => setBody({ ...body, [`${field}Source`]: source })}
              />
            </div>
          );
        })}
        <div className="flex flex-wrap justify-end gap-2 md:col-span-3">
          {putting.error ? <Notice tone="error">{sentenceOf(putting.error)}</Notice> : null}
          <Button look="quiet" onClick={onDone}>
            Cancel
          </Button>
          <Button type="submit" look="strong" disabled={problems.length > 0 || putting.isLoading}>
            Save {limit.componentClass}
          </Button>
        </div>
      </form>
    </ProblemsContext.Provider>
  );
}

function LimitRow({ limit }: { limit: Limit }) {
  const [open, setOpen] = useState(false);
  const c = (value: number | null) => (value === null ? '' : `${value} °C`);
  return (
    <>
      <div className="grid grid-cols-[8.5rem_minmax(0,1fr)_repeat(3,4.2rem)_4rem] items-center gap-x-3 border-t border-rule py-2">
        <span className="font-semibold first-letter:uppercase">{limit.componentClass}</span>
        <LimitTrack limit={limit} />
        <span className="text-right text-ochre-text">{c(limit.advisoryC)}</span>
        <span className="text-right text-ember-text">{c(limit.throttleC)}</span>
        <span className="text-right font-semibold">{c(limit.neverExceedC)}</span>
        <button
          type="button"
          className="text-right underline hover:text-soft"
          aria-expanded={open}
          aria-label={`Change ${limit.componentClass}`}
          onClick={() => setOpen(!open)}
        >
          Change
        </button>
        <span className="col-span-5 col-start-2 text-[0.83rem] text-soft">{limit.neverExceedSource}</span>
      </div>
      {open ? <LimitForm limit={limit} onDone={() => setOpen(false)} /> : null}
    </>
  );
}

/** What each class of component stands, shared by all studies. */
export function LimitsPage() {
  const { data: limits, error, isLoading } = useLimitsQuery();
  return (
    <Sheet
      crumb={<Link to="/">All studies</Link>}
      windowTitle="Limits"
      heading="What may each kind of component get?"
      under="Start values for new spots; a study keeps the values it was written with"
      margin={
        <>
          <MarginGroup title="Where they come from">
            <Note tone="caution" lead="General figures.">
              What ships here is general engineering knowledge. Replace it from the data sheet of the part in your hand, and say so.
            </Note>
            <Note>
              Advisory: worth a word. Throttles at: where such a part usually slows itself. Never exceed: the right end of every strip.
            </Note>
          </MarginGroup>
          <MarginGroup title="Drives">
            <Note>
              A drive publishes its own warning and critical temperature, and two managed ones at which it slows. Write them down with the
              part, at Ask.
            </Note>
          </MarginGroup>
          <MarginGroup title="Caution">
            <Note tone="caution">Metal above 60 °C burns on touch. Over-temperature shortens the life of every part.</Note>
          </MarginGroup>
        </>
      }
    >
      {isLoading ? <Waiting what="Fetching the library" /> : null}
      {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Limits by class of component">
        <div className="min-w-[34rem]">
          <div className="grid grid-cols-[8.5rem_minmax(0,1fr)_repeat(3,4.2rem)_4rem] gap-x-3 text-[0.87rem] text-soft" aria-hidden>
            <span />
            <span className="flex justify-between">
              <span>{FROM_C} °C</span>
              <span>{TO_C} °C</span>
            </span>
            <span className="text-right">advisory</span>
            <span className="text-right">throttles</span>
            <span className="text-right">never</span>
          </div>
          {limits?.map((limit) => (
            <LimitRow key={`${limit.componentClass}/${limit.version}`} limit={limit} />
          ))}
        </div>
      </div>
    </Sheet>
  );
}
