import { asFileName } from '@red-ember/core';

/** Hands a text to the browser as a file to keep; what a file name may not hold is left out of it. */
export function saveFile(text: string, { name, ending, type }: { name: string; ending: string; type: string }) {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = `${asFileName(name, 'untitled')}.${ending}`;
  link.click();
  URL.revokeObjectURL(link.href);
}
