import { Plus, Trash2 } from 'lucide-react';
import { duration, recipeLengthS, counted } from '@red-ember/core';
import type { RecipePhaseBody, Study, VariantBody } from '@red-ember/contract';
import { familyOf } from '@red-ember/study';
import { useRunsQuery } from '../data/api.ts';
import { useBenches } from '../data/benches.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, TextField } from '../ui/Field.tsx';
import { Section } from '../ui/Section.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft } from '../study/useStudyDraft.ts';
import { PlanTabs } from './PlanTabs.tsx';
import { withoutVariant } from './edits.ts';
import { PhaseEditor } from './PhaseEditor.tsx';
import { RecipeTimeline } from './RecipeTimeline.tsx';

function swap<T>(list: T[], i: number, j: number): T[] {
  const copy = [...list];
  [copy[i], copy[j]] = [copy[j]!, copy[i]!];
  return copy;
}

/** What earlier runs say of the load's length. */
function settledWords(lengthsS: number[]): string {
  const [least, most] = [duration(Math.min(...lengthsS)), duration(Math.max(...lengthsS))];
  const runs = counted(lengthsS.length, 'earlier run');
  return `In ${runs} of this study the load was settled after ${least === most ? least : `${least} to ${most}`}.`;
}

function armedWords(study: Study): string {
  const limits = study.spots.filter((spot) => !spot.byHand).map((spot) => spot.cutOutC);
  return limits.length === 0
    ? 'Every spot is read by hand: nothing but you stops the load.'
    : `${counted(limits.length, 'spot')} with a cut-out, the lowest at ${Math.min(...limits)} °C.`;
}

export function PlanPage() {
  const study = useStudy();
  const { data: runs = [] } = useRunsQuery(study.id);
  const { setups } = useBenches(study.family);
  const settledLoads = runs.flatMap((run) =>
    run.phases
      .filter((phase) => phase.kind === 'load' && phase.endedBy === 'settled' && phase.endS !== null)
      .map((phase) => phase.endS! - phase.startS),
  );
  const { leastS, mostS } = recipeLengthS(study.recipe);
  const { body: shown } = useStudyDraft(study);
  return (
    <EditSheet
      study={study}
      station="Plan"
      heading="What is compared, and what does one run look like?"
      under={`One run takes ${leastS === mostS ? duration(leastS) : `${duration(leastS)} to ${duration(mostS)}`}`}
      margin={
        <>
          <MarginGroup title="How long it takes">
            {settledLoads.length > 0 ? (
              <Note>{settledWords(settledLoads)}</Note>
            ) : (
              <Note>No run of this study has settled yet, so its length is known only to lie between the least and the cap.</Note>
            )}
          </MarginGroup>
          {shown.recipe.filter((phase) => phase.kind !== 'idle-soak' && phase.kind !== 'cool-down').length > 1 ||
          shown.recipe.some((phase) => phase.kind === 'sweep') ? (
            <MarginGroup title="Several loads">
              <Note tone="caution">A run is read from its last load. The trace shows the others; verdicts on each are to come.</Note>
            </MarginGroup>
          ) : null}
          <MarginGroup title="Variants">
            <Note>Change one thing between two variants. Where two things change, neither can be credited.</Note>
            <Note>Run A, B, B, A over the days: what drifts with time falls out.</Note>
          </MarginGroup>
          <MarginGroup title="Armed in every run">
            {study.spots.length === 0 ? (
              <Note tone="caution">No spots, so nothing is armed: place them at Look.</Note>
            ) : (
              <Note>{armedWords(study)} The load also goes when the room probe or the rig is lost, or a cap is reached.</Note>
            )}
          </MarginGroup>
          <MarginGroup title="Cautions">
            {familyOf(study.family).wearsOut ? (
              <Note tone="caution">Sustained writes wear a drive and destroy its data: a scratch drive only.</Note>
            ) : null}
            <Note tone="caution">Never leave a load unattended without an armed cut-out.</Note>
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => {
        const setVariant = (index: number, part: Partial<VariantBody>) =>
          change({ variants: body.variants.map((variant, i) => (i === index ? { ...variant, ...part } : variant)) });
        const setPhase = (index: number, part: Partial<RecipePhaseBody>) =>
          change({ recipe: body.recipe.map((phase, i) => (i === index ? { ...phase, ...part } : phase)) });
        const addVariant = () =>
          change({
            variants: [
              ...body.variants,
              {
                id: crypto.randomUUID(),
                name: body.variants.length === 0 ? 'bare' : `variant ${body.variants.length + 1}`,
                subjectId: body.variants.at(-1)?.subjectId ?? body.subjects[0]!.id,
                isReference: body.variants.length === 0,
                setup: setups[Math.min(body.variants.length, setups.length - 1)]?.key ?? '',
                notes: '',
              },
            ],
          });
        const addPhase = () =>
          change({
            recipe: [
              ...body.recipe,
              { kind: 'load', name: 'Load again', mode: 'until-settled', durationS: 600, capS: 3600, loadPercent: 100 },
            ],
          });
        return (
          <>
            <PlanTabs />
            <Section
              title="Variants"
              action={
                <Button onClick={addVariant}>
                  <Plus size={16} aria-hidden /> Add a variant
                </Button>
              }
            >
              {body.variants.map((variant, index) => (
                <fieldset key={variant.id} className="mb-3 grid items-start gap-x-3 gap-y-2 border-t border-rule pt-3 md:grid-cols-12">
                  <legend className="sr-only">{variant.name}</legend>
                  <TextField
                    className="md:col-span-3"
                    label="Variant"
                    pointer={`/variants/${index}/name`}
                    value={variant.name}
                    onChange={(name) => setVariant(index, { name })}
                  />
                  <ChoiceField
                    className="md:col-span-3"
                    label="Set-up on the simulated bench"
                    pointer={`/variants/${index}/setup`}
                    value={variant.setup}
                    onChange={(setup) => setVariant(index, { setup })}
                    options={[
                      { value: '', label: 'none: recorded logs only' },
                      ...setups.map((setup) => ({ value: setup.key, label: setup.label })),
                      ...(variant.setup !== '' && !setups.some((setup) => setup.key === variant.setup)
                        ? [{ value: variant.setup, label: variant.setup }]
                        : []),
                    ]}
                  />
                  {body.subjects.length > 1 ? (
                    <ChoiceField
                      className="md:col-span-3"
                      label="On the part"
                      pointer={`/variants/${index}/subjectId`}
                      value={variant.subjectId}
                      onChange={(subjectId) => setVariant(index, { subjectId })}
                      options={body.subjects.map((subject) => ({ value: subject.id, label: subject.name }))}
                    />
                  ) : null}
                  <TextField
                    className="md:col-span-3"
                    label="Notes"
                    pointer={`/variants/${index}/notes`}
                    value={variant.notes}
                    onChange={(notes) => setVariant(index, { notes })}
                  />
                  <label className="flex items-center gap-2 pt-7 md:col-span-2">
                    <input
                      type="radio"
                      name="reference"
                      checked={variant.isReference}
                      onChange={() => change({ variants: body.variants.map((entry, i) => ({ ...entry, isReference: i === index })) })}
                    />{' '}
                    reference
                  </label>
                  <div className="flex justify-end pt-6 md:col-span-1">
                    {study.variantsWithRuns.includes(variant.id) ? (
                      <Button
                        look="quiet"
                        className="!px-1"
                        title={variant.retired ? 'Plan runs of it again' : 'It has mounts or runs: these stay, and no more are planned'}
                        onClick={() => setVariant(index, { retired: !variant.retired })}
                      >
                        {variant.retired ? 'Take up again' : 'Retire'}
                        <span className="sr-only"> {variant.name}</span>
                      </Button>
                    ) : (
                      <Button
                        look="quiet"
                        className="!px-1"
                        onClick={() => change(withoutVariant(body, variant.id))}
                        aria-label={`Remove ${variant.name}`}
                      >
                        <Trash2 size={16} aria-hidden />
                      </Button>
                    )}
                  </div>
                </fieldset>
              ))}
              {body.variants.length < 2 ? (
                <p className="text-soft">A comparison needs two: the part as it is, and what you put on it.</p>
              ) : null}
            </Section>
            <Section
              title="Recipe of a run"
              hint="the same for every variant"
              action={
                <Button onClick={addPhase}>
                  <Plus size={16} aria-hidden /> Add a phase
                </Button>
              }
            >
              <RecipeTimeline recipe={body.recipe} onChange={setPhase} />
              <div className="mt-5">
                {body.recipe.map((phase, index) => (
                  <PhaseEditor
                    key={index}
                    phase={phase}
                    index={index}
                    last={index === body.recipe.length - 1}
                    change={(part) => setPhase(index, part)}
                    replace={(now) => change({ recipe: body.recipe.map((entry, i) => (i === index ? now : entry)) })}
                    remove={() => change({ recipe: body.recipe.filter((_, i) => i !== index) })}
                    move={(by) => change({ recipe: swap(body.recipe, index, index + by) })}
                  />
                ))}
              </div>
            </Section>
          </>
        );
      }}
    </EditSheet>
  );
}
