import { useEffect, useState, type ReactNode } from 'react';
import { duration } from '@red-ember/core';

/** Before so much is done nobody can say how long it takes, share. */
const TOLD_FROM = 0.05;

/** Milliseconds since something began, kept up to date. */
export function useWaited(): number {
  const [startedAt] = useState(() => Date.now());
  const [now, setNow] = useState(startedAt);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 400);
    return () => clearInterval(timer);
  }, []);
  return now - startedAt;
}

/** How far something has come, in a bar and in words, with the time that is left. */
export function Progress({
  label,
  share,
  waitedMs,
  words,
  children,
}: {
  label: string;
  share: number;
  waitedMs: number;
  words: string;
  children?: ReactNode;
}) {
  const leftS = share > TOLD_FROM ? ((waitedMs / 1000) * (1 - share)) / share : null;
  return (
    <div className="my-4 flex items-center gap-4" role="status">
      <progress
        className="h-2.5 w-64 appearance-none border border-stone bg-paper [&::-moz-progress-bar]:bg-ember [&::-webkit-progress-bar]:bg-paper [&::-webkit-progress-value]:bg-ember"
        max={1}
        value={share}
        aria-label={label}
      />
      <span className="text-[0.93rem]">
        {words}
        {leftS === null ? '' : `, about ${duration(leftS)} left`}
      </span>
      {children}
    </div>
  );
}
