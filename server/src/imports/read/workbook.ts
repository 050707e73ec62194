import readWorkbook from 'read-excel-file/node';
import yauzl from 'yauzl';
import { LogProblem } from './cells.ts';

/** A workbook that is longer than this when it is unpacked is made to fill the memory, bytes; and it has no more parts than that. */
const MOST_UNPACKED = 300_000_000;
const MOST_PARTS = 2000;

type Cell = string | number | boolean | Date | null | undefined;

/** Names and sizes of what a zip holds. @throws LogProblem where it is no zip, or too much is in it */
function partsOf(path: string): Promise<string[]> {
  return new Promise((resolve, reject) => {
    const broken = () => reject(new LogProblem('The workbook cannot be unpacked: it is damaged or cut short.'));
    yauzl.open(path, { lazyEntries: true, validateEntrySizes: true }, (error, zip) => {
      if (error) return broken();
      const names: string[] = [];
      let bytes = 0;
      zip.on('error', broken);
      zip.on('end', () => resolve(names));
      zip.on('entry', (entry: { fileName: string; uncompressedSize: number }) => {
        names.push(entry.fileName);
        bytes += entry.uncompressedSize;
        if (bytes <= MOST_UNPACKED && names.length <= MOST_PARTS) return zip.readEntry();
        zip.close();
        reject(new LogProblem('Unpacked, the workbook is larger than any log: it is not read.'));
      });
      zip.readEntry();
    });
  });
}

/** Date and time as they stand in the workbook, which knows no zones. */
function textOf(cell: Cell): string {
  if (cell === null || cell === undefined) return '';
  const text = cell instanceof Date ? (Number.isNaN(cell.getTime()) ? '' : cell.toISOString().slice(0, 23)) : String(cell);
  return /[\t"\r\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text;
}

const filled = (row: readonly Cell[]) => row.filter((cell) => cell !== null && cell !== undefined && cell !== '').length;

/**
 * A workbook's sheet of readings as text with tabs: what formulas came to, no macros. Of several sheets, the one that holds the most
 * cells is read; which one it was stands in a comment above.
 *
 * @throws LogProblem another kind of zip, a damaged or empty workbook, one that is made to fill the memory
 */
export async function openWorkbook(path: string): Promise<string> {
  const parts = await partsOf(path);
  if (!parts.some((name) => /^xl\/workbook\.xml$/i.test(name)))
    throw new LogProblem('This is a zip of files and no workbook: unpack it, and put its files down together.');
  let sheets: { sheet: string; data: Cell[][] }[];
  try {
    sheets = (await readWorkbook(path)) as unknown as typeof sheets;
  } catch {
    throw new LogProblem('The workbook cannot be read: it is damaged or locked with a password. Save the sheet as CSV.');
  }
  const sized = sheets.map(({ sheet, data }) => ({ sheet, data, cells: data.reduce((sum, row) => sum + filled(row), 0) }));
  const best = sized.reduce<(typeof sized)[number] | null>((most, each) => (most === null || each.cells > most.cells ? each : most), null);
  if (best === null || best.cells === 0) throw new LogProblem('The workbook is empty.');
  const note = sheets.length === 1 ? '' : `# sheet "${best.sheet.replace(/[\r\n]/g, ' ')}", the fullest of ${sheets.length}\n`;
  return note + best.data.map((row) => row.map(textOf).join('\t')).join('\n');
}
