import { Plus, X } from 'lucide-react';
import { useId } from 'react';
import type { TypedNote } from './typedNote.ts';

interface Props {
  typed: TypedNote;
  unclear: Record<string, string>;
  put: (note: TypedNote) => void;
}

function Line({
  label,
  unit,
  value,
  why,
  onChange,
  wide = false,
}: {
  label: string;
  unit: string;
  value: string;
  why: string | undefined;
  onChange: (text: string) => void;
  wide?: boolean;
}) {
  const id = useId();
  return (
    <div className="grid grid-cols-[7.6rem_minmax(0,1fr)_3.2rem] items-center gap-x-3 py-0.5">
      <label htmlFor={id} className="text-[0.93rem]">
        {label}
      </label>
      <input
        id={id}
        type="text"
        className={`field-box ${wide ? '' : 'text-right'}`}
        value={value}
        maxLength={80}
        aria-invalid={why !== undefined}
        aria-describedby={why ? `${id}-why` : undefined}
        onChange={(event) => onChange(event.target.value)}
      />
      <span className="text-[0.87rem] text-soft">{unit}</span>
      {why ? (
        <span id={`${id}-why`} className="col-span-2 col-start-2 text-[0.87rem] text-ember-text">
          {why}
        </span>
      ) : null}
    </div>
  );
}

function Spots({ typed, unclear, put }: Props) {
  const set = (i: number, part: Partial<TypedNote['spots'][number]>) =>
    put({ ...typed, spots: typed.spots.map((spot, k) => (k === i ? { ...spot, ...part } : spot)) });
  return (
    <fieldset className="mt-4">
      <legend className="mb-1 font-semibold">Spots</legend>
      {typed.spots.map((spot, i) => {
        const why = unclear[`spots/${i}/temperature`] ?? unclear[`spots/${i}/limit`];
        const called = spot.name.trim() || `spot ${i + 1}`;
        return (
          <div key={i} className="mb-1 grid grid-cols-[minmax(0,1fr)_5.4rem_4.8rem_1.4rem] items-center gap-2">
            <input
              className="field-box"
              aria-label={`Name of spot ${i + 1}`}
              placeholder="Chip"
              maxLength={60}
              value={spot.name}
              onChange={(event) => set(i, { name: event.target.value })}
            />
            <input
              className="field-box text-right"
              aria-label={`Temperature of ${called}`}
              placeholder="83 ± 1"
              maxLength={40}
              value={spot.temperature}
              aria-invalid={unclear[`spots/${i}/temperature`] !== undefined}
              onChange={(event) => set(i, { temperature: event.target.value })}
            />
            <input
              className="field-box text-right"
              aria-label={`Limit of ${called}`}
              placeholder="limit"
              maxLength={40}
              value={spot.limit}
              aria-invalid={unclear[`spots/${i}/limit`] !== undefined}
              onChange={(event) => set(i, { limit: event.target.value })}
            />
            {typed.spots.length > 1 ? (
              <button
                type="button"
                className="text-soft hover:text-ink"
                aria-label={`Remove ${called}`}
                onClick={() => put({ ...typed, spots: typed.spots.filter((_, k) => k !== i) })}
              >
                <X size={15} aria-hidden />
              </button>
            ) : (
              <span />
            )}
            {why ? <span className="col-span-4 text-[0.87rem] text-ember-text">{why}</span> : null}
          </div>
        );
      })}
      {typed.spots.length < 12 ? (
        <button
          type="button"
          className="mt-1 inline-flex items-center gap-1.5 text-[0.93rem] underline hover:text-soft"
          onClick={() => put({ ...typed, spots: [...typed.spots, { name: '', temperature: '', limit: '' }] })}
        >
          <Plus size={14} aria-hidden /> Another spot
        </button>
      ) : null}
    </fieldset>
  );
}

function Joint({ typed, unclear, put }: Props) {
  const { joint } = typed;
  const set = (part: Partial<TypedNote['joint']>) => put({ ...typed, joint: { ...joint, ...part } });
  return (
    <details className="mt-4">
      <summary className="cursor-pointer font-semibold">A pad, or paste</summary>
      <div className="my-2 flex gap-5 text-[0.93rem]">
        {(['pad', 'paste'] as const).map((kind) => (
          <label key={kind} className="flex items-center gap-2">
            <input type="radio" name="joint" checked={joint.kind === kind} onChange={() => set({ kind })} /> {kind}
          </label>
        ))}
      </div>
      <Line
        label={joint.kind === 'pad' ? 'Thickness, free' : 'Bond line'}
        unit="mm"
        value={joint.thick}
        why={unclear['joint/thick']}
        onChange={(thick) => set({ thick })}
      />
      {joint.kind === 'pad' ? (
        <Line label="Gap" unit="mm" value={joint.gap} why={unclear['joint/gap']} onChange={(gap) => set({ gap })} />
      ) : null}
      <Line
        label="Conducts"
        unit="W/(m·K)"
        value={joint.conductivity}
        why={unclear['joint/conductivity']}
        onChange={(conductivity) => set({ conductivity })}
      />
      <Line label="Area" unit="mm²" value={joint.area} why={unclear['joint/area']} onChange={(area) => set({ area })} />
      <Line label="Heat through it" unit="W" value={joint.heat} why={unclear['joint/heat']} onChange={(heat) => set({ heat })} />
      <p className="text-[0.87rem] text-soft">Without a heat of its own the power above is meant.</p>
    </details>
  );
}

/** The note as it is typed: numbers with whatever stands behind them, ± and unit. */
export function NoteForm({ typed, unclear, put, tempUnit }: Props & { tempUnit: string }) {
  const line = (
    field: 'room' | 'intake' | 'exhaust' | 'power' | 'otherAir' | 'otherPower' | 'levels' | 'floor',
    label: string,
    unit: string,
  ) => (
    <Line
      label={label}
      unit={unit}
      value={typed[field]}
      why={unclear[field]}
      wide={field === 'levels'}
      onChange={(text) => put({ ...typed, [field]: text })}
    />
  );
  return (
    <form aria-label="The note" onSubmit={(event) => event.preventDefault()} className="bg-margin px-5 py-4">
      {line('room', 'Room', tempUnit)}
      {line('intake', 'Intake air', tempUnit)}
      {line('exhaust', 'Exhaust air', tempUnit)}
      {line('power', 'Power', 'W')}
      <Spots typed={typed} unclear={unclear} put={put} />
      <fieldset className="mt-4">
        <legend className="mb-1 font-semibold">Elsewhere</legend>
        {line('otherAir', 'In air of', tempUnit)}
        {line('otherPower', 'At a power of', 'W')}
      </fieldset>
      <fieldset className="mt-4">
        <legend className="mb-1 font-semibold">Sound</legend>
        {line('levels', 'Levels', 'dB(A)')}
        {line('floor', 'Everything off', 'dB(A)')}
      </fieldset>
      <Joint typed={typed} unclear={unclear} put={put} />
    </form>
  );
}
