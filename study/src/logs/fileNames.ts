import { shortNames } from './shortNames.ts';

/** What the name of a log's file says of the run. */
export interface NameOfFile {
  /** The part or the bench: what names of a day begin with; empty where they do not. */
  part: string;
  variant: string | null;
  /** Which mount, from 1; null where it is not said. */
  mount: number | null;
  /** The file says of itself that it is a copy. */
  copy: boolean;
  /** Words that go beside a variant and are none: how the run went. */
  remark: string;
}

const COPY = /[\s_-]*(\((copy|kopie|copie|\d+)\)|\b(copy|kopie|copie)( ?\d+)?$)/i;
/** What stands before the number of a mount, and before that of a run, in the languages of loggers. */
const MOUNT_WORDS = 'm|mt|mnt|mount|seat|sitting|fit|refit|einbau|montage';
const RUN_WORDS = 'run|rep|repeat|take|test|no|nr|lauf|durchlauf|messung|essai|prueba|prova';
/** A name that says no more than what sort of file it is. */
const FILE_WORDS = 'run|rep|repeat|log|trace|data|measurement|export|sweep|results?|table|lauf|messung|essai';
const MOUNT = new RegExp(`^(?:${MOUNT_WORDS})[\\s_-]?(\\d{1,3})$`, 'i');
/** Fitted once more, which mount it is not said. */
const REMOUNT = /^(remount(ed)?|refit(ted)?|reseat(ed)?)$/i;
/** What is called like these and counted is the same once more: "before2". */
const COUNTED_REFERENCE = /^(before|after|stock|bare|baseline|base|reference|ref|original)\d{1,2}$/i;
/** Number or letter of a repeat. */
const REPEAT = new RegExp(`^(?:(?:${RUN_WORDS}|r|#|t)[\\s_-]?)?\\d{1,2}$|^[a-h]$|^(${FILE_WORDS})$`, 'i');
/** A repeat by number alone. */
const COUNT = new RegExp(`^(?:(?:${RUN_WORDS}|#)[\\s_-]?)?\\d{1,2}$|^(${FILE_WORDS})$`, 'i');
/** A word and its number are one word. */
const NUMBERED = new RegExp(`\\b(${MOUNT_WORDS}|${RUN_WORDS})\\s(\\d{1,3})\\b`, 'gi');
/** A part is called like this, as Wren8: a word with a number in it, before others. */
const MODEL = /^[a-z]{3,}\d+[a-z]*$/i;
const DAY =
  /^\d{4}-?\d{2}-?\d{2}(t?\d{2}[-.:]?\d{2}([-.:]?\d{2})?)?$|^\d{1,2}\.\d{1,2}\.\d{2,4}$|^\d{2}[-.:h]\d{2}([-.:]\d{2})?$|^\d{8,14}$/i;
/** A day and an hour in figures: when it was recorded, not what. */
const STAMP = /(?<!\d)20\d{2}-?\d{2}-?\d{2}(?:[tT_ -]?\d{2}[-.:h]?\d{2}(?:[-.:]?\d{2})?)?(?!\d)/g;
/** Words that say how a run was made or went, not what was on the part; what follows them belongs to them. */
const REMARKS =
  /^(fans?|slow|auto|automatic|host|warm|hot|cold|retry|again|aborted|broken|bad|test|check|control|throttled|unlocked|noisy|second|late|early|cut|short|long)$/i;

const withoutEnding = (name: string) => name.replace(/^.*[/\\]/, '').replace(/(\.(csv|tsv|txt|log|json|jsonl|ndjson|xlsx|gz|zip))+$/i, '');

/** "Wren8 stock m1 a (copy).csv" in words. A name without blanks is parted at underscores and dashes. */
function wordsOf(fileName: string): string[] {
  const bare = withoutEnding(fileName)
    .replace(COPY, '')
    .replace(STAMP, ' ')
    // What is counted stands in brackets or behind a dash as well: "(mount 1)", "pad V-1".
    .replace(/[([]\s*((?:m|mt|mnt|mount|seat|fit|run|rep|take|test|#)?\s?\d{1,3})\s*[)\]]/gi, ' $1 ')
    .replace(/[-_]((?:m|mount|run|rep|take|test|#)?\d{1,2})$/i, ' $1')
    .replace(/^[\s_-]+|[\s_-]+$/g, '');
  const parted = /\s/.test(bare) && !/^\S+\s\S*\d$/.test(bare) ? bare.split(/[\s,;]+/) : bare.split(/[\s,;_-]+/);
  // "mount 2" and "run 3" are one word each, and so is "2nd mount".
  return parted
    .join(' ')
    .replace(/\b(\d{1,2})(?:st|nd|rd|th)\s(mount|seat|fit)\b/gi, '$2$1')
    .replace(NUMBERED, '$1$2')
    .split(' ')
    .map((word) => (COUNTED_REFERENCE.test(word) ? word.replace(/\d+$/, '') : word))
    .filter((word) => word !== '' && !/^[-–—_]+$/.test(word));
}

/**
 * How many words all of them begin with; one is left to each. A name that is nothing but these words says no variant, unless it is called
 * like a reference: "stock" beside "stock washer" and "stock pad" is what they are held against.
 */
function common(all: readonly string[][]): number {
  const telling = all.filter((words) => words.length > 1);
  if (telling.length < 2) return 0;
  let n = 0;
  const most = Math.min(...telling.map((words) => words.length)) - 1;
  while (n < most && telling.every((words) => words[n]!.toLowerCase() === telling[0]![n]!.toLowerCase())) n++;
  const shared = telling[0]!.slice(0, n).join(' ').toLowerCase();
  const others = all.filter((words) => words.length === 1).map((words) => words[0]!.toLowerCase());
  return others.every((word) => word === shared && !isReferenceName(word)) ? n : 0;
}

/** A folder as it names what is in it: the words of a variant, and a mount. */
function folderNames(paths: readonly string[][]): { words: string[]; mount: number | null }[] {
  let shared = 0;
  const least = paths.length === 0 ? 0 : Math.min(...paths.map((path) => path.length));
  while (shared < least && paths.every((path) => path[shared] === paths[0]![shared])) shared++;
  return paths.map((path) => {
    const words = path.slice(shared).flatMap((folder) => wordsOf(`${folder}.csv`));
    const mount = words.map((word) => MOUNT.exec(word)?.[1]).findLast((n) => n !== undefined);
    return {
      words: words.filter((word) => !MOUNT.test(word) && !DAY.test(word) && !COUNT.test(word)),
      mount: mount === undefined ? null : Number(mount),
    };
  });
}

/**
 * Reads variant and mount off the names of files that belong together, and off the folders that they lay in where these differ: a
 * folder for each variant, or for each mount of one. Names within a folder that differ by more than a repeat go on from the folder's.
 *
 * @param part what the part is called where that is known: names that begin with it go on with the variant
 */
export function namesOfFiles(fileNames: readonly string[], part = ''): NameOfFile[] {
  const [partOf, variantOf] = [shortNames(), shortNames()];
  return namesWhole(fileNames).map((name) => ({
    ...name,
    part: partOf(name.part),
    variant: name.variant === null ? null : variantOf(withoutPart(name.variant, part)),
  }));
}

/** One log by itself has nothing beside it that would tell the part from the variant. */
const withoutPart = (variant: string, part: string): string =>
  part !== '' && variant.toLowerCase().startsWith(`${part.toLowerCase()} `) ? variant.slice(part.length + 1) : variant;

function namesWhole(fileNames: readonly string[]): NameOfFile[] {
  const byName = namesByName(fileNames);
  const folders = folderNames(fileNames.map((fileName) => fileName.split(/[/\\]/).slice(0, -1)));
  const telling = new Set(folders.map(({ words }) => words.join(' ').toLowerCase()));
  const files = byName.map((name, i) => ({ ...name, mount: name.mount ?? folders[i]!.mount }));
  if (telling.size < 2) return files;
  const inFolder = (at: string) =>
    files.flatMap(({ variant }, i) => (folders[i]!.words.join(' ').toLowerCase() === at ? [variant?.toLowerCase() ?? ''] : []));
  // Where every folder holds the same names, or one alone, they count repeats: the folders tell the variants.
  const lists = [...telling].map((at) => [...new Set(inFolder(at))].sort().join('|'));
  const repeats =
    lists.every((list) => !list.includes('|')) ||
    (new Set(lists).size === 1 && inFolder([...telling][0]!).every((word) => REPEAT.test(word)));
  return files.map((name, i): NameOfFile => {
    const folder = folders[i]!.words.join(' ');
    const own = repeats || name.variant === null || folder.toLowerCase().includes(name.variant.toLowerCase()) ? '' : name.variant;
    return { ...name, variant: [folder, own].filter((part) => part !== '').join(' ') || null };
  });
}

/**
 * Reads variant and mount off the names of files alone: what all of them begin with is the part or the bench, not the
 * variant; numbers and letters at the end count repeats; words such as “fans auto” after a variant that stands alone elsewhere say how the run went.
 */
function namesByName(fileNames: readonly string[]): NameOfFile[] {
  const all = fileNames.map(wordsOf);
  const telling = (words: string[], repeat: RegExp) => {
    const said = (word: string) => !MOUNT.test(word) && !REMOUNT.test(word) && !repeat.test(word) && !DAY.test(word);
    const last = words.findLastIndex(said);
    // A number in the middle belongs to the name before it, as in "Wren 8 stock"; at either end it counts.
    return words.filter((word, i) => said(word) || (/^\d{1,2}$/.test(word) && i > 0 && i < last && said(words[i - 1]!)));
  };
  const counted = all.map((words) => telling(words, REPEAT));
  // "paste A" and "paste B" differ in nothing else: the letters are no repeats then, but what was on the part.
  const same = new Set(counted.map((words) => words.join(' ').toLowerCase())).size === 1;
  const kept = same && counted.length > 1 ? all.map((words) => telling(words, COUNT)) : counted;
  const shared = common(kept);
  const begins = (words: readonly string[]) => (shared === 0 && words.length > 1 && MODEL.test(words[0]!) ? 1 : shared);
  const variants = kept.map((words) => words.slice(begins(words)));
  const plain = variants.map((words) => {
    const from = words.findIndex((word, i) => i > 0 && REMARKS.test(word));
    return from < 0 ? null : { variant: words.slice(0, from), remark: words.slice(from) };
  });
  const alone = new Set(variants.map((words) => words.join(' ').toLowerCase()));
  const mounts = all.map((words): number | null => {
    const numbered = words.map((word) => MOUNT.exec(word)?.[1]).find((n) => n !== undefined);
    return numbered === undefined ? (words.some((word) => REMOUNT.test(word)) ? 2 : null) : Number(numbered);
  });
  const nameOf = (words: readonly string[]) => words.join(' ').toLowerCase();
  /** Beside the second mount of a variant, and none that is called the first, the one without a number is the first. */
  const isFirst = (words: readonly string[]) => {
    const others = mounts.filter((mount, k) => mount !== null && nameOf(variants[k]!) === nameOf(words));
    return others.includes(2) && !others.includes(1);
  };
  return fileNames.map((fileName, i): NameOfFile => {
    const remarked = plain[i];
    // Only where the same variant stands alone in another name, or nothing else is said: "slow pump" may be a variant by itself.
    const split =
      remarked != null &&
      (alone.has(remarked.variant.join(' ').toLowerCase()) ||
        (remarked.remark.length > 1 && remarked.remark.every((word) => REMARKS.test(word))));
    const words = split ? remarked.variant : variants[i]!;
    return {
      part: kept[i]!.slice(0, begins(kept[i]!)).join(' '),
      variant: words.join(' ') || null,
      mount: mounts[i] ?? (isFirst(words) ? 1 : null),
      copy: COPY.test(withoutEnding(fileName)),
      remark: split ? remarked.remark.join(' ') : '',
    };
  });
}

/** Of names the one that is called like a reference, one that begins so before one that says it somewhere; null where none does. */
export const referenceAmong = (variants: readonly string[]): string | null =>
  variants.find((name) => isReferenceName(name.split(' ')[0]!)) ?? variants.find(isReferenceName) ?? null;

/** What a variant is called that was there before anything was changed. */
export const isReferenceName = (variant: string): boolean =>
  /\b(stock|bare|before|reference|ref|baseline|base|default|original|factory|as shipped|standard|without|none|control|oem|untouched)\b/i.test(
    variant,
  );
