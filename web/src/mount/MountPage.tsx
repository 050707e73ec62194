import { useMemo, useState, type FormEvent } from 'react';
import { Link } from 'react-router';
import { counted, duration } from '@red-ember/core';
import { type Mount, type Study, type VariantBody } from '@red-ember/contract';
import { familyOf, cameFrom, cautionsOn, mountCard, type MountCard } from '@red-ember/study';
import { sentenceOf, useMakeMountMutation, useMountsQuery, useRunsQuery } from '../data/api.ts';
import { initialsTyped } from '../data/settings.ts';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { asSentence } from '../ui/asSentence.ts';
import { Button, ButtonLink } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { orSentence } from '../ui/orSentence.ts';
import { Section } from '../ui/Section.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { cardDone, FRESH_CARD, worked, type CardProgress } from './cardSlice.ts';
import { cardOf } from './cards.ts';
import { cardSentence } from './cardSentence.ts';
import { CardSteps, Cautions } from './CardSteps.tsx';
import { MountsTable } from './MountsTable.tsx';
import { MountTabs } from './MountTabs.tsx';
import { nextOf, plannedMinutes, type Next } from './next.ts';
import { amountWords } from '../parts/partWords.ts';
import { Photographs } from './Photographs.tsx';
import { SeatSection } from './SeatSection.tsx';
import { OnAPhone } from '../study/OnAPhone.tsx';

/** Nothing more is mounted of a variant that was retired. */
const goesOn = (variant: VariantBody) => !variant.retired;

function VariantChoice({
  study,
  mounts,
  next,
  toId,
  onChoose,
}: {
  study: Study;
  mounts: Mount[];
  next: Next;
  toId: string;
  onChoose: (id: string) => void;
}) {
  return (
    <fieldset className="mb-4">
      <legend className="sr-only">Variant</legend>
      <div className="flex max-h-44 flex-wrap gap-2 overflow-y-auto">
        {study.variants.filter(goesOn).map((variant) => {
          const had = mounts.filter((mount) => mount.variantId === variant.id).length;
          return (
            <label
              key={variant.id}
              className={`flex cursor-pointer items-center gap-2 border px-3 py-1.5 ${toId === variant.id ? 'border-ink bg-shade' : 'border-rule'}`}
            >
              <input type="radio" name="variant" checked={toId === variant.id} onChange={() => onChoose(variant.id)} />
              {variant.name}
              <span className="text-[0.87rem] text-soft">
                {next.planned?.variant.id === variant.id ? 'next by plan' : had > 0 ? counted(had, 'mount') : ''}
              </span>
            </label>
          );
        })}
      </div>
    </fieldset>
  );
}

/** The card, or why there is none. */
function useCard(study: Study, from: VariantBody | null, to: VariantBody | null): MountCard | string | null {
  return useMemo(() => to && orSentence(() => mountCard(study, from, to)), [study, from, to]);
}

/** What the change-over is about, and how long hands and cure take by plan. */
function CardSentence({ study, card, from, to }: { study: Study; card: MountCard; from: VariantBody | null; to: VariantBody }) {
  return (
    <p className="mb-4 text-[1.1rem]">
      {cardSentence(card, from, to)}{' '}
      <span className="text-soft">
        {duration(60 * plannedMinutes(study, from, to))} of hands by plan
        {study.plan.cureMin > 0 ? `, then ${duration(60 * study.plan.cureMin)} of cure or bed-in` : ''}.
      </span>
    </p>
  );
}

interface Typed {
  value: string;
  onChange: (value: string) => void;
}

function SerialField({ value, onChange }: Typed) {
  return (
    <label className="mt-5 block text-[0.93rem]">
      <span className="mb-1 block text-soft">Serial number of the scratch drive, read off its label</span>
      <input
        className="field-box max-w-xs text-[1rem]"
        maxLength={60}
        value={value}
        autoComplete="off"
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

function NoteField({ value, onChange }: Typed) {
  return (
    <>
      <label htmlFor="mount-note" className="mb-1 mt-4 block text-[0.87rem] text-soft">
        Note on this mount
      </label>
      <input
        id="mount-note"
        className="field-box max-w-xl"
        maxLength={500}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </>
  );
}

/** Who confirms the cautions: kept in this browser for the next mount and sign-off. */
function InitialsField() {
  const dispatch = useAppDispatch();
  const initials = useAppSelector((state) => state.settings.initials);
  return (
    <>
      <label htmlFor="mount-by" className="mb-1 mt-4 block text-[0.87rem] text-soft">
        Your initials (may stay empty)
      </label>
      <input
        id="mount-by"
        className="field-box !w-24"
        maxLength={4}
        value={initials}
        onChange={(event) => dispatch(initialsTyped(event.target.value))}
      />
    </>
  );
}

function MountCardForm({ study, mounts, next }: { study: Study; mounts: Mount[]; next: Next }) {
  const dispatch = useAppDispatch();
  const [make, making] = useMakeMountMutation();
  const kept = useAppSelector((state) => cardOf(state, study.id));
  const by = useAppSelector((state) => state.settings.initials);
  // A card that is only looked at is not chosen: it is kept from the first tick on, and until then the card under work stays as it is.
  const [looked, setLooked] = useState<string | null>(null);
  const progress = looked === null || looked === kept.toId ? kept : { ...FRESH_CARD, toId: looked };
  const onBench = next.onBench?.variant;
  // The plan says what is next; without one, the variant with the fewest mounts needs one most.
  const fewest = study.variants
    .filter(goesOn)
    .sort(
      (a, b) => mounts.filter((mount) => mount.variantId === a.id).length - mounts.filter((mount) => mount.variantId === b.id).length,
    )[0];
  const to = study.variants.find((variant) => variant.id === progress.toId) ?? next.planned?.variant ?? fewest ?? null;
  const from = to ? cameFrom(study.variants, mounts, to) : null;
  const card = useCard(study, from, to);
  if (!to || card === null)
    return (
      <Notice tone="hint" action={<ButtonLink to={`/studies/${study.id}/plan`}>To Plan</ButtonLink>}>
        Every variant is retired: nothing more is to be mounted, until one is taken up again.
      </Notice>
    );
  const work = (part: Partial<CardProgress>) => dispatch(worked({ studyId: study.id, part: { ...progress, toId: to.id, ...part } }));
  if (typeof card === 'string') return <Notice tone="error">{card} Say at Plan, Factors, which lies under which.</Notice>;
  const subject = study.subjects.find((candidate) => candidate.id === to.subjectId);
  const askSerial = familyOf(study.family).wearsOut && (subject?.serial ?? '').trim() !== '';
  const open = cautionsOn(card).filter((caution) => !progress.confirmed.includes(caution.key)).length;
  const left = card.steps.filter(({ step }) => !(step.id in progress.done) && !progress.skipped.includes(step.id)).length;
  const mine = (ids: string[]) => ids.filter((id) => card.steps.some(({ step }) => step.id === id));
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const done = mine(Object.keys(progress.done));
    const startedAt = done.map((id) => progress.done[id]!).sort()[0];
    const result = await make({
      studyId: study.id,
      body: {
        variantId: to.id,
        confirmed: progress.confirmed,
        note: progress.note,
        serial: progress.serial,
        done,
        skipped: mine(progress.skipped),
        ...(startedAt ? { startedAt } : {}),
        ...(by ? { by } : {}),
      },
    });
    if ('data' in result) {
      dispatch(cardDone(study.id));
      setLooked(null);
    }
  };
  const missing = [
    open > 0 ? `${open === 1 ? 'One caution is' : `${open} cautions are`} still to confirm` : '',
    left > 0 ? `${left === 1 ? 'one step is' : `${left} steps are`} neither done nor left out` : '',
    askSerial && progress.serial.trim() === '' ? 'the serial number is to be read off the drive' : '',
  ].filter(Boolean);
  return (
    <form onSubmit={(event) => void submit(event)}>
      <Section
        title="Mount a variant"
        hint={next.planned ? `run ${next.planned.number} of ${next.planned.of} by plan: ${next.planned.variant.name}` : undefined}
      >
        <VariantChoice study={study} mounts={mounts} next={next} toId={to.id} onChoose={setLooked} />
        <CardSentence study={study} card={card} from={from} to={to} />
        {onBench?.id === to.id ? (
          <Notice tone="hint">{to.name} is on the bench already; mount it again only to see what refitting does.</Notice>
        ) : null}
        <fieldset className="mb-5">
          <legend className="mb-2 text-[0.87rem] text-soft">Confirm each before the screwdriver</legend>
          <Cautions cautions={card.before} progress={progress} onWork={work} />
        </fieldset>
        {card.parts.length > 0 ? (
          <p className="mb-4">
            <span className="text-soft">Have ready: </span>
            {card.parts.map((part) => [part.name, amountWords(part)].filter(Boolean).join(', ')).join('; ')}.
          </p>
        ) : null}
        {card.steps.length > 0 ? (
          <CardSteps card={card} map={subject?.map ?? null} progress={progress} onWork={work} />
        ) : study.steps.length === 0 ? (
          <p className="text-soft">
            No steps are written down for this study. <Link to={`/studies/${study.id}/mount/steps`}>Write them</Link>, and the card shows
            what differs from one variant to the next.
          </p>
        ) : null}
        {askSerial ? <SerialField value={progress.serial} onChange={(serial) => work({ serial })} /> : null}
        <NoteField value={progress.note} onChange={(note) => work({ note })} />
        <InitialsField />
        {making.error ? <Notice tone="error">{sentenceOf(making.error)}</Notice> : null}
        <p className="mt-4 flex flex-wrap items-center gap-x-4 gap-y-2">
          <Button type="submit" look="strong" className="sm:shrink-0" disabled={missing.length > 0 || making.isLoading}>
            {to.name} is mounted
          </Button>
          {missing.length > 0 ? <span className="text-[0.93rem] text-soft">{asSentence(missing.join('; '))}</span> : null}
        </p>
      </Section>
    </form>
  );
}

export function MountPage() {
  const study = useStudy();
  const { data: mounts } = useMountsQuery(study.id);
  const { data: runs } = useRunsQuery(study.id);
  const next = nextOf(study, mounts ?? [], runs ?? []);
  const { onBench } = next;
  return (
    <Sheet
      crumb={`${study.title} / Mount`}
      windowTitle={`Mount, ${study.title}`}
      heading={
        onBench ? (
          <>
            On the bench: <b className="font-semibold">{onBench.variant.name}</b>, mount {onBench.mount.number}
          </>
        ) : (
          'Nothing is mounted yet'
        )
      }
      actions={
        <>
          <OnAPhone />
          {onBench ? (
            <ButtonLink to={`/studies/${study.id}/run`} look="strong">
              Run it
            </ButtonLink>
          ) : null}
        </>
      }
      margin={
        <>
          <MarginGroup title="The card">
            <Note>
              Only what differs between the variant on the bench and the next one, in the order of the hands. Ticks are kept in this browser
              until the mount is made; from the first tick on, the minutes are learnt.
            </Note>
          </MarginGroup>
          <MarginGroup title="Why mounts are counted">
            <Note>
              Refitting changes the contact of pads and probes. Two runs on one mount agree better than two mounts do; a verdict from a
              single mount says so.
            </Note>
          </MarginGroup>
          <MarginGroup title="Cautions">
            <Note tone="caution">
              The product advises; you decide. Follow the maker’s service instructions. Mains wiring is for licensed people under local
              codes.
            </Note>
          </MarginGroup>
        </>
      }
    >
      <MountTabs />
      {study.variants.length === 0 ? (
        <Notice tone="hint" action={<ButtonLink to={`/studies/${study.id}/plan`}>To Plan</ButtonLink>}>
          There is no variant to mount yet.
        </Notice>
      ) : mounts && runs ? (
        <>
          <MountCardForm study={study} mounts={mounts} next={next} />
          {onBench ? (
            <>
              <SeatSection study={study} mount={onBench.mount} runs={runs} />
              <Photographs mount={onBench.mount} />
            </>
          ) : null}
          <MountsTable study={study} mounts={mounts} runs={runs} />
        </>
      ) : null}
    </Sheet>
  );
}
