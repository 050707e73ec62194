import { asFileName } from '@red-ember/core';

/** Hands a text, or bytes, to the browser as a file to keep; what a file name may not hold is left out of it. */
export function saveFile(
  content: string | Uint8Array<ArrayBuffer>,
  { name, ending, type }: { name: string; ending: string; type: string },
) {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([content], { type }));
  link.download = `${asFileName(name, 'untitled')}.${ending}`;
  link.click();
  URL.revokeObjectURL(link.href);
}
