import { listWords } from '@red-ember/core';
import type { VariantBody } from '@red-ember/contract';
import type { MountCard } from '@red-ember/study';

/** What a change-over is about, in a sentence. */
export function cardSentence(card: MountCard, from: VariantBody | null, to: VariantBody): string {
  if (!from) return `Onto an empty bench: ${to.name}.`;
  if (from.id === to.id) return `${to.name} again: everything comes off and goes on.`;
  const changed = card.changed.map(({ factor, from: was, to: now }) => `${factor}, ${was ?? 'nothing'} to ${now}`);
  const parts = [changed.length > 0 ? `Changes: ${changed.join('; ')}.` : `From ${from.name} to ${to.name}.`];
  if (card.reopened.length > 0)
    parts.push(`${listWords(card.reopened)} ${card.reopened.length === 1 ? 'comes' : 'come'} off to reach it, and back on.`);
  if (card.renewed.length > 0)
    parts.push(`${listWords(card.renewed)} ${card.renewed.length === 1 ? 'is' : 'are'} spoilt by that and renewed.`);
  return parts.join(' ');
}
