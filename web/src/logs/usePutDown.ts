import { useCallback, useEffect, useRef, useState } from 'react';
import { api, sentenceOf, usePutLogDownMutation } from '../data/api.ts';
import { useAppDispatch } from '../data/store.ts';
import { takeOver } from './handed.ts';
import { unpack } from './unpack.ts';

/** Files after each of which the table is shown anew; of more, after every so many. */
const FEW = 12;

/** How far a drop of files has come. */
interface PuttingDown {
  /** Files that were looked at, and all of them; null where nothing is going on. */
  done: number;
  of: number;
  name: string;
}

/** Puts files down on the server one after the other, and tells how far it has come and what was refused. */
export function usePutDown() {
  const dispatch = useAppDispatch();
  const [putDown] = usePutLogDownMutation();
  const [going, setGoing] = useState<PuttingDown | null>(null);
  const [refused, setRefused] = useState<string[]>([]);
  const stop = useRef(false);
  const take = useCallback(
    async (dropped: readonly File[]) => {
      if (dropped.length === 0) return;
      stop.current = false;
      setRefused([]);
      setGoing({ done: 0, of: dropped.length, name: dropped[0]!.name });
      const { files, refused: left } = await unpack(dropped);
      setRefused(left);
      for (const [done, file] of files.entries()) {
        if (stop.current) break;
        setGoing({ done, of: files.length, name: file.name });
        const result = await putDown({ file, job: crypto.randomUUID() });
        if (result.error) setRefused((before) => [...before, sentenceOf(result.error)]);
        // The table of many is not asked for anew with every one of them.
        if (done < FEW || done % FEW === 0) dispatch(api.util.invalidateTags(['Logs']));
      }
      dispatch(api.util.invalidateTags(['Logs']));
      setGoing(null);
    },
    [putDown, dispatch],
  );
  useEffect(() => {
    // After the page is there: files that were dropped on the shelf are read like any others.
    const timer = setTimeout(() => void take(takeOver()));
    return () => {
      clearTimeout(timer);
      stop.current = true;
    };
  }, [take]);
  const cancel = () => {
    stop.current = true;
  };
  return { take, going, refused, cancel, clear: () => setRefused([]) };
}
