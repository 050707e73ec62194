import { fixed, pasteLayer } from '@red-ember/core';
import type { FittedPartBody } from '@red-ember/contract';

/** A number without the zeros that say nothing: 68, 1.75. */
const plain = (value: number) => String(Math.round(value * 100) / 100);

/** What a part is cut to, or how much of it is put on; empty where there is nothing to say. */
export function amountWords(part: Pick<FittedPartBody, 'pad' | 'paste'> & { quantity?: number }): string {
  const { quantity = 1 } = part;
  if (part.pad) {
    const { widthMm, heightMm, thickMm } = part.pad;
    const cut = `cut to ${plain(widthMm)} × ${plain(heightMm)} mm, ${plain(thickMm)} mm thick`;
    return quantity > 1 ? `${quantity} pieces, ${cut}` : cut;
  }
  if (part.paste) {
    const { areaMm2, bondLineMm, densityGPerCm3 } = part.paste;
    // Half typed: the field says what is missing.
    if (!(areaMm2 > 0 && bondLineMm > 0 && densityGPerCm3 > 0)) return '';
    const { appliedMm3, appliedG } = pasteLayer({ areaMm2, bondLineMm, densityGPerCm3 });
    return `${fixed(appliedMm3, 0)} mm³ (${fixed(appliedG, 2)} g) on ${plain(areaMm2)} mm²`;
  }
  return quantity > 1 ? `${quantity} pieces` : '';
}

/** Names that count on, drawn together: Memory 1 to 8, Power stage 2. */
export function inRanges(names: readonly string[]): string {
  const groups: { stem: string; from: number; to: number }[] = [];
  const words: string[] = [];
  const close = () =>
    words.push(...groups.splice(0).map(({ stem, from, to }) => (from === to ? `${stem}${from}` : `${stem}${from} to ${to}`)));
  for (const name of names) {
    const [, stem = '', digits] = /^(.*?)(\d+)$/.exec(name) ?? [];
    const last = groups.at(-1);
    if (digits && last?.stem === stem && Number(digits) === last.to + 1) last.to++;
    else {
      close();
      if (digits) groups.push({ stem, from: Number(digits), to: Number(digits) });
      else words.push(name);
    }
  }
  close();
  return words.join(', ');
}
