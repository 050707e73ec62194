import { useMemo } from 'react';
import { fixed, type FitFinding } from '@red-ember/core';
import type { StudyBody } from '@red-ember/contract';
import { ButtonLink } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { orSentence } from '../ui/orSentence.ts';
import { Section } from '../ui/Section.tsx';
import { fitsOf } from './needs.ts';

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

/** Whether each variant's parts fit on the board it goes on, named before anything is opened. */
export function FitSection({ body }: { body: StudyBody }) {
  const made = useMemo(() => orSentence(() => fitsOf(body)), [body]);
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
