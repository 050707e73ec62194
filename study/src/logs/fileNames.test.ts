import { describe, expect, it } from 'vitest';
import { usedInstead } from './copies.ts';
import { isReferenceName, namesOfFiles, referenceAmong } from './fileNames.ts';

const short = (names: string[]) => namesOfFiles(names).map(({ variant, mount }) => `${variant}${mount === null ? '' : ` m${mount}`}`);

describe('names of files', () => {
  it('say variant and mount; what all begin with is the part', () => {
    const names = ['Alder 5 mesh m1 a.csv', 'Alder 5 mesh m1 b.csv', 'Alder 5 solid m2.csv.gz', 'Alder 5 solid mount 3 run 2.tsv'];
    expect(short(names)).toEqual(['mesh m1', 'mesh m1', 'solid m2', 'solid m3']);
    expect(namesOfFiles(names)[0]!.part).toBe('Alder 5');
  });
  it('that are too long are made to fit, and stay two where they are two', () => {
    const sink = 'Big tower sink with adhesive strips on memory and inductors, second-hand 120 mm fan';
    const names = ['as shipped', 'tuned'].flatMap((how) => [1, 2].map((run) => `${sink}, ${how} - Lauf ${run}.csv`));
    const variants = namesOfFiles([...names, 'Factory shroud - Lauf 1.csv']).map(({ variant }) => variant!);
    expect(variants[0]).toBe(variants[1]);
    expect(variants[2]).toBe(variants[3]);
    expect(new Set(variants).size).toBe(3);
    expect(variants.every((name) => name.length <= 60 && !name.includes('Lauf'))).toBe(true);
  });
  it.each([
    [
      ['2026-05-11_bare_run1.csv', '2026-05-11_copper_pad_run1.csv'],
      ['bare', 'copper pad'],
    ],
    [
      ['stock.csv', 'stock washer.csv'],
      ['stock', 'stock washer'],
    ],
    [
      ['paste A.csv', 'paste B.csv'],
      ['A', 'B'],
    ],
    [
      ['bare 1.csv', 'bare 2.csv', 'lid 1.csv'],
      ['bare', 'bare', 'lid'],
    ],
    [['Quill7 bare m1.csv'], ['bare m1']],
    [
      ['log.csv', 'log (1).csv'],
      ['null', 'null'],
    ],
    [
      ['tower twin 120.csv', 'tower stock.csv'],
      ['twin 120', 'stock'],
    ],
    [
      ['20260511-0930 bare.csv', '20260511-1100 lid.csv'],
      ['bare', 'lid'],
    ],
    [
      ['Heron7 stock (mount 1) #2.csv', 'Heron7 stock (mount 2) #1.csv', 'Heron7 padV (mount 1) #1.csv'],
      ['stock m1', 'stock m2', 'padV m1'],
    ],
    [
      ['20261005-0830-stock-1.csv', '20261005-1030-stock-2.csv', '20261005-1230-pad V-1.csv'],
      ['stock', 'stock', 'pad V'],
    ],
    [
      ['baseline.csv', 'with lid.csv', 'with lid 2nd mount.csv', 'baseline remount.csv'],
      ['baseline m1', 'with lid m1', 'with lid m2', 'baseline m2'],
    ],
    [
      ['Heron 7 - Stock Cooler - Test 1.csv', 'Heron 7 - Stock Cooler - Test 2.csv', 'Heron 7 - 1.5mm pads - Test 1.csv'],
      ['Stock Cooler', 'Stock Cooler', '1.5mm pads'],
    ],
    [
      ['before.csv', 'after.csv', 'before2.csv', 'after2.csv'],
      ['before', 'after', 'before', 'after'],
    ],
  ])('%j: %j', (names, expected) => {
    expect(short(names)).toEqual(expected);
  });
  it('keep words on how a run went apart from the variant, where the variant stands alone elsewhere', () => {
    const names = namesOfFiles(['Q lid m1.csv', 'Q lid fans auto.csv', 'Q lid slow.csv', 'Q slow pump m1.csv']);
    expect(names.map(({ variant, remark }) => [variant, remark])).toEqual([
      ['lid', ''],
      ['lid', 'fans auto'],
      ['lid', 'slow'],
      ['slow pump', ''],
    ]);
  });
  it.each([
    ['a folder a variant', ['mesh/m1.csv', 'mesh/m2.csv', 'solid/m1.csv'], ['mesh m1', 'mesh m2', 'solid m1']],
    ['repeats by letters within', ['mesh/a.csv', 'mesh/b.csv', 'solid/a.csv', 'solid/b.csv'], ['mesh', 'mesh', 'solid', 'solid']],
    ['a folder a mount', ['day/mesh/m1/a.csv', 'day/mesh/m2/a.csv', 'day/solid/mount 1/a.csv'], ['mesh m1', 'mesh m2', 'solid m1']],
    ['days outside', ['2026-05-11/mesh/run1.csv', '2026-05-12/solid/run1.csv'], ['mesh', 'solid']],
    ['the same said twice', ['mesh/Alder5 mesh m1.csv', 'solid/Alder5 solid m1.csv'], ['mesh m1', 'solid m1']],
    ['a part’s name in every file', ['mesh/Alder5 m1.csv', 'solid/Alder5 m1.csv'], ['mesh m1', 'solid m1']],
    [
      'variants within',
      ['open/bare.csv', 'open/lid.csv', 'shut/bare.csv', 'shut/lid.csv'],
      ['open bare', 'open lid', 'shut bare', 'shut lid'],
    ],
    ['one folder that holds all', ['monday/Alder5 mesh m1.csv', 'monday/Alder5 solid m1.csv'], ['mesh m1', 'solid m1']],
    ['windows’ own', ['mesh\\m1.csv', 'solid\\m1.csv'], ['mesh m1', 'solid m1']],
  ])('tell variants by folders: %s', (_, names, expected) => {
    expect(short(names)).toEqual(expected);
  });
  it('never throw, and are never empty texts', () => {
    expect(namesOfFiles([])).toEqual([]);
    for (const name of ['', '.csv', '   .csv', '<b>x</b>.csv', '....', 'm1.csv', '()', 'a'.repeat(300)]) {
      const { variant } = namesOfFiles([name, 'b.csv'])[0]!;
      expect(variant === null || variant.trim() !== '', name).toBe(true);
    }
  });
  it('tell the reference from what is tried', () => {
    expect(['stock', 'bare', 'as shipped cooler', 'Reference'].every(isReferenceName)).toBe(true);
    expect(['lid', 'paste L', 'barely fits'].some(isReferenceName)).toBe(false);
  });
});

describe('of files with the same readings', () => {
  const file = (content: string, copy = false, aside = false) => ({ content, copy, aside });
  it('the one that is no copy by its name is used, wherever it stands', () => {
    const all = [file('x', true), file('x'), file('y')];
    expect(all.map((_, i) => usedInstead(all, i))).toEqual([1, null, null]);
  });
  it('another is used once that is left aside', () => {
    const all = [file('x', true), file('x', false, true)];
    expect(usedInstead(all, 0)).toBeNull();
  });
});

it('takes for the reference what begins so, before what says so somewhere', () => {
  expect(referenceAmong(['Big sink as shipped', 'Factory shroud as shipped', 'Factory shroud tuned'])).toBe('Factory shroud as shipped');
  expect(referenceAmong(['paste L', 'the stock paste'])).toBe('the stock paste');
  expect(referenceAmong(['paste L', 'paste M'])).toBeNull();
});
