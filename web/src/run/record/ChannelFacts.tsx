import type { ReadAs } from '@red-ember/core';
import { CHANNELS, RECORDED_ROLES, isTemperature, roleWords, type ChannelFactBody, type Run, type Study } from '@red-ember/contract';
import { ChoiceField } from '../../ui/Field.tsx';

interface Choice<T extends string = string> {
  value: T;
  label: string;
}

const TEMPERATURES: Choice<ReadAs>[] = [
  { value: 'as-is', label: '°C, as they are' },
  { value: 'fahrenheit', label: '°F, taken for °C' },
  { value: 'celsius', label: '°C, taken for °F' },
  { value: 'kelvin', label: 'K, taken for °C' },
  { value: 'thousandth', label: 'thousandths' },
];
const OTHERS: Choice<ReadAs>[] = [
  { value: 'as-is', label: 'as they are' },
  { value: 'thousandth', label: 'thousandths: mW, taken for W' },
  { value: 'thousandfold', label: 'thousands: GHz, taken for MHz' },
  { value: 'hundredfold', label: 'shares of 1, taken for %' },
];

/** What a run's recorded channels are said to read, in the shape in which it is put right. */
export const factsOf = (run: Run): ChannelFactBody[] =>
  run.channels.flatMap(({ key, role, spotId, readAs }) => (role === 'hand' ? [] : [{ key, role, spotId, readAs }]));

/** A column of a log by its place in it, as a tester counts. */
const named = (key: string): string => key.replace(/^column-(\d+)$/, (_, index: string) => `column ${Number(index) + 1}`);

/** What each channel of a run was read from, and in which unit its numbers are. */
export function ChannelFacts({
  study,
  facts,
  onChange,
}: {
  study: Study;
  facts: ChannelFactBody[];
  onChange: (facts: ChannelFactBody[]) => void;
}) {
  const set = (i: number, part: Partial<ChannelFactBody>) => onChange(facts.map((fact, k) => (k === i ? { ...fact, ...part } : fact)));
  const places: Choice[] = [
    ...study.spots.filter((spot) => !spot.byHand).map(({ id, name }) => ({ value: `spot ${id}`, label: name })),
    ...RECORDED_ROLES.map((role) => ({ value: role, label: roleWords(role, study.family) })),
    { value: 'beside', label: 'kept beside, nothing rests on it' },
  ];
  return (
    <table className="plain-table" aria-label="What the channels read">
      <thead>
        <tr>
          <th>Channel</th>
          <th>was read from</th>
          <th>its numbers are</th>
        </tr>
      </thead>
      <tbody>
        {facts.map(({ key, role, spotId, readAs }, i) => (
          <tr key={key}>
            <td className="whitespace-nowrap font-semibold">{named(key)}</td>
            <td>
              <ChoiceField
                label={`${named(key)} was read from`}
                hideLabel
                pointer={`/channels/${i}/role`}
                value={role === 'spot' ? `spot ${spotId}` : role}
                options={places}
                onChange={(place) =>
                  set(
                    i,
                    place.startsWith('spot ')
                      ? { role: 'spot', spotId: place.slice(5) }
                      : { role: place as keyof typeof CHANNELS | 'beside', spotId: null },
                  )
                }
              />
            </td>
            <td>
              <ChoiceField
                label={`Numbers of ${named(key)} are`}
                hideLabel
                pointer={`/channels/${i}/readAs`}
                value={readAs}
                options={isTemperature(role) ? TEMPERATURES : OTHERS}
                onChange={(how) => set(i, { readAs: how })}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
