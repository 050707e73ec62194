import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { LogsStudyBody } from '@red-ember/contract';
import { sentenceOf, useStudyOfLogsMutation } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { ImportProgress } from './ImportProgress.tsx';
import type { Asked } from './MakeBar.tsx';

/** Makes a study of the logs that lie there, and goes on to the page that reads it. @param made what was put right is forgotten then */
export function useMakeStudy(asked: Asked, made: () => void) {
  const navigate = useNavigate();
  const [send, making] = useStudyOfLogsMutation();
  const [job, setJob] = useState('');
  const make = async (together: LogsStudyBody, acceptOddTemperatures = false) => {
    const id = crypto.randomUUID();
    setJob(id);
    const body = {
      ...together,
      acceptOddTemperatures,
      ...(asked.into ? { addTo: asked.into } : {}),
      ...(asked.title.trim() ? { title: asked.title.trim() } : {}),
    };
    const result = await send({ body, job: id });
    if (!('data' in result) || !result.data) return;
    made();
    const { study } = result.data;
    // Several things changed at once are read by their effects; anything else two by two.
    const page = study.factors.length > 1 && !asked.into ? 'judge/factors' : study.variants.length > 1 ? 'judge' : 'read';
    void navigate(`/studies/${study.id}/${page}`);
  };
  return { make, making, job };
}

/** How far it is, or why it was refused; what looks like °F may be °C all the same. */
export function Making({ making, job, onAccept }: { making: { isLoading: boolean; error?: unknown }; job: string; onAccept: () => void }) {
  const sentence = making.error === undefined ? '' : sentenceOf(making.error);
  const asksUnits = /°F\?/.test(sentence);
  return (
    <>
      {making.isLoading ? <ImportProgress key={job} job={job} /> : null}
      {sentence ? (
        <Notice tone="error" action={asksUnits ? <Button onClick={onAccept}>It is °C, make it</Button> : undefined}>
          {sentence}
        </Notice>
      ) : null}
    </>
  );
}
