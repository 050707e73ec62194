import { useState } from 'react';
import { Link } from 'react-router';
import { PutLimitBody, type Limit } from '@red-ember/contract';
import { sentenceOf, useLimitsQuery, usePutLimitMutation } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Button } from '../ui/Button.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { FormNumber, FormProblems, FormText, useCheckedForm } from '../ui/form.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { columnsFor } from '../ui/tableColumns.ts';
import { Shown } from '../ui/Shown.tsx';

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
  const { control, formState, handleSubmit, setValue, watch } = useCheckedForm(PutLimitBody, bodyOf(limit), true);
  const [put, putting] = usePutLimitMutation();
  const save = handleSubmit(async (body) => {
    const answer = await put({ version: limit.version, body });
    if ('data' in answer) onDone();
  });
  return (
    <FormProblems errors={formState.errors}>
      <form
        className="mb-4 grid items-start gap-x-4 gap-y-2 border-l-[3px] border-ember pl-4 md:grid-cols-3"
        aria-label={limit.componentClass}
        noValidate
        onSubmit={(event) => void save(event)}
      >
        {FIELDS.map(({ field, label, mayBeEmpty }) => (
          <div key={field} className="grid gap-2">
            <FormNumber
              control={control}
              name={`${field}C`}
              label={label}
              unit="°C"
              hint={mayBeEmpty ? 'Empty: unknown' : undefined}
              mayBeEmpty={mayBeEmpty}
              onEmptied={() => setValue(`${field}Source`, '')}
            />
            <FormText
              control={control}
              name={`${field}Source`}
              label="Source"
              placeholder="data sheet, standard, house rule"
              disabled={watch(`${field}C`) === null}
            />
          </div>
        ))}
        <div className="flex flex-wrap justify-end gap-2 md:col-span-3">
          {putting.error ? <Notice tone="error">{sentenceOf(putting.error)}</Notice> : null}
          <Button look="quiet" onClick={onDone}>
            Cancel
          </Button>
          <Button type="submit" look="strong" disabled={putting.isLoading}>
            Save {limit.componentClass}
          </Button>
        </div>
      </form>
    </FormProblems>
  );
}

interface Acts {
  open: string | null;
  toggle(componentClass: string): void;
}
const column = columnsFor<Limit>();
const celsius = (id: 'advisoryC' | 'throttleC' | 'neverExceedC', header: string, className: string) =>
  column.accessor(id, {
    header,
    meta: { number: true, className },
    cell: ({ getValue }) => (getValue() === null ? '' : `${getValue()} °C`),
  });
const COLUMNS = [
  column.accessor('componentClass', {
    header: 'component',
    meta: { className: 'font-semibold' },
    cell: ({ getValue }) => <span className="inline-block first-letter:uppercase">{getValue()}</span>,
  }),
  column.display({
    id: 'track',
    header: () => (
      <Shown>
        <span className="flex justify-between">
          <span>{FROM_C} °C</span>
          <span>{TO_C} °C</span>
        </span>
      </Shown>
    ),
    meta: { className: 'w-2/5' },
    cell: ({ row: { original: limit } }) => (
      <>
        <LimitTrack limit={limit} />
        <span className="text-[0.83rem] text-soft">{limit.neverExceedSource}</span>
      </>
    ),
  }),
  celsius('advisoryC', 'advisory', 'text-ochre-text'),
  celsius('throttleC', 'throttles', 'text-ember-text'),
  celsius('neverExceedC', 'never', 'font-semibold'),
  column.display({
    id: 'change',
    header: () => <span className="sr-only">Change</span>,
    meta: { number: true, className: '!pr-0' },
    cell: ({ row: { original: limit }, table }) => {
      const { open, toggle } = table.options.meta!.acts as Acts;
      return (
        <button
          type="button"
          className="underline hover:text-soft"
          aria-expanded={open === limit.componentClass}
          aria-label={`Change ${limit.componentClass}`}
          onClick={() => toggle(limit.componentClass)}
        >
          Change
        </button>
      );
    },
  }),
];

/** Every class of component, each opened to be changed. */
function LimitTable({ limits }: { limits: Limit[] }) {
  const [open, setOpen] = useState<string | null>(null);
  return (
    <DataTable
      label="Limits by class of component"
      rows={limits}
      idOf={({ componentClass }) => componentClass}
      columns={COLUMNS}
      acts={{ open, toggle: (name) => setOpen(open === name ? null : name) } satisfies Acts}
      renderBelow={(limit) =>
        open === limit.componentClass ? <LimitForm key={limit.version} limit={limit} onDone={() => setOpen(null)} /> : null
      }
    />
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
      {limits ? (
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Limits">
          <div className="min-w-[34rem]">
            <LimitTable limits={limits} />
          </div>
        </div>
      ) : null}
    </Sheet>
  );
}
