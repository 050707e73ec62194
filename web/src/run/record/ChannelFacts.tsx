import type { ReadAs } from '@red-ember/core';
import {
  channelWords,
  isTemperature,
  READ_AS_WORDS,
  RECORDED_ROLES,
  roleWords,
  type ChannelFactBody,
  type Run,
  type Study,
} from '@red-ember/contract';
import { ChoiceField } from '../../ui/Field.tsx';

interface Choice {
  value: string;
  label: string;
}

const TEMPERATURES: ReadAs[] = ['as-is', 'fahrenheit', 'celsius', 'kelvin', 'thousandth'];
const OTHERS: ReadAs[] = ['as-is', 'thousandth', 'thousandfold', 'hundredfold'];

/** What a run's recorded channels are said to read, in the shape in which it is put right. */
export const factsOf = (run: Run): ChannelFactBody[] =>
  run.channels.flatMap(({ key, role, spotId, readAs }) => (role === 'hand' ? [] : [{ key, role, spotId, readAs }]));

/** What each channel of a run was read from, and in which unit its numbers are. */
export function ChannelFacts({
  study,
  channels,
  facts,
  onChange,
}: {
  study: Study;
  channels: Run['channels'];
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
        {facts.map(({ key, role, spotId, readAs }, i) => {
          const called = channelWords(channels.find((channel) => channel.key === key) ?? { key });
          return (
            <tr key={key}>
              <td className="whitespace-nowrap font-semibold">{called}</td>
              <td>
                <ChoiceField
                  label={`${called} was read from`}
                  hideLabel
                  pointer={`/channels/${i}/role`}
                  value={role === 'spot' ? `spot ${spotId}` : role}
                  options={places}
                  onChange={(place) => {
                    const to: ChannelFactBody['role'] = place.startsWith('spot ') ? 'spot' : (place as ChannelFactBody['role']);
                    // What a temperature can be taken for, a power cannot.
                    const kept = isTemperature(to) === isTemperature(role) ? readAs : 'as-is';
                    set(i, { role: to, spotId: to === 'spot' ? place.slice(5) : null, readAs: kept });
                  }}
                />
              </td>
              <td>
                <ChoiceField
                  label={`Numbers of ${called} are`}
                  hideLabel
                  pointer={`/channels/${i}/readAs`}
                  value={readAs}
                  options={(isTemperature(role) ? TEMPERATURES : OTHERS).map((how) => ({ value: how, label: READ_AS_WORDS[how] }))}
                  onChange={(how) => set(i, { readAs: how })}
                />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
