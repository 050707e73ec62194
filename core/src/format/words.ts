import { fixed } from './measured.ts';

/**
 * Distance to a limit in words, the same on every page and in the report: "12 K left", "3 K over", "at the limit". A part that is
 * over its limit is never said to have anything left.
 *
 * @param headroomK limit less temperature, K
 */
export function headroomWords(headroomK: number, decimals = 0): string {
  const text = fixed(Math.abs(headroomK), decimals);
  if (Number(text) === 0) return 'at the limit';
  return `${text} K ${headroomK < 0 ? 'over' : 'left'}`;
}

/** A number of things, "1 factor", "3 factors". */
export function counted(n: number, one: string, many = `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`;
}

/** The same with its first letter large: what begins a sentence. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/**
 * A name in the middle of a sentence: its first letter small where it is a plain word at the head of plain words ("Flash, underside"),
 * as it was typed where capitals mean something ("GPU", "Core Temp", "VRM TC1").
 */
export const midSentence = (name: string): string => (/^\p{Lu}\P{Lu}+$/u.test(name) ? name.charAt(0).toLowerCase() + name.slice(1) : name);

/** A title as the name of a file: what a file system may refuse is left out. */
export const asFileName = (title: string, fallback: string): string =>
  title
    .replace(/[^\p{L}\p{N} _-]+/gu, '')
    .trim()
    .slice(0, 80) || fallback;

/** "a", "a and b", "a, b and c"; where an item holds a comma of its own, "a, x; b and c". */
export function listWords(items: readonly string[]): string {
  const between = items.some((item) => item.includes(',')) ? '; ' : ', ';
  return items.length < 2 ? (items[0] ?? '') : `${items.slice(0, -1).join(between)} and ${items.at(-1)}`;
}

/** "2 mounts"; of runs of which nobody knows on which mount they were made, that. */
export const mountsInWords = (mounts: number | null): string => (mounts === null ? 'mounts unknown' : counted(mounts, 'mount'));
