/** Files that were dropped on the shelf, on their way to the page of logs: a file cannot be part of an address. */
let handed: File[] = [];

export function handOver(files: readonly File[]): void {
  handed = [...handed, ...files];
}

/** What was dropped and has not been taken yet; afterwards there is nothing. */
export function takeOver(): File[] {
  const files = handed;
  handed = [];
  return files;
}
