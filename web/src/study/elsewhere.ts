import type { FieldProblem } from '@red-ember/contract';

/** Where each part of a study is written: the address of its page, and what the page is called. */
const WRITTEN_AT: [RegExp, { to: string; name: string }][] = [
  [/^\/(title|family|question|claims|predictions|rules|enclosure)\b/, { to: 'ask', name: 'Ask' }],
  [/^\/subjects\/\d+\/map\b/, { to: 'look/map', name: 'the board map' }],
  [/^\/(subjects|spots|roomChannelId)\b/, { to: 'look', name: 'Look' }],
  [/^\/locks\b/, { to: 'hold', name: 'Hold' }],
  [/^\/(factors|impossible)\b/, { to: 'plan/factors', name: 'the factors' }],
  [/^\/plan\b/, { to: 'plan/order', name: 'the order of runs' }],
  [/^\/(variants|recipe)\b/, { to: 'plan', name: 'Plan' }],
  [/^\/parts\b/, { to: 'plan/parts', name: 'parts and pads' }],
  [/^\/steps\b/, { to: 'mount/steps', name: 'the steps of mounting' }],
  [/^\/judging\b/, { to: 'judge/choice', name: 'Choice' }],
];

/** A field that blocks saving, with the page where it stands; null where no page is known for it. */
export const pageOf = ({ pointer }: FieldProblem): { to: string; name: string } | null =>
  WRITTEN_AT.find(([where]) => where.test(pointer))?.[1] ?? null;

/** Fields that block saving and stand on another page than this one, the first of each page. */
export function elsewhere(problems: readonly FieldProblem[], here: string): { to: string; name: string; sentence: string }[] {
  const found = new Map<string, { to: string; name: string; sentence: string }>();
  for (const problem of problems) {
    const page = pageOf(problem);
    if (page && page.to !== here && !found.has(page.to)) found.set(page.to, { ...page, sentence: problem.sentence });
  }
  return [...found.values()];
}
