import { LONGEST_NAME, shortNames, type FactorEntry, type LevelChoiceEntry } from '@red-ember/study';
import type { FiguresOfRun } from './readFigures.ts';

/** A level that is as the part came. */
const AS_IT_CAME = /^(off|no|none|without|stock|bare|0|-|open|default|reference)$/i;

/** What was changed in a table: factors with two levels or more, in the order in which their levels first stand. */
export function factorsOf(runs: readonly FiguresOfRun[]): FactorEntry[] {
  return (runs[0]?.levels ?? []).flatMap(({ factor }) => {
    const levels = [...new Set(runs.flatMap((run) => run.levels.filter((choice) => choice.factor === factor).map(({ level }) => level)))];
    const first = levels.filter((level) => AS_IT_CAME.test(level));
    return levels.length < 2
      ? []
      : [{ name: factor, levels: [...first, ...levels.filter((level) => !first.includes(level))], changeMin: 10 }];
  });
}

/** A variant that a table speaks of: a combination of levels. */
export interface VariantOfTable {
  name: string;
  levels: LevelChoiceEntry[];
}

const keyOf = (levels: readonly LevelChoiceEntry[]) => JSON.stringify(levels);

/**
 * The combinations that stand in a table, the one nearest to how the part came first, with short names: of factors called on and off only
 * what was on is named.
 *
 * @param fallback name where nothing was changed
 */
export function variantsOfTable(
  runs: readonly FiguresOfRun[],
  fallback: string,
): { variants: VariantOfTable[]; of: (run: FiguresOfRun) => number } {
  const names = factorsOf(runs).map(({ name }) => name);
  const levelsOf = (run: FiguresOfRun) => run.levels.filter(({ factor }) => names.includes(factor));
  const distinct = [...new Map(runs.map((run) => [keyOf(levelsOf(run)), levelsOf(run)])).values()];
  const changed = (levels: readonly LevelChoiceEntry[]) => levels.filter(({ level }) => !AS_IT_CAME.test(level)).length;
  distinct.sort((p, q) => changed(p) - changed(q));
  const short = shortNames();
  const variants = distinct.map((levels): VariantOfTable => ({ name: short(nameOf(levels) || fallback), levels }));
  const taken = new Map<string, number>();
  for (const variant of variants) {
    const n = (taken.get(variant.name.toLowerCase()) ?? 0) + 1;
    taken.set(variant.name.toLowerCase(), n);
    if (n > 1) variant.name = `${variant.name.slice(0, LONGEST_NAME - 5)} (${n})`;
  }
  const keys = distinct.map(keyOf);
  return { variants, of: (run) => keys.indexOf(keyOf(levelsOf(run))) };
}

const ON = /^(on|yes|with)$/i;
const OFF = /^(off|no|without|none)$/i;

/** Of what is switched on and off only what was on is named: “Plate, tower”. Numbers go by what they are of. */
function nameOf(levels: readonly LevelChoiceEntry[]): string {
  if (levels.length === 1) return levels[0]!.level;
  const said = levels.flatMap(({ factor, level }) => {
    if (OFF.test(level)) return [];
    if (ON.test(level)) return [factor];
    return [/^[\d.,]+$/.test(level) ? `${factor} ${level}` : level];
  });
  return said.join(', ') || (levels.length > 0 ? 'as it came' : '');
}
