import { Plus, Trash2 } from 'lucide-react';
import { ownIdOf, ownOutcome, unitOfClaim, type ClaimAbout, type OwnOutcome } from '@red-ember/core';
import { type ClaimBody, type StudyBody } from '@red-ember/contract';
import { CLAIM_OUTCOMES, familyOf, OUTCOME_NAMES, ownFiguresOf } from '@red-ember/study';
import { Button } from '../ui/Button.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { Section } from '../ui/Section.tsx';
import type { StudyDraft } from '../study/useStudyDraft.ts';

export const spotOptions = (body: StudyBody) => body.spots.map((spot) => ({ value: spot.id, label: spot.name }));

/** What something is said of: one variant against the reference, or whichever is compared. */
export const variantOptions = (body: StudyBody) => [
  { value: '', label: 'whichever is compared' },
  ...body.variants
    .filter((variant) => !variant.isReference)
    .map(({ id, name }) => ({ value: id, label: `${name}, against the reference` })),
];

const directions = (claim: ClaimBody): { value: ClaimBody['direction']; label: string }[] =>
  claim.outcome === 'temperature'
    ? [
        { value: 'cooler', label: 'cooler' },
        { value: 'warmer', label: 'warmer' },
        { value: 'no-difference', label: 'no different' },
      ]
    : [
        ...(claim.outcome === 'watts-carried' ? [{ value: 'at-least' as const, label: 'at least so many' }] : []),
        { value: 'more', label: 'more' },
        { value: 'less', label: 'less' },
        { value: 'no-difference', label: 'no different' },
      ];

/** Known outcomes, then the study's own figures. */
export const outcomeOptions = <T extends ClaimAbout>(body: StudyBody, known: readonly T[]): { value: T | OwnOutcome; label: string }[] => [
  ...known.map((outcome) => ({ value: outcome, label: OUTCOME_NAMES[outcome] })),
  ...ownFiguresOf(body).map(({ id, name }) => ({ value: ownOutcome(id), label: name || 'a figure without a name' })),
];

/** In which a claim or a prediction about an outcome is counted. */
export const unitOf = (body: StudyBody, outcome: ClaimBody['outcome']): string =>
  unitOfClaim(outcome, { throughputUnit: familyOf(body.family).throughputUnit, own: ownFiguresOf(body) });

/** What each outcome is judged by, where that is not plain. */
const HINTS: Partial<Record<ClaimAbout, string>> = {
  noise: 'Judged where runs record a sound level.',
  clock: 'Judged where runs record a clock.',
  'watts-carried': 'Judged in the enclosure’s air, with the margin of Carry.',
};

/** Where a claim turns to another outcome: the usual direction of that one, or none as before. */
function usualDirection(outcome: ClaimBody['outcome'], before: ClaimBody['direction']): ClaimBody['direction'] {
  if (outcome === 'watts-carried') return 'at-least';
  if (before === 'no-difference') return before;
  return outcome === 'temperature' ? 'cooler' : 'more';
}

function ClaimEditor({
  body,
  claim,
  index,
  set,
  remove,
}: {
  body: StudyBody;
  claim: ClaimBody;
  index: number;
  set: (part: Partial<ClaimBody>) => void;
  remove: () => void;
}) {
  const at = (field: keyof ClaimBody) => `/claims/${index}/${field}`;
  return (
    <fieldset className="mb-3 grid gap-x-4 gap-y-2 border-t border-rule pt-3 md:grid-cols-12">
      <legend className="sr-only">Claim {index + 1}</legend>
      <TextField
        className="md:col-span-11"
        label="In one sentence"
        pointer={at('text')}
        value={claim.text}
        onChange={(text) => set({ text })}
      />
      <div className="flex items-end justify-end pb-1 md:col-span-1">
        <Button look="quiet" className="!px-1" aria-label={`Remove claim ${index + 1}`} onClick={remove}>
          <Trash2 size={16} aria-hidden />
        </Button>
      </div>
      {body.variants.length > 2 || claim.variantId ? (
        <ChoiceField
          className="md:col-span-12"
          label="Of"
          pointer={at('variantId')}
          value={claim.variantId ?? ''}
          onChange={(id) => set({ variantId: id === '' ? null : id })}
          options={variantOptions(body)}
        />
      ) : null}
      <ChoiceField
        className="md:col-span-3"
        label="About"
        pointer={at('outcome')}
        value={claim.outcome}
        hint={ownIdOf(claim.outcome) === null ? HINTS[claim.outcome as ClaimAbout] : 'Judged where it was typed, or recorded.'}
        onChange={(outcome) =>
          set({
            outcome,
            spotId: null,
            direction: usualDirection(outcome, claim.direction),
          })
        }
        options={outcomeOptions(body, CLAIM_OUTCOMES)}
      />
      {claim.outcome === 'temperature' ? (
        <ChoiceField
          className="md:col-span-4"
          label="Where"
          pointer={at('spotId')}
          value={claim.spotId ?? ''}
          onChange={(id) => set({ spotId: id === '' ? null : id })}
          options={[{ value: '', label: 'every spot' }, ...spotOptions(body)]}
        />
      ) : (
        <span className="hidden md:col-span-4 md:block" />
      )}
      <ChoiceField
        className="md:col-span-3"
        label="It becomes"
        pointer={at('direction')}
        value={claim.direction}
        onChange={(direction) => set({ direction })}
        options={directions(claim)}
      />
      <NumberField
        className="md:col-span-2"
        label={claim.direction === 'no-difference' ? 'Within' : claim.direction === 'at-least' ? 'Watts' : 'By at least'}
        unit={unitOf(body, claim.outcome)}
        pointer={at('leastEffect')}
        value={claim.leastEffect}
        disabled={claim.outcome === 'temperature' && claim.direction === 'no-difference'}
        onChange={(leastEffect) => set({ leastEffect })}
      />
    </fieldset>
  );
}

export function ClaimsSection({ body, change }: Pick<StudyDraft, 'body' | 'change'>) {
  const { claims } = body;
  const add = () =>
    change({
      claims: [...claims, { id: crypto.randomUUID(), text: '', outcome: 'temperature', spotId: null, direction: 'cooler', leastEffect: 2 }],
    });
  return (
    <Section
      title={claims.length > 1 ? 'The claims' : 'The claim'}
      hint={
        claims.length === 0
          ? 'What the maker says, or what a reader suspects, with the effect that would bear it out.'
          : 'The first that is about the pair shown stands in the verdict.'
      }
      action={
        <Button onClick={add}>
          <Plus size={16} aria-hidden /> {claims.length === 0 ? 'Write down a claim' : 'Another claim'}
        </Button>
      }
    >
      {claims.map((claim, index) => (
        <ClaimEditor
          key={claim.id}
          body={body}
          claim={claim}
          index={index}
          set={(part) => change({ claims: claims.map((entry, i) => (i === index ? { ...entry, ...part } : entry)) })}
          remove={() => change({ claims: claims.filter((_, i) => i !== index) })}
        />
      ))}
    </Section>
  );
}
