import { fixed } from '@red-ember/core';
import { useTesterRecordQuery } from '../data/api.ts';
import { Note } from '../frame/Margin.tsx';

/** How often the tester's predictions came true, over all studies, and how far off they were. */
export function TesterRecordNote() {
  const { data } = useTesterRecordQuery();
  if (!data) return null;
  const { right, missed, open, meanErrorK, biasK } = data.record;
  const told = right + missed;
  if (told === 0)
    return <Note>{open > 0 ? 'None of your predictions could be told yet.' : 'No prediction has been scored yet, in any study.'}</Note>;
  return (
    <Note lead={`${right} of ${told} predictions right.`}>
      Off by {fixed(meanErrorK!, 1)} K on average
      {Math.abs(biasK!) > 0.5 ? `; parts come out ${biasK! > 0 ? 'warmer' : 'cooler'} than you expect` : ''}
      {open > 0 ? `. ${open} more cannot be told yet.` : '.'}
    </Note>
  );
}
