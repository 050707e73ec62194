import { Upload } from 'lucide-react';
import { useState } from 'react';
import type { NewSurveyBody, Study } from '@red-ember/contract';
import { sentenceOf, useReadSurveyMutation } from '../data/api.ts';
import { Notice } from '../ui/Notice.tsx';

const UNITS: { value: NewSurveyBody['unit']; label: string }[] = [
  { value: 'C', label: '°C' },
  { value: 'F', label: '°F' },
  { value: 'K', label: 'K' },
];

/** Takes a picture as the camera exports it. A file that cannot be read is refused with its line; nothing is kept then. */
export function ReadPictureForm({ study, onRead }: { study: Study; onRead: (id: string) => void }) {
  const [unit, setUnit] = useState<NewSurveyBody['unit']>('C');
  const [face, setFace] = useState<NewSurveyBody['face']>('top');
  const [subjectId, setSubjectId] = useState(study.subjects[0]!.id);
  const [read, reading] = useReadSurveyMutation();
  const take = async (file: File | undefined) => {
    if (!file) return;
    const text = await file.text();
    const result = await read({ studyId: study.id, body: { name: file.name.replace(/\.\w+$/, ''), subjectId, face, unit, text } });
    if ('data' in result && result.data) onRead(result.data.id);
  };
  const select = <T extends string>(label: string, value: T, options: { value: T; label: string }[], onChange: (value: T) => void) => (
    <label className="text-[0.87rem] text-soft">
      {label}
      <select className="field-box mt-1 text-[1rem] text-ink" value={value} onChange={(event) => onChange(event.target.value as T)}>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <div>
      <div className="flex flex-wrap items-end gap-4">
        {study.subjects.length > 1
          ? select(
              'Of the part',
              subjectId,
              study.subjects.map((subject) => ({ value: subject.id, label: subject.name })),
              setSubjectId,
            )
          : null}
        {select(
          'Shows',
          face,
          [
            { value: 'top', label: 'the upper face' },
            { value: 'under', label: 'the underside' },
          ],
          setFace,
        )}
        {select('In', unit, UNITS, setUnit)}
        <label className="inline-flex cursor-pointer items-center gap-2 rounded-[2px] border border-ink px-3.5 py-1.5 has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-quench">
          <Upload size={16} aria-hidden /> {reading.isLoading ? 'Reading…' : 'Choose a picture file'}
          <input
            type="file"
            accept=".csv,.tsv,.txt,text/csv,text/plain"
            className="sr-only"
            onChange={(event) => {
              void take(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </label>
      </div>
      {reading.error ? <Notice tone="error">{sentenceOf(reading.error)}</Notice> : null}
    </div>
  );
}
