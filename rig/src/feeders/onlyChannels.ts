import { unitOfColumn, withoutUnit, type ColumnUnit } from '@red-ember/contract';
import { inUnit, kindOfUnit } from './printed.ts';
import type { FeedLine, LineReader } from './lines.ts';

interface Chosen {
  key: string;
  from: string;
  unit: ColumnUnit | null;
}

/** @throws Error where one is not "channel=reading" */
function parse(spec: string): Chosen {
  const [, name = '', from = ''] = /^([^=]+)=(.+)$/.exec(spec) ?? [];
  if (name.trim() === '' || from.trim() === '') throw new Error(`“${spec}” is no channel: write channel=reading, as room=board/temp2.`);
  return { key: withoutUnit(name.trim()), from: from.trim(), unit: unitOfColumn(name.trim(), '', []) };
}

/**
 * Of a feed only some readings, by names of the tester's own: "room=board/temp2", "pump [rpm]=board/fan2". A unit behind the name or in
 * brackets says what the reading is given in, where its line does not.
 *
 * @throws Error where one of them cannot be read, or two are of one name
 */
export function onlyChannels(
  reader: LineReader,
  specs: readonly string[],
  log: (text: string) => void = (text) => console.error(text),
): LineReader {
  if (specs.length === 0) return reader;
  const all = specs.map(parse);
  const twice = all.find(({ key }, i) => all.findIndex((other) => other.key === key) < i);
  if (twice) throw new Error(`Two channels are called ${twice.key}.`);
  let looked = false;
  return {
    read(text) {
      const line = reader.read(text);
      if (line === null || typeof line === 'string') return line;
      const missing = all.filter(({ from }) => !Object.hasOwn(line, from));
      if (!looked && missing.length > 0)
        log(`There is no ${missing.map(({ from }) => from).join(', no ')}; there are ${Object.keys(line).join(', ')}.`);
      looked = true;
      if (missing.length === all.length) return 'without a reading that was chosen';
      const picked: FeedLine = {};
      for (const { key, from, unit } of all) {
        const value = line[from] ?? null;
        picked[key] = value === null || reader.converted(from) ? value : inUnit(value, unit);
      }
      return picked;
    },
    kindOf(key) {
      const one = all.find((each) => each.key === key);
      return one ? (kindOfUnit(one.unit) ?? reader.kindOf(one.from)) : null;
    },
    // They are in it by now, whoever took them there.
    converted: () => true,
  };
}
