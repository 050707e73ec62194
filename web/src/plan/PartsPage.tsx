import { Plus, Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { counted, fixed, type FitFinding } from '@red-ember/core';
import {
  blankPart,
  PART_KINDS,
  partsOf,
  USUAL_CURRENCY,
  USUAL_SPARE_MOUNTS,
  type FittedPartBody,
  type PartKind,
  type StudyBody,
} from '@red-ember/contract';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { amountWords } from '../mount/partWords.ts';
import { asSentence } from '../parts/asSentence.ts';
import { Button, ButtonLink } from '../parts/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../parts/Field.tsx';
import { Notice } from '../parts/Notice.tsx';
import { Section } from '../parts/Section.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft, type StudyDraft } from '../study/useStudyDraft.ts';
import { BelongsField } from './BelongsField.tsx';
import { addedNoise, costOf, fitsOf, needsOf } from './needs.ts';
import { PlanTabs } from './PlanTabs.tsx';
import { readable } from './schedule.ts';

type Edit = Pick<StudyDraft, 'body' | 'change'>;

/** What a kind of part starts from. */
const STARTS: Record<PartKind, Partial<FittedPartBody>> = {
  cooler: { reusable: true, pad: null, paste: null },
  sink: { reusable: true, pad: null, paste: null },
  cover: { reusable: true, pad: null, paste: null },
  fan: { reusable: true, pad: null, paste: null },
  fixing: { reusable: true, pad: null, paste: null },
  other: { pad: null, paste: null },
  pad: { reusable: false, pad: { widthMm: 20, heightMm: 20, thickMm: 1 }, paste: null },
  paste: { reusable: false, pad: null, paste: { areaMm2: 200, bondLineMm: 0.04, densityGPerCm3: 2.5, remover: 'isopropanol', dryMin: 3 } },
};

/** Figures of one kind of thing on a part: field, label and unit. */
type Figure<T> = [field: keyof T & string, label: string, unit: string];
const CUT: Figure<NonNullable<FittedPartBody['pad']>>[] = [
  ['widthMm', 'Cut to', 'mm'],
  ['heightMm', 'by', 'mm'],
  ['thickMm', 'Thickness', 'mm'],
];
const LAYER: Figure<NonNullable<FittedPartBody['paste']>>[] = [
  ['areaMm2', 'Die or lid', 'mm²'],
  ['bondLineMm', 'Bond line', 'mm'],
  ['densityGPerCm3', 'Density', 'g/cm³'],
  ['dryMin', 'Dries in', 'min'],
];

function PartDetails({
  body,
  part,
  at,
  set,
}: {
  body: StudyBody;
  part: FittedPartBody;
  at: (field: string) => string;
  set: (part: Partial<FittedPartBody>) => void;
}) {
  const covers = body.subjects.flatMap((subject) => subject.map?.covers ?? []);
  const check = (field: 'reusable' | 'conductive' | 'liquid', label: string) => (
    <label className="flex items-center gap-2 text-[0.93rem]">
      <input type="checkbox" checked={part[field]} onChange={(event) => set({ [field]: event.target.checked })} />
      {label}
    </label>
  );
  return (
    <div className="mt-2 grid items-start gap-x-3 gap-y-2 sm:grid-cols-4">
      {part.pad
        ? CUT.map(([field, label, unit]) => (
            <NumberField
              key={field}
              label={label}
              unit={unit}
              pointer={at(`pad/${field}`)}
              value={part.pad![field]}
              onChange={(value) => set({ pad: { ...part.pad!, [field]: value } })}
            />
          ))
        : null}
      {part.paste
        ? LAYER.map(([field, label, unit]) => (
            <NumberField
              key={field}
              label={label}
              unit={unit}
              pointer={at(`paste/${field}`)}
              value={part.paste![field] as number}
              onChange={(value) => set({ paste: { ...part.paste!, [field]: value } })}
            />
          ))
        : null}
      {part.paste ? (
        <TextField
          label="Taken off with"
          pointer={at('paste/remover')}
          value={part.paste.remover}
          onChange={(remover) => set({ paste: { ...part.paste!, remover } })}
        />
      ) : null}
      <NumberField label="Weight" unit="g" pointer={at('weightG')} value={part.weightG} onChange={(weightG) => set({ weightG })} />
      <NumberField
        label="Sound it adds"
        unit="dB(A)"
        pointer={at('noiseDb')}
        value={part.noiseDb}
        onChange={(noiseDb) => set({ noiseDb: Number.isNaN(noiseDb) ? null : noiseDb })}
      />
      {covers.length > 0 ? (
        <ChoiceField
          label="On the board map"
          pointer={at('coverId')}
          value={part.coverId}
          options={[{ value: '', label: 'not drawn' }, ...covers.map((cover) => ({ value: cover.id, label: cover.name }))]}
          onChange={(coverId) => set({ coverId })}
        />
      ) : null}
      <div className="flex flex-wrap gap-x-5 gap-y-1 sm:col-span-4">
        {check('reusable', 'comes off whole and goes on again')}
        {check('conductive', 'conducts electricity')}
        {check('liquid', 'holds liquid')}
      </div>
    </div>
  );
}

function PartRow({ body, change, index }: Edit & { index: number }) {
  const part = body.parts[index]!;
  const [more, setMore] = useState(false);
  const at = (field: string) => `/parts/${index}/${field}`;
  const set = (now: Partial<FittedPartBody>) =>
    change({ parts: body.parts.map((entry, i) => (i === index ? { ...entry, ...now } : entry)) });
  const words = [
    amountWords(part),
    part.weightG > 0 ? `${part.weightG} g` : '',
    part.conductive ? 'conducts' : '',
    part.liquid ? 'holds liquid' : '',
    part.reusable ? '' : 'used up',
  ].filter(Boolean);
  return (
    <fieldset className="border-t border-rule py-2">
      <legend className="sr-only">{part.name}</legend>
      <div className="grid items-start gap-x-3 gap-y-2 sm:grid-cols-[minmax(0,1fr)_7rem_11rem_4.5rem_7.5rem_2rem]">
        <TextField hideLabel label={`Part ${index + 1}`} pointer={at('name')} value={part.name} onChange={(name) => set({ name })} />
        <ChoiceField
          hideLabel
          label={`Kind of ${part.name}`}
          pointer={at('kind')}
          value={part.kind}
          options={PART_KINDS.map((value) => ({ value, label: value }))}
          onChange={(kind) => set({ kind, ...STARTS[kind] })}
        />
        <BelongsField hideLabel label={`${part.name} belongs to`} body={body} pointer={at('level')} value={part} onChange={set} />
        <NumberField
          hideLabel
          label={`Pieces of ${part.name}`}
          pointer={at('quantity')}
          value={part.quantity}
          onChange={(quantity) => set({ quantity })}
        />
        <NumberField
          hideLabel
          label={`Price of ${part.name}`}
          unit={part.paste ? '/ g' : 'each'}
          pointer={at('price')}
          value={part.price}
          onChange={(price) => set({ price })}
        />
        <Button
          look="quiet"
          className="!px-1"
          aria-label={`Remove ${part.name}`}
          onClick={() => change({ parts: body.parts.filter((_, i) => i !== index) })}
        >
          <Trash2 size={15} aria-hidden />
        </Button>
      </div>
      <button
        type="button"
        className="mt-1 text-[0.87rem] text-soft hover:text-ink hover:underline"
        aria-expanded={more}
        onClick={() => setMore(!more)}
      >
        {words.join(' · ') || 'weight, sound, size'}
      </button>
      {more ? <PartDetails body={body} part={part} at={at} set={set} /> : null}
    </fieldset>
  );
}

function NeedsSection({ body, change, reading }: Edit & { reading: StudyBody }) {
  const currency = body.plan.currency ?? USUAL_CURRENCY;
  const made = useMemo(() => {
    try {
      return needsOf(reading);
    } catch (error) {
      if (error instanceof RangeError) return asSentence(error.message);
      throw error;
    }
  }, [reading]);
  const money = (amount: number) => `${fixed(amount, 2)} ${currency}`;
  return (
    <Section title="What the plan needs" hint="in its present order, spare mounts included">
      <div className="mb-3 grid max-w-md grid-cols-2 gap-4">
        <NumberField
          label="Mounts in reserve"
          pointer="/plan/spareMounts"
          value={body.plan.spareMounts ?? USUAL_SPARE_MOUNTS}
          onChange={(spareMounts) => change({ plan: { ...body.plan, spareMounts } })}
        />
        <TextField
          label="Currency"
          pointer="/plan/currency"
          value={currency}
          onChange={(text) => change({ plan: { ...body.plan, currency: text.toUpperCase() } })}
        />
      </div>
      {typeof made === 'string' ? (
        <Notice tone="error">{made}</Notice>
      ) : made.lines.length === 0 ? (
        <p className="text-soft">Nothing yet: parts appear here when a planned variant uses them.</p>
      ) : (
        <table className="plain-table">
          <thead>
            <tr>
              <th>Part</th>
              <th className="num">pieces or layers</th>
              <th className="num">of them spare</th>
              <th>amount</th>
              <th className="num">cost</th>
            </tr>
          </thead>
          <tbody>
            {made.lines.map((line) => {
              const part = body.parts.find((candidate) => candidate.id === line.id)!;
              return (
                <tr key={line.id}>
                  <td>{part.name}</td>
                  <td className="num">{line.pieces}</td>
                  <td className="num text-soft">{line.spare || ''}</td>
                  <td className="text-soft">{line.grams === null ? amountWords(part) : `${fixed(line.grams, 1)} g in all`}</td>
                  <td className="num">{line.cost > 0 ? money(line.cost) : ''}</td>
                </tr>
              );
            })}
          </tbody>
          <tfoot>
            <tr className="font-semibold">
              <td colSpan={4}>In all</td>
              <td className="num">{money(made.cost)}</td>
            </tr>
          </tfoot>
        </table>
      )}
    </Section>
  );
}

/** A finding of the fit check in words. */
function fitWords(finding: FitFinding, nameOf: (coverId: string) => string): string {
  const mm = (value: number) => `${fixed(Math.abs(value), 1)} mm`;
  const cover = nameOf(finding.coverId);
  switch (finding.kind) {
    case 'blocked':
      return `${cover} stands ${mm(finding.amount)} too high for ${finding.other}.`;
    case 'tight':
      return `${cover} leaves ${mm(finding.amount)} under ${finding.other}: too little for a hand, or a board that bends.`;
    case 'collides':
      return `${finding.other} stands ${mm(finding.amount)} higher than the lower face of ${cover}.`;
    case 'covers-clash':
      return `${cover} and ${finding.other} overlap by ${mm(finding.amount)} of height.`;
    case 'overhang':
      return `${cover} reaches ${mm(finding.amount)} over the edge, ${fixed(100 * finding.share!, 0)} % of it: look for what stands there, and support it.`;
    case 'heavy':
      return `${cover} weighs ${fixed(finding.amount, 0)} g: support it at its free end, or the board sags.`;
  }
}

function FitSection({ body }: { body: StudyBody }) {
  const made = useMemo(() => {
    try {
      return fitsOf(body);
    } catch (error) {
      if (error instanceof RangeError) return asSentence(error.message);
      throw error;
    }
  }, [body]);
  if (typeof made === 'string')
    return (
      <Section title="Does it fit?">
        <Notice tone="error">{made}</Notice>
      </Section>
    );
  if (made.length === 0)
    return (
      <Section title="Does it fit?">
        <Notice tone="hint" action={<ButtonLink to="../look/map">To the board map</ButtonLink>}>
          Draw the cooler as a cover on the board map, with the height of its upper face, and zones for what stands beside it; then choose
          it here as “on the board map”.
        </Notice>
      </Section>
    );
  return (
    <Section title="Does it fit?" hint="before anything is opened">
      <ul>
        {made.map(({ variant, subject, findings, unknown }) => {
          const nameOf = (coverId: string) => subject.map?.covers.find((cover) => cover.id === coverId)?.name ?? coverId;
          const hard = findings.some((finding) => ['blocked', 'collides', 'covers-clash'].includes(finding.kind));
          return (
            <li key={variant.id} className="grid gap-x-4 border-b border-rule py-1.5 sm:grid-cols-[14rem_minmax(0,1fr)]">
              <span className={hard ? 'font-semibold text-ember-text' : ''}>
                {variant.name}
                {hard ? ': does not fit' : ''}
              </span>
              <span className={findings.length === 0 ? 'text-soft' : ''}>
                {findings.length === 0 && unknown.length === 0 ? 'fits' : ''}
                {findings.map((finding) => (
                  <span key={`${finding.kind}/${finding.coverId}/${finding.other}`} className="block">
                    {fitWords(finding, nameOf)}
                  </span>
                ))}
                {unknown.length > 0 ? (
                  <span className="block text-soft">
                    Not said of {unknown.map((part) => part.name).join(', ')}: the height of its upper face is not on the map.
                  </span>
                ) : null}
              </span>
            </li>
          );
        })}
      </ul>
    </Section>
  );
}

/** Cost, weight and sound that each variant brings with it. */
function VariantNotes({ body }: { body: StudyBody }) {
  const rows = body.variants.flatMap((variant) => {
    const parts = partsOf(body, variant);
    const weightG = parts.reduce((sum, part) => sum + part.weightG * part.quantity, 0);
    const noise = addedNoise(parts);
    const cost = costOf(parts);
    return weightG > 0 || noise !== null || cost > 0 ? [{ variant, weightG, noise, cost }] : [];
  });
  if (rows.length === 0) return <Note>Costs, weights and sound levels of parts are added up here, variant by variant.</Note>;
  return (
    <>
      {rows.map(({ variant, weightG, noise, cost }) => (
        <Note key={variant.id} lead={`${variant.name}:`}>
          {[
            cost > 0 ? `${fixed(cost, 2)}\u00a0${body.plan.currency ?? USUAL_CURRENCY}` : '',
            weightG > 0 ? `${fixed(weightG, 0)}\u00a0g` : '',
            noise === null ? '' : `${fixed(noise, 0)}\u00a0dB(A)`,
          ]
            .filter(Boolean)
            .join(', ')}
        </Note>
      ))}
    </>
  );
}

/** What is put on: what it costs, how much of it the plan needs, and whether it fits. */
export function PartsPage() {
  const study = useStudy();
  const { body: shown } = useStudyDraft(study);
  return (
    <EditSheet
      study={study}
      station="Plan"
      heading="What is put on, does it fit, and what does it cost?"
      under={counted(shown.parts.length, 'part')}
      margin={
        <>
          <MarginGroup title="What each variant brings">
            <VariantNotes body={readable(shown)} />
          </MarginGroup>
          <MarginGroup title="Counting">
            <Note>
              A part belongs to a level, to one variant, or to all. What is used up is counted for every mount that needs it fresh, also
              where it is only spoilt on the way to something else.
            </Note>
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => (
        <>
          <PlanTabs />
          <Section
            title="Parts"
            action={
              <Button onClick={() => change({ parts: [...body.parts, blankPart(crypto.randomUUID(), `Part ${body.parts.length + 1}`)] })}>
                <Plus size={16} aria-hidden /> Add a part
              </Button>
            }
          >
            {body.parts.length === 0 ? (
              <Notice tone="hint">Coolers, sinks, pads with their cut sizes, pastes with their area: what a variant is made of.</Notice>
            ) : (
              <div
                className="mb-1 hidden gap-3 text-[0.87rem] text-soft sm:grid sm:grid-cols-[minmax(0,1fr)_7rem_11rem_4.5rem_7.5rem_2rem]"
                aria-hidden
              >
                <span>part</span>
                <span>kind</span>
                <span>belongs to</span>
                <span className="text-right">pieces</span>
                <span>price</span>
              </div>
            )}
            {body.parts.map((part, index) => (
              <PartRow key={part.id} body={body} change={change} index={index} />
            ))}
          </Section>
          {body.parts.length > 0 ? (
            <>
              <NeedsSection body={body} change={change} reading={readable(body)} />
              <FitSection body={readable(body)} />
            </>
          ) : null}
        </>
      )}
    </EditSheet>
  );
}
