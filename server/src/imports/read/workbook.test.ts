import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorkbook } from './workbook.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'red-ember-books-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A zip of texts. @param claimed size that the first of them is said to have */
function zip(files: Record<string, string>, claimed?: number): Buffer {
  const bytes = Buffer.from(zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)]))));
  if (claimed) bytes.writeUInt32LE(claimed, bytes.indexOf('PK\u0001\u0002') + 24);
  return bytes;
}

const HEAD = '<?xml version="1.0" encoding="UTF-8"?>';
const sheet = (rows: string[][]) =>
  `${HEAD}<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows
    .map(
      (cells, r) =>
        `<row r="${r + 1}">${cells.map((cell, c) => `<c r="${'ABCDEF'[c]}${r + 1}"${cell.startsWith('=') || !Number.isNaN(Number(cell)) ? '' : ' t="inlineStr"'}>${cell.startsWith('=') ? `<f>${cell.slice(1)}</f><v>42.5</v>` : Number.isNaN(Number(cell)) ? `<is><t>${cell}</t></is>` : `<v>${cell}</v>`}</c>`).join('')}</row>`,
    ) // prettier-ignore
    .join('')}</sheetData></worksheet>`;

/** The parts that a workbook has at least. */
function book(sheets: Record<string, string[][]>): Buffer {
  const names = Object.keys(sheets);
  const rel = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
  return zip({
    '[Content_Types].xml': `${HEAD}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/></Types>`,
    '_rels/.rels': `${HEAD}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${rel}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/workbook.xml': `${HEAD}<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="${rel}"><sheets>${names.map((name, i) => `<sheet name="${name}" sheetId="${i + 1}" r:id="rId${i + 1}"/>`).join('')}</sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `${HEAD}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${names.map((_, i) => `<Relationship Id="rId${i + 1}" Type="${rel}/worksheet" Target="worksheets/sheet${i + 1}.xml"/>`).join('')}</Relationships>`,
    'xl/styles.xml': `${HEAD}<styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"/>`,
    ...Object.fromEntries(names.map((name, i) => [`xl/worksheets/sheet${i + 1}.xml`, sheet(sheets[name]!)])),
  });
}
function put(content: Buffer): string {
  const path = join(folder, `${Math.random()}.xlsx`);
  writeFileSync(path, content);
  return path;
}

describe('a workbook', () => {
  it('becomes text with tabs: what its formulas came to', async () => {
    expect(
      await openWorkbook(
        put(
          book({
            Data: [
              ['s', 'chip C'],
              ['0', '40'],
              ['1', '=A1+B1'],
            ],
          }),
        ),
      ),
    ).toBe('s\tchip C\n0\t40\n1\t42.5');
  });
  it('of several sheets gives the fullest, and says so', async () => {
    const text = await openWorkbook(put(book({ Notes: [['only this']], Log: [['s', 'C'], ['0', '40'], ['1', '41']] }))); // prettier-ignore
    expect(text.split('\n')[0]).toBe('# sheet "Log", the fullest of 2');
    expect(text).toContain('1\t41');
  });
  it.each([
    ['another zip', () => zip({ 'a.txt': 'hello' }), 'no workbook'],
    ['one cut short', () => book({ A: [['1']] }).subarray(0, 200), 'damaged'],
    ['one made to fill the memory', () => zip({ 'xl/workbook.xml': 'x'.repeat(1000) }, 4_000_000_000), 'larger than any log'],
    ['an empty one', () => book({ A: [] }), 'empty'],
    ['one that is none inside', () => zip({ 'xl/workbook.xml': '<nonsense' }), 'cannot be read'],
  ])('%s is refused with a sentence', async (_what, content, word) => {
    await expect(openWorkbook(put(content()))).rejects.toThrow(word);
  });
});
