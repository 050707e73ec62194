import { PassThrough, type Readable } from 'node:stream';

const AGAIN_MS = 2000;
/** A number that does not belong to a name: what a line of names has none of. */
const HAS_NUMBER = /(?:^|[\s,;|:=])[+-]?\d/;

/** Whole lines of what comes in pieces. The first may be the end of one: it is given on only where no number in it could be half of one. */
export function wholeLines(onLine: (line: string) => void): (piece: string) => void {
  let kept = '';
  let first = true;
  return (piece) => {
    const lines = (kept + piece).split('\n');
    kept = lines.pop()!;
    for (const line of lines) {
      if (!first || !HAS_NUMBER.test(line)) onLine(line);
      first = false;
    }
    // What never ends is no line of a logger.
    if (kept.length > LONGEST) [kept, first] = ['', true];
  };
}
const LONGEST = 65_536;

/**
 * What a logger on a serial line prints, in whole lines. Where the line is lost it is opened anew every two seconds; until then there are
 * no readings, and old ones are not repeated (`linesSource`).
 *
 * @param path as /dev/ttyUSB0
 * @throws Error where it cannot be opened at first
 */
export async function serialInput(
  path: string,
  baudRate: number,
  log: (text: string) => void = (text) => console.error(text),
): Promise<Readable> {
  // Loaded only where it is asked for: whoever has no such logger needs no driver of it.
  const { SerialPort } = await import('serialport');
  const lines = new PassThrough();
  const open = (): Promise<void> =>
    new Promise((resolve, reject) => {
      const port = new SerialPort({ path, baudRate, autoOpen: false });
      const take = wholeLines((line) => lines.write(`${line}\n`));
      port.setEncoding('utf8');
      port.on('data', (piece: string) => take(piece));
      port.on('error', (error: Error) => log(`${path}: ${error.message}.`));
      port.on('close', () => {
        log(`${path} is closed; it is opened anew as soon as it is there.`);
        again();
      });
      port.open((error) => (error ? reject(error) : resolve()));
    });
  const again = () => {
    setTimeout(() => {
      open().then(
        () => log(`${path} is open again.`),
        () => again(),
      );
    }, AGAIN_MS);
  };
  await open();
  return lines;
}
