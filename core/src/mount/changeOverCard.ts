import type { Levels } from '../factors/aliases.ts';

/** A factor as hands meet it: what has to come off to reach it, and whether it is spoilt when that comes off. */
export interface FittedFactor {
  name: string;
  /** The factor that covers this one; empty where it can be reached at once. */
  under: string;
  /** Paste, pads: renewed whenever what covers them is taken off. */
  renew: boolean;
}

/** What a step or a part belongs to: a level, a variant, or every variant (neither). */
export interface Belonging {
  level: { factor: string; level: string } | null;
  variantId: string | null;
}

export interface FitStep extends Belonging {
  id: string;
  /** Done when it is taken off, or when it is put on. Of every variant: at the very start, or at the very end. */
  when: 'off' | 'on';
}

export interface FittedVariant {
  id: string;
  levels: Levels;
}

export interface ChangeOverCard {
  /** Factors that differ; `from` is null on an empty bench. */
  changed: { factor: string; from: string | null; to: string }[];
  /** Taken off only to reach what changes, and put back as they were. */
  reopened: string[];
  /** Left as they are by intent, but spoilt by what was taken off. */
  renewed: string[];
  /** Ids of the steps, in order of work. */
  steps: string[];
}

/** Whether something belongs to a variant. */
export function belongsTo(item: Belonging, variant: FittedVariant): boolean {
  if (item.variantId !== null) return item.variantId === variant.id;
  return item.level === null || variant.levels[item.level.factor] === item.level.level;
}

function coverOf(factors: readonly FittedFactor[], name: string): string | null {
  const under = factors.find((factor) => factor.name === name)?.under ?? '';
  return under !== '' && factors.some((factor) => factor.name === under) ? under : null;
}

/** Everything that covers a factor, nearest first. */
function coversOf(factors: readonly FittedFactor[], name: string): string[] {
  const covers: string[] = [];
  for (let over = coverOf(factors, name); over !== null; over = coverOf(factors, over)) {
    if (over === name || covers.includes(over))
      throw new RangeError(`${name} lies under ${covers.at(-1) ?? name}, and ${covers.at(-1) ?? name} under ${over}`);
    covers.push(over);
  }
  return covers;
}

/**
 * The steps of one change-over: only what differs between the variant that is on the bench and the next one, in the order of the
 * hands. What covers a changed factor comes off first and goes on last; what is spoilt by that is renewed. The same variant
 * again is a refit: everything comes off and goes on.
 *
 * @param from null on an empty bench
 * @param steps steps of every variant come first ('off') and last ('on'); others keep their order within their factor
 * @throws RangeError two factors that lie under each other
 */
export function changeOverCard(
  from: FittedVariant | null,
  to: FittedVariant,
  factors: readonly FittedFactor[],
  steps: readonly FitStep[],
): ChangeOverCard {
  const covers = new Map(factors.map(({ name }) => [name, coversOf(factors, name)]));
  const refit = from?.id === to.id;
  const changed = factors.flatMap(({ name }) => {
    const [old, now] = [from?.levels[name] ?? null, to.levels[name]];
    return now !== undefined && (refit || old !== now) ? [{ factor: name, from: old, to: now }] : [];
  });
  const moved = new Set(changed.map(({ factor }) => factor));
  const reopened =
    from === null
      ? []
      : factors.map(({ name }) => name).filter((name) => !moved.has(name) && [...moved].some((other) => covers.get(other)!.includes(name)));
  const taken = new Set([...moved, ...reopened]);
  // What is spoilt may itself cover something that is spoilt in turn: outermost first.
  const depth = (name: string) => covers.get(name)!.length;
  const outermostFirst = [...factors].sort((a, b) => depth(a.name) - depth(b.name));
  const renewed: string[] = [];
  if (from !== null)
    for (const { name, under, renew } of outermostFirst)
      if (renew && !taken.has(name) && taken.has(under)) {
        taken.add(name);
        renewed.push(name);
      }
  const hands = outermostFirst.map(({ name }) => name).filter((name) => taken.has(name));
  const ofFactor = (when: FitStep['when'], variant: FittedVariant) => (name: string) =>
    steps.filter((step) => step.when === when && step.variantId === null && step.level?.factor === name && belongsTo(step, variant));
  const ofVariant = (when: FitStep['when'], variant: FittedVariant) =>
    steps.filter((step) => step.when === when && step.variantId === variant.id);
  const ofAll = (when: FitStep['when']) => steps.filter((step) => step.when === when && step.variantId === null && step.level === null);
  const list = [
    ...ofAll('off'),
    ...(from === null ? [] : [...ofVariant('off', from), ...hands.flatMap(ofFactor('off', from))]),
    ...[...hands].reverse().flatMap(ofFactor('on', to)),
    ...ofVariant('on', to),
    ...ofAll('on'),
  ];
  return { changed, reopened, renewed, steps: list.map((step) => step.id) };
}
