import type { ComponentClass } from '../components.ts';
import type { Family } from '../families.ts';

/** Words in a name that give its class away, the telling ones first. */
const WORDS: [RegExp, ComponentClass][] = [
  [/\b(own sensor|drive.?s own|drive says|composite|smart|drive temp(erature)?|laufwerk\w*)\b/i, 'drive sensor'],
  // The junction of the memory is the memory's.
  [/\b(memory|mem|vram|speicher\w*|memoire|memoria)\b/i, 'memory'],
  [/\b(hot[\s_]?spot|point chaud|punto caliente|hottest|junction|hot(?! ?(air|side|water))|t ?j(max)?)\b/i, 'hot spot'],
  [/\b(sink|fins?|heat ?spreader|vapou?r chamber|base ?plate|cold ?plate|kuhler|kuhlkorper)\b/i, 'heatsink'],
  [/\b(housing|handle|touch(ed|able)?|shroud|case outside)\b/i, 'touchable metal'],
  [/\b(controller|ctrl)\b/i, 'drive controller'],
  [/\b(flash|nand)\b/i, 'flash'],
  [/\b(vrms?|stages?|mosfets?|mos|fets?|power ?stages?|regulators?|spannungswandler)\b/i, 'power stage'],
  [/\b(inductors?|chokes?|coils?|spulen?|drossel\w*)\b/i, 'inductor'],
  [/\b(capacitors?|caps?|kondensator(en)?)\b/i, 'capacitor'],
  [/\b(hub|chip ?set|pch)\b/i, 'hub chip'],
  [/\b(processor|cpu|package|prozessor|processeur)\b/i, 'processor'],
  [/\b(coolant|water|liquid)\b/i, 'coolant'],
  [/\b(board|motherboard|mainboard|pcb|platine|hauptplatine)\b/i, 'board'],
  [/\b(gpu|core|die|graphics|grafikchip)\b/i, 'graphics core'],
];

/** What “the chip” is, by the family that it is said of. */
const CHIP: Record<Family, ComponentClass> = { card: 'graphics core', regulator: 'processor', drive: 'drive controller' };

/** Letters without the marks over and under them, as one looks for words whose marks a logger may have lost. */
export const withoutAccents = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '');
const plain = (name: string) =>
  withoutAccents(name)
    .replace(/[^\p{L}\p{N}%]+/gu, ' ')
    .trim();

/** What follows says where it is, not what it is. */
const BESIDE = /\b(beside|next to|near|close to|neben)\b/i;

/** The class of component that a name speaks of; null where it speaks of none. */
export function classByName(name: string, family: Family | null = null): ComponentClass | null {
  const [itself, ...where] = plain(name).split(BESIDE);
  return classByWords(itself!, family) ?? (where.length > 0 ? classByWords(plain(name), family) : null);
}

function classByWords(words: string, family: Family | null): ComponentClass | null {
  const found = WORDS.find(([pattern]) => pattern.test(words))?.[1];
  // A processor's cores are no graphics chip.
  if (found === 'graphics core' && family === 'regulator' && !/\b(gpu|graphics)\b/i.test(words)) return 'processor';
  if (found) return found;
  return /\b(chip|asic|soc)\b/i.test(words) ? CHIP[family ?? 'card'] : null;
}

/** The part's own sensors say of themselves what they read: they are not attached by anybody. */
export const readsItself = (name: string): boolean => /\b(own|says|reported|software|composite|smart|internal)\b/i.test(plain(name));

/**
 * What a name speaks of, the telling words first: a name counts for one family, and for half of that where its words are found beside other
 * parts as well.
 */
const TELLING: [RegExp, Family, number][] = [
  [/\b(gpu|vram|graphics|grafik\w*|card|hot ?spot|hottest|video)\b/i, 'card', 2],
  // A logger of whole machines names the controller of the memory and of the fans too.
  [/\b(memory|mem|bus|fan) controller\b/i, 'card', 1],
  [/\b(flash|nand|controller|ctrl|nvme|ssd|m 2|iops|drive|laufwerk\w*)\b/i, 'drive', 2],
  [/\b(cpu|processor|prozessor|inductors?|chokes?|stages?|mosfets?|vrms?|regulators?)\b/i, 'regulator', 2],
  [/\b([mg]b s|write|read rate)\b/i, 'drive', 1],
  [/\b(frames?|fps|memory|mem)\b/i, 'card', 1],
  [/\b(socket|render)\b/i, 'regulator', 1],
  [/\b(chip|die|core)\b/i, 'card', 1],
];
const FAMILIES: readonly Family[] = ['drive', 'card', 'regulator'];
/** Words that are found beside no other part. */
const SURE = 2;
/** Whoever names a file after a part knows what he measures: that counts for so many columns. A scene that is rendered is no part. */
const OF_A_FILE = 10;

/**
 * The family that most of a log's columns speak of; null where none speaks of any.
 *
 * @param names columns with their units
 */
export function familyByNames(names: readonly string[], fileName = ''): Family | null {
  const votes: Record<Family, number> = { drive: 0, card: 0, regulator: 0 };
  const count = (name: string, timesWhereSure: number) => {
    const found = TELLING.find(([pattern]) => pattern.test(plain(name)));
    if (found) votes[found[1]] += found[2] * (found[2] === SURE ? timesWhereSure : 1);
  };
  for (const name of names) count(name, 1);
  count(fileName, OF_A_FILE);
  const most = FAMILIES.reduce((best, family) => (votes[family] > votes[best] ? family : best));
  return votes[most] > 0 ? most : null;
}
