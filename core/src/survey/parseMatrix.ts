import { toCelsius, type TemperatureUnit } from '../format/temperature.ts';

/** A picture that cannot be read, with a sentence that says which line and why. */
export class MatrixProblem extends Error {
  override readonly name = 'MatrixProblem';
}

/** Pictures of thermal cameras are smaller than this; more is a sign of another kind of file. */
const MOST_CELLS = 400_000;
const MISSING = /^(nan|n\/?a|-+|null)?$/i;

function splitter(lines: { text: string }[]): { delimiter: string | RegExp; decimalComma: boolean } {
  const text = lines
    .slice(0, 5)
    .map((line) => line.text)
    .join('\n');
  if (text.includes('\t')) return { delimiter: '\t', decimalComma: text.includes(',') };
  if (text.includes(';')) return { delimiter: ';', decimalComma: text.includes(',') };
  if (text.includes(',')) return { delimiter: ',', decimalComma: false };
  return { delimiter: / +/, decimalComma: false };
}

/**
 * Reads a temperature picture exported as text: one line a row, separated by tab, semicolon, comma or blanks. A first line or first
 * column that only counts or names is left out; decimal commas are understood where the separator allows it.
 *
 * @param text the file
 * @param unit of its numbers
 * @returns °C, [row][column]; NaN where the file says there is no value
 * @throws MatrixProblem saying which line and why: ragged rows, text, too large, below absolute zero, nothing in it
 */
export function parseMatrix(text: string, unit: TemperatureUnit): number[][] {
  const lines = text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .map((line, i) => ({ text: line.trim(), number: i + 1 }))
    .filter((line) => line.text !== '' && !line.text.startsWith('#'));
  if (lines.length === 0) throw new MatrixProblem('The file is empty.');
  if (/[\0]/.test(text)) throw new MatrixProblem('This is not a text file: export the picture as CSV or TSV.');
  const { delimiter, decimalComma } = splitter(lines);
  const cellsOf = (line: string) => line.replace(/[;,\t]+$/, '').split(delimiter);
  const numberOf = (cell: string) => {
    const plain = cell.trim().replace(/^"(.*)"$/, '$1');
    if (MISSING.test(plain)) return NaN;
    return Number(decimalComma ? plain.replace(',', '.') : plain.replace('−', '-'));
  };
  const isText = (cell: string) => !MISSING.test(cell.trim()) && Number.isNaN(numberOf(cell));
  const first = cellsOf(lines[0]!.text);
  if (lines.length > 1 && first.some(isText)) lines.shift(); // a header of names or units
  const rows: number[][] = [];
  let columns = -1;
  const named = lines.length > 1 && lines.every((line) => isText(cellsOf(line.text)[0]!)); // a first column of names
  for (const { text: line, number } of lines) {
    const cells = named ? cellsOf(line).slice(1) : cellsOf(line);
    if (columns < 0) columns = cells.length;
    if (cells.length !== columns)
      throw new MatrixProblem(`Line ${number} has ${cells.length} values, the lines before it have ${columns}: the picture is ragged.`);
    if ((rows.length + 1) * columns > MOST_CELLS)
      throw new MatrixProblem(`The picture has more than ${MOST_CELLS} cells: export it at the camera's own size.`);
    rows.push(
      cells.map((cell, c) => {
        const value = numberOf(cell);
        if (isText(cell)) throw new MatrixProblem(`Line ${number}, column ${c + 1}: “${cell.trim().slice(0, 20)}” is not a temperature.`);
        const celsius = toCelsius(value, unit);
        if (celsius < -273.15) throw new MatrixProblem(`Line ${number}, column ${c + 1}: ${cell.trim()} lies below absolute zero.`);
        if (celsius > 1500)
          throw new MatrixProblem(`Line ${number}, column ${c + 1}: ${cell.trim()} is hotter than any bench. Which unit is it in?`);
        return celsius;
      }),
    );
  }
  if (columns < 2 || rows.length < 2) throw new MatrixProblem('A picture has at least two rows and two columns.');
  if (rows.every((row) => row.every(Number.isNaN))) throw new MatrixProblem('The picture holds no temperatures at all.');
  return rows;
}
