import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { counted, fixed } from '@red-ember/core';
import { type StudyBody } from '@red-ember/contract';
import { blankPart, broughtBy, costOf, partsOf, USUAL_CURRENCY, USUAL_SPARE_MOUNTS } from '@red-ember/study';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { amountWords } from '../parts/partWords.ts';
import { Button } from '../ui/Button.tsx';
import { NumberField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { orSentence } from '../ui/orSentence.ts';
import { Section } from '../ui/Section.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft, type StudyDraft } from '../study/useStudyDraft.ts';
import { FitSection } from './FitSection.tsx';
import { FromTheBench } from './FromTheBench.tsx';
import { needsOf } from './needs.ts';
import { PartRow } from './PartEditor.tsx';
import { PlanTabs } from './PlanTabs.tsx';
import { readable } from './schedule.ts';

type Edit = Pick<StudyDraft, 'body' | 'change'>;

function NeedsSection({ body, change, reading }: Edit & { reading: StudyBody }) {
  const currency = body.plan.currency ?? USUAL_CURRENCY;
  const made = useMemo(() => orSentence(() => needsOf(reading)), [reading]);
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

/** Cost, weight and sound that each variant brings with it. */
function VariantNotes({ body }: { body: StudyBody }) {
  const rows = body.variants.flatMap((variant) => {
    const parts = partsOf(body, variant);
    const { weightG, noiseDb: noise } = broughtBy(parts);
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
              <span className="flex flex-wrap gap-2">
                <FromTheBench
                  have={body.parts}
                  currency={body.plan.currency ?? USUAL_CURRENCY}
                  onTake={(part) => change({ parts: [...body.parts, part] })}
                />
                <Button onClick={() => change({ parts: [...body.parts, blankPart(crypto.randomUUID(), `Part ${body.parts.length + 1}`)] })}>
                  <Plus size={16} aria-hidden /> Add a part
                </Button>
              </span>
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
