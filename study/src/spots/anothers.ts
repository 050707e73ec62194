import type { ComponentClass } from '../components.ts';
import type { Family } from '../families.ts';
import { withoutAccents } from './classByName.ts';

const PROCESSOR = 'cpu|apu|processor|prozessor\\w*|processeur|procesador';
const CARD = 'gpu|vga|graphics?|grafik\\w*|video card';
const words = (list: string) => new RegExp(`\\b(${list})\\b`);

/** By which words a name means the part itself, which other parts of the machine heat it, and which are beside it. */
const NAMED: Record<Family, { itself: RegExp; heats: RegExp; beside: RegExp }> = {
  card: {
    itself: words(`${CARD}|card`),
    heats: words(PROCESSOR),
    beside: words('motherboard|mainboard|pch|psu|drive|laufwerk\\w*|ssd|nvme|dimms?\\d*'),
  },
  drive: {
    itself: words('drive|laufwerk\\w*|ssd|nvme|m ?2'),
    heats: words(`${PROCESSOR}|${CARD}`),
    beside: words('motherboard|mainboard|pch|psu|dimms?\\d*'),
  },
  regulator: { itself: words(`${PROCESSOR}|vrms?`), heats: words(CARD), beside: words('psu|drive|ssd|nvme|dimms?\\d*') },
};

/** The words of a name in a log: small letters without accents, with single blanks. */
export const plainWords = (name: string): string =>
  withoutAccents(name)
    .toLowerCase()
    .replace(/[^a-z0-9%]+/g, ' ')
    .trim();

/** Whether a name means a part of this family by a word of its own. */
export const namesItself = (name: string, family: Family): boolean => NAMED[family].itself.test(plainWords(name));

/** Whether a name speaks of a processor or a card that is not what is measured: what it takes warms what is. */
export const namesNeighbour = (name: string, family: Family): boolean =>
  !namesItself(name, family) && NAMED[family].heats.test(plainWords(name));

/** Whether a name speaks of any other part of the machine than the one that is measured. */
export const namesAnother = (name: string, family: Family): boolean =>
  namesNeighbour(name, family) || (!namesItself(name, family) && NAMED[family].beside.test(plainWords(name)));

/** The chip of a processor or a card, which no part of the other families has. */
const CHIPS: Record<Family, readonly ComponentClass[]> = {
  card: ['processor'],
  drive: ['processor', 'graphics core', 'hot spot'],
  regulator: ['graphics core'],
};

/** Whether a spot is on a processor or a card beside the part that is measured. */
export const isOfNeighbour = ({ name, componentClass }: { name: string; componentClass: ComponentClass }, family: Family): boolean =>
  namesNeighbour(name, family) || CHIPS[family].includes(componentClass);

/** How near a spot is to what is measured: 0 by a word of its own, 2 on another part of the machine, 1 where nothing says either. */
export function nearnessOf(spot: { name: string; componentClass: ComponentClass }, family: Family): 0 | 1 | 2 {
  if (namesAnother(spot.name, family) || isOfNeighbour(spot, family)) return 2;
  return namesItself(spot.name, family) ? 0 : 1;
}

/** Whether a study changes on purpose what a part beside it takes, by the names of its variants and factors: "processor loaded", "CPU at 120 W". */
export const asksOfNeighbour = ({
  variants,
  factors,
  family,
}: {
  variants: readonly { name: string }[];
  factors: readonly { name: string }[];
  family: Family;
}): boolean => [...variants, ...factors].some(({ name }) => namesNeighbour(name, family));
