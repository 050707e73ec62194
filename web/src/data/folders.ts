/** A file as it was dropped within a folder, or taken out of a zip. */
interface Placed extends File {
  readonly relativePath?: string;
}

/** A file that lay at a path, such as `stock/m1/a.csv`, within what was dropped. */
export const placed = (file: File, path: string): File => Object.defineProperty(file, 'relativePath', { value: path, configurable: true });

/** The folders a file lay in, from the outermost, as `stock/m1`; empty where it was dropped by itself. */
export function folderOf(file: Placed): string {
  const path = file.relativePath || file.webkitRelativePath || '';
  return path
    .split(/[/\\]/)
    .slice(0, -1)
    .filter((part) => part !== '' && part !== '.' && part !== '..')
    .join('/');
}
