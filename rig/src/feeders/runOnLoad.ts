import { spawn } from 'node:child_process';

/**
 * Applies a load by a command of the tester's own: it is run each time the wanted load changes, with the percentage in the
 * environment variable RED_EMBER_LOAD. A change waits for the command before it, so that they never overtake each other; only the
 * newest waits.
 */
export function runOnLoad(command: string, log: (text: string) => void = (text) => console.error(text)): (percent: number) => void {
  let running = false;
  let wanted: number | null = null;
  const next = () => {
    if (running || wanted === null) return;
    const percent = wanted;
    wanted = null;
    running = true;
    const done = (problem: string | null) => {
      running = false;
      if (problem) log(`The load command ${problem} at ${percent} %.`);
      next();
    };
    const child = spawn(command, { shell: true, stdio: 'inherit', env: { ...process.env, RED_EMBER_LOAD: String(percent) } });
    child.once('error', (error) => done(`could not be run (${error.message})`));
    child.once('exit', (code) => done(code === 0 ? null : `ended with ${code ?? 'a signal'}`));
  };
  return (percent) => {
    wanted = percent;
    next();
  };
}
