import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { counted } from '@red-ember/core';
import { type MountStepBody } from '@red-ember/contract';
import { blankStep, STEP_CAUTIONS, type StepCaution } from '@red-ember/study';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { BelongsField } from '../plan/BelongsField.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft, type StudyDraft } from '../study/useStudyDraft.ts';
import { MountTabs } from './MountTabs.tsx';

const CAUTION_NAMES: Record<StepCaution, string> = {
  '': 'no caution',
  springs: 'springs under tension',
  sharp: 'sharp edges',
  fans: 'fans and plugs',
  film: 'films to peel',
  solvent: 'solvent',
  conductive: 'conducts electricity',
  leak: 'may leak',
  hot: 'hot',
};

const WHEN: { value: MountStepBody['when']; title: string; hint: string }[] = [
  { value: 'off', title: 'Taking off', hint: 'steps of every variant come first' },
  { value: 'on', title: 'Putting on', hint: 'steps of every variant come last' },
];

function StepRow({
  body,
  change,
  index,
  first,
  last,
}: Pick<StudyDraft, 'body' | 'change'> & { index: number; first: boolean; last: boolean }) {
  const step = body.steps[index]!;
  const [more, setMore] = useState(false);
  const at = (field: string) => `/steps/${index}/${field}`;
  const set = (part: Partial<MountStepBody>) =>
    change({ steps: body.steps.map((entry, i) => (i === index ? { ...entry, ...part } : entry)) });
  const move = (by: 1 | -1) => {
    // Past the next of the same kind: the others in between are shown elsewhere.
    const same = body.steps.flatMap((entry, i) => (entry.when === step.when ? [i] : []));
    const to = same[same.indexOf(index) + by]!;
    const steps = [...body.steps];
    steps.splice(to, 0, ...steps.splice(index, 1));
    change({ steps });
  };
  const covers = body.subjects.flatMap((subject) => subject.map?.covers ?? []);
  const extras = [
    step.waitMin > 0 ? `wait ${step.waitMin} min` : '',
    step.header ? `plug ${step.header}` : '',
    step.screwsOf ? `screws of ${covers.find((cover) => cover.id === step.screwsOf)?.name ?? '?'}` : '',
  ].filter(Boolean);
  return (
    <fieldset className="border-t border-rule py-2">
      <legend className="sr-only">Step {index + 1}</legend>
      <div className="grid items-start gap-x-3 gap-y-2 sm:grid-cols-[minmax(0,1fr)_11.5rem_10rem_5.6rem]">
        <TextField hideLabel label={`Step ${index + 1}`} pointer={at('text')} value={step.text} onChange={(text) => set({ text })} />
        <BelongsField hideLabel label={`Step ${index + 1} belongs to`} body={body} pointer={at('level')} value={step} onChange={set} />
        <ChoiceField
          hideLabel
          label={`Caution at step ${index + 1}`}
          pointer={at('caution')}
          value={step.caution}
          options={STEP_CAUTIONS.map((value) => ({ value, label: CAUTION_NAMES[value] }))}
          onChange={(caution) => set({ caution })}
        />
        <div className="flex justify-end">
          <Button look="quiet" className="!px-1" disabled={first} aria-label={`Move step ${index + 1} up`} onClick={() => move(-1)}>
            <ArrowUp size={15} aria-hidden />
          </Button>
          <Button look="quiet" className="!px-1" disabled={last} aria-label={`Move step ${index + 1} down`} onClick={() => move(1)}>
            <ArrowDown size={15} aria-hidden />
          </Button>
          <Button
            look="quiet"
            className="!px-1"
            aria-label={`Remove step ${index + 1}`}
            onClick={() => change({ steps: body.steps.filter((_, i) => i !== index) })}
          >
            <Trash2 size={15} aria-hidden />
          </Button>
        </div>
      </div>
      <button
        type="button"
        className="mt-1 text-[0.87rem] text-soft hover:text-ink hover:underline"
        aria-expanded={more}
        onClick={() => setMore(!more)}
      >
        {extras.length > 0 ? extras.join(' · ') : 'wait, screws, plug'}
      </button>
      {more ? (
        <div className="mt-2 grid items-start gap-3 sm:grid-cols-4">
          <NumberField
            label="Wait after it"
            unit="min"
            pointer={at('waitMin')}
            value={step.waitMin}
            onChange={(waitMin) => set({ waitMin })}
          />
          <ChoiceField
            label="Screws of"
            pointer={at('screwsOf')}
            value={step.screwsOf}
            options={[{ value: '', label: 'none' }, ...covers.map((cover) => ({ value: cover.id, label: cover.name }))]}
            onChange={(screwsOf) => set({ screwsOf })}
          />
          <TextField label="Plug to header" pointer={at('header')} value={step.header} onChange={(header) => set({ header })} />
          <TextField label="which follows" pointer={at('follows')} value={step.follows} onChange={(follows) => set({ follows })} />
        </div>
      ) : null}
    </fieldset>
  );
}

/** The steps that cards are made of: written once per level, shown only where they differ. */
export function StepsPage() {
  const study = useStudy();
  const { body: shown } = useStudyDraft(study);
  return (
    <EditSheet
      study={study}
      station="Mount"
      heading="How is it taken off, and how put on?"
      under={counted(shown.steps.length, 'step')}
      margin={
        <>
          <MarginGroup title="How a card is made">
            <Note>
              A step belongs to a level, to one variant, or to all. From one variant to the next the card takes off what goes, outermost
              first, and puts on what comes, innermost first.
            </Note>
            <Note>What lies under what is said at Plan, Factors; there, too, what is spoilt when its cover comes off.</Note>
            <Note>Screws are entered on the board map at strip-down, by their place.</Note>
          </MarginGroup>
          <MarginGroup title="Cautions">
            <Note tone="caution">
              Choose the caution at the step where it applies: it is confirmed there, once per mount. Follow the maker’s service
              instructions.
            </Note>
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => (
        <>
          <MountTabs />
          {WHEN.map(({ value, title, hint }) => {
            const indices = body.steps.flatMap((step, i) => (step.when === value ? [i] : []));
            return (
              <Section
                key={value}
                title={title}
                hint={hint}
                action={
                  <Button onClick={() => change({ steps: [...body.steps, blankStep(crypto.randomUUID(), value, 'Next step')] })}>
                    <Plus size={16} aria-hidden /> Add a step
                  </Button>
                }
              >
                {indices.length === 0 ? (
                  <Notice tone="hint">
                    {value === 'off'
                      ? 'Write what comes off, in the order of the hands: plugs, panel, screws, sink, paste.'
                      : 'Write what goes on: pads and films, paste, sink, screws, plugs, the look at the fan.'}
                  </Notice>
                ) : (
                  indices.map((index, i) => (
                    <StepRow
                      key={body.steps[index]!.id}
                      body={body}
                      change={change}
                      index={index}
                      first={i === 0}
                      last={i === indices.length - 1}
                    />
                  ))
                )}
              </Section>
            );
          })}
        </>
      )}
    </EditSheet>
  );
}
