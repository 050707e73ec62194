import { Dialogue } from '../ui/Dialogue.tsx';
import { Key } from '../ui/Key.tsx';

const GROUPS: { title: string; keys: [string[], string][] }[] = [
  {
    title: 'Everywhere',
    keys: [
      [['?'], 'These keys'],
      [['Tab'], 'Next field or button'],
      [['Esc'], 'Close what is open'],
    ],
  },
  {
    title: 'While writing',
    keys: [
      [['Ctrl', 'S'], 'Save the study'],
      [['Ctrl', 'Z'], 'Undo the last change'],
      [['Ctrl', 'Shift', 'Z'], 'Do it again'],
    ],
  },
  {
    title: 'While a run goes on',
    keys: [
      [['M'], 'Mark this moment'],
      [['C'], 'Change something, or write down a change'],
      [['H'], 'Type hand readings'],
      [['N'], 'End this phase, or go on after a pause'],
      [['P'], 'Pause: take the load off'],
      [['E'], 'Ten minutes more for this phase'],
      [['A'], 'Arm’s length view, and back'],
      [['S'], 'Stop the load (asks first)'],
    ],
  },
];

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialogue open={open} onClose={onClose} title="Keys">
      <div className="grid gap-6 sm:grid-cols-2">
        {GROUPS.map((group) => (
          <section key={group.title}>
            <h3 className="mb-2 font-semibold">{group.title}</h3>
            <dl className="grid gap-2">
              {group.keys.map(([keys, what]) => (
                <div key={what} className="flex items-baseline gap-3">
                  <dt className="flex min-w-24 gap-1">
                    {keys.map((key) => (
                      <Key key={key}>{key}</Key>
                    ))}
                  </dt>
                  <dd>{what}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialogue>
  );
}
