import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { aliasesOf, counted, fixed } from '@red-ember/core';
import { type FactorBody, type ImpossibleBody, type StudyBody } from '@red-ember/contract';
import { levelsOf } from '@red-ember/study';
import { useChangeOversQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft, type StudyDraft } from '../study/useStudyDraft.ts';
import { Candidates } from './Candidates.tsx';
import { soundFactors, withFactor, withoutFactor } from './edits.ts';
import { PlanTabs } from './PlanTabs.tsx';

type Edit = Pick<StudyDraft, 'body' | 'change'>;

const USUAL: FactorBody[] = [
  { name: 'Cooler', levels: ['stock', 'other'], changeMin: 25 },
  { name: 'Pad', levels: ['P6', 'P12'], changeMin: 15 },
  { name: 'Paste', levels: ['K', 'L'], changeMin: 20 },
  { name: 'Fans', levels: ['one', 'two'], changeMin: 5 },
  { name: 'Panel', levels: ['on', 'off'], changeMin: 2 },
  { name: 'Orientation', levels: ['upright', 'flat'], changeMin: 3 },
];

function FactorRow({ body, change, index }: Edit & { index: number }) {
  const factor = body.factors[index]!;
  const { data: history } = useChangeOversQuery();
  const learned = history?.[factor.name];
  // Taken when the row is left: half a name may be another factor's, and what stands between two commas is no level yet.
  const [typed, setTyped] = useState<{ name?: string; levels?: string }>({});
  const twin = typed.name !== undefined && body.factors.some((other, i) => i !== index && other.name === typed.name!.trim());
  const at = (field: keyof FactorBody) => `/factors/${index}/${field}`;
  const take = () => {
    const name = typed.name === undefined || twin ? factor.name : typed.name.trim();
    const levels = typed.levels?.split(',').flatMap((level) => level.trim() || []) ?? factor.levels;
    // A name that is another factor's stays on screen, with the reason, and is not taken: variants could not tell them apart.
    setTyped(twin ? { name: typed.name! } : {});
    if (name !== factor.name || levels.join('\n') !== factor.levels.join('\n')) change(withFactor(body, index, { name, levels }));
  };
  return (
    <div className="mb-2 grid items-start gap-3 sm:grid-cols-[10rem_minmax(0,1fr)_7.5rem_11rem_2rem]" onBlur={take}>
      <TextField
        hideLabel
        label={`Factor ${index + 1}`}
        pointer={at('name')}
        value={typed.name ?? factor.name}
        hint={twin ? 'Another factor has this name, so it is not taken.' : undefined}
        onChange={(name) => setTyped({ ...typed, name })}
      />
      <TextField
        hideLabel
        label={`Levels of ${factor.name}`}
        pointer={at('levels')}
        value={typed.levels ?? factor.levels.join(', ')}
        onChange={(levels) => setTyped({ ...typed, levels })}
      />
      <NumberField
        hideLabel
        label={`Minutes to change ${factor.name}`}
        unit="min"
        pointer={at('changeMin')}
        value={factor.changeMin}
        onChange={(changeMin) => change(withFactor(body, index, { changeMin }))}
      />
      <ChoiceField
        hideLabel
        label={`${factor.name} is reached through`}
        pointer={at('under')}
        value={factor.under ?? ''}
        options={[
          { value: '', label: 'reached at once' },
          ...body.factors.filter((_, i) => i !== index).map(({ name }) => ({ value: name, label: `under ${name}` })),
        ]}
        onChange={(under) => change(withFactor(body, index, { under, ...(under === '' ? { renew: false } : {}) }))}
      />
      <Button look="quiet" className="!px-1" aria-label={`Remove ${factor.name}`} onClick={() => change(withoutFactor(body, index))}>
        <Trash2 size={15} aria-hidden />
      </Button>
      {factor.under ? (
        <label className="flex items-center gap-2 text-[0.93rem] text-soft sm:col-span-5">
          <input
            type="checkbox"
            checked={factor.renew ?? false}
            onChange={(event) => change(withFactor(body, index, { renew: event.target.checked }))}
          />
          {factor.name} is spoilt when {factor.under} comes off, and is renewed
        </label>
      ) : null}
      {learned && Math.abs(learned.minutes - factor.changeMin) >= 1 ? (
        <p className="text-[0.93rem] text-soft sm:col-span-5">
          On this bench it took {fixed(learned.minutes, 0)} min in {counted(learned.n, 'change-over')}.{' '}
          <button
            type="button"
            className="text-quench-text underline"
            onClick={() => change(withFactor(body, index, { changeMin: Math.round(learned.minutes) }))}
          >
            Take it over for {factor.name}
          </button>
        </p>
      ) : null}
    </div>
  );
}

function ImpossibleRows({ body, change }: Edit) {
  const set = (index: number, part: Partial<ImpossibleBody>) =>
    change({ impossible: body.impossible.map((rule, i) => (i === index ? { ...rule, ...part } : rule)) });
  const choices = body.factors.flatMap((factor) => factor.levels.map((level) => ({ factor: factor.name, level })));
  const pick = (rule: ImpossibleBody, index: number, k: 0 | 1) => (
    <select
      aria-label={`${k === 0 ? 'First' : 'Second'} level of rule ${index + 1}`}
      className="field-box"
      value={rule.levels[k] ? JSON.stringify(rule.levels[k]) : ''}
      onChange={(event) => {
        const levels = [...rule.levels];
        levels[k] = JSON.parse(event.target.value) as ImpossibleBody['levels'][number];
        set(index, { levels });
      }}
    >
      {choices
        .filter((choice) => choice.factor !== rule.levels[1 - k]?.factor)
        .map((choice) => (
          <option key={JSON.stringify(choice)} value={JSON.stringify(choice)}>
            {choice.factor}: {choice.level}
          </option>
        ))}
    </select>
  );
  if (body.factors.length < 2) return null;
  return (
    <Section
      title="Cannot be had together"
      action={
        <Button
          look="quiet"
          onClick={() =>
            change({
              impossible: [
                ...body.impossible,
                { levels: body.factors.slice(0, 2).map((factor) => ({ factor: factor.name, level: factor.levels[0]! })), reason: '' },
              ],
            })
          }
        >
          <Plus size={15} aria-hidden /> Strike out a combination
        </Button>
      }
    >
      {body.impossible.map((rule, index) => (
        <div key={index} className="mb-2 grid items-start gap-3 sm:grid-cols-[12rem_12rem_minmax(0,1fr)_2rem]">
          {pick(rule, index, 0)}
          {pick(rule, index, 1)}
          <TextField
            hideLabel
            label={`Reason of rule ${index + 1}`}
            placeholder="why: the duct needs its fan"
            pointer={`/impossible/${index}/reason`}
            value={rule.reason}
            onChange={(reason) => set(index, { reason })}
          />
          <Button
            look="quiet"
            className="!px-1"
            aria-label={`Remove rule ${index + 1}`}
            onClick={() => change({ impossible: body.impossible.filter((_, i) => i !== index) })}
          >
            <Trash2 size={15} aria-hidden />
          </Button>
        </div>
      ))}
    </Section>
  );
}

/** What the variants, as they stand, can and cannot tell apart. */
function AliasNotes({ body }: { body: StudyBody }) {
  const placed = body.variants.filter((variant) =>
    body.factors.every(({ name, levels }) => levels.includes(levelsOf(variant)[name] ?? '')),
  );
  if (!soundFactors(body.factors))
    return <Note>Name what is changed and what it may be changed to; the page says what the runs can tell apart.</Note>;
  if (placed.length < 2) return <Note>Fewer than two variants stand at levels of these factors, so nothing can be told apart yet.</Note>;
  const runs = placed.map((variant) => ({ levels: levelsOf(variant) }));
  const aliased = aliasesOf(body.factors, runs);
  const still = body.factors.filter((factor) => new Set(runs.map((run) => run.levels[factor.name])).size < 2);
  const words = (names: string[]) => (names.length === 1 ? names[0]! : `${names.join(' with ')} together`);
  const factorsLost = aliased.filter((group) => group.filter((names) => names.length === 1).length > 1);
  const mixed = aliased.filter((group) => !factorsLost.includes(group));
  return (
    <>
      {factorsLost.map((group) => (
        <Note
          key={group.join()}
          tone="heat"
          lead={group
            .filter((names) => names.length === 1)
            .map(words)
            .join(' and ')}
        >
          always change together: neither can be credited. Add a variant that changes one of them alone.
        </Note>
      ))}
      {mixed.map((group) => (
        <Note key={group.join()} tone="caution" lead={`${words(group[0]!)}:`}>
          cannot be told from {group.slice(1).map(words).join(' or ')}.
        </Note>
      ))}
      {still.length > 0 ? (
        <Note tone="caution" lead={still.map((factor) => factor.name).join(', ')}>
          never changes in these variants.
        </Note>
      ) : null}
      {aliased.length === 0 && still.length === 0 ? (
        <Note tone="cool" lead={`${placed.length} variants tell every factor apart.`}>
          {body.factors.every((factor) => factor.levels.length === 2) && placed.length >= 2 ** body.factors.length
            ? 'Also what works only together.'
            : ''}
        </Note>
      ) : null}
    </>
  );
}

export function FactorsPage() {
  const study = useStudy();
  const { body: shown } = useStudyDraft(study);
  return (
    <EditSheet
      study={study}
      station="Plan"
      heading="What is changed, and into what?"
      under={`${counted(shown.factors.length, 'factor')}, ${counted(shown.variants.length, 'variant')}`}
      margin={
        <>
          <MarginGroup title="What these variants can tell">
            <AliasNotes body={shown} />
          </MarginGroup>
          <MarginGroup title="Two schools">
            <Note>
              <b>One change at a time, kept:</b> few runs, and each step says what it did. Blind to changes that work only together.
            </Note>
            <Note>
              <b>All combinations:</b> a run for every one of them, and every run serves every factor.
            </Note>
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => {
        const next = USUAL.find((usual) => !body.factors.some((factor) => factor.name === usual.name));
        return (
          <>
            <PlanTabs />
            <Section
              title="Factors"
              hint="levels separated by commas, the usual one first"
              action={
                <Button
                  onClick={() =>
                    change({
                      factors: [
                        ...body.factors,
                        next ?? { name: `Factor ${body.factors.length + 1}`, levels: ['one', 'other'], changeMin: 10 },
                      ],
                    })
                  }
                >
                  <Plus size={16} aria-hidden /> Add a factor
                </Button>
              }
            >
              {body.factors.length === 0 ? (
                <Notice tone="hint">
                  A factor is something you change from variant to variant: the cooler, a pad, a fan layout, a panel.
                </Notice>
              ) : (
                <div
                  className="mb-1 hidden gap-3 text-[0.87rem] text-soft sm:grid sm:grid-cols-[10rem_minmax(0,1fr)_7.5rem_11rem_2rem]"
                  aria-hidden
                >
                  <span>factor</span>
                  <span>levels</span>
                  <span>takes to change</span>
                  <span>is reached</span>
                </div>
              )}
              {body.factors.map((_, index) => (
                <FactorRow key={index} body={body} change={change} index={index} />
              ))}
            </Section>
            <ImpossibleRows body={body} change={change} />
            <Candidates body={body} change={change} />
          </>
        );
      }}
    </EditSheet>
  );
}
