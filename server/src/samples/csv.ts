/**
 * One cell, quoted where needed. A cell that a spreadsheet would take for a formula gets an apostrophe in front; plain
 * numbers, negative ones too, stay numbers.
 */
export function csvCell(value: string | number | null): string {
  if (value === null) return '';
  if (typeof value === 'number') return Number.isFinite(value) ? String(value) : '';
  // Blanks, line ends and invisible signs before it do not make a formula less of one, nor do full-width signs.
  const formula = /^[\s\p{C}]*[=+\-@|％＝＋－＠]/u.test(value) || /^[\t\r\n]/.test(value);
  const safe = formula && !/^-?\d+(\.\d+)?$/.test(value) ? `'${value}` : value;
  return /[",\r\n;]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe;
}

export function csvTable(header: string[], rows: (string | number | null)[][]): string {
  return [header, ...rows].map((row) => row.map(csvCell).join(',')).join('\r\n') + '\r\n';
}
