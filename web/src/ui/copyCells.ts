/** Cells as a spreadsheet takes them from the clipboard: a line a row, tabs between; a cell that holds either is quoted. */
export function cellsAsText(rows: readonly (readonly unknown[])[]): string {
  const cell = (value: unknown) => {
    const text = value === null || value === undefined ? '' : typeof value === 'string' ? value : JSON.stringify(value);
    return /[\t\n\r"]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  };
  return rows.map((row) => row.map(cell).join('\t')).join('\n');
}
