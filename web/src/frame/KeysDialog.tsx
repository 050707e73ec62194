import { Dialogue } from '../ui/Dialogue.tsx';
import { Key } from '../ui/Key.tsx';
import { KEYMAP, USUAL_KEYS } from '../ui/keymap.ts';

const ALL: { shown: readonly string[]; what: string; group: string }[] = [...Object.values(KEYMAP), ...USUAL_KEYS];
const GROUPS = [...new Set(ALL.map((entry) => entry.group))].map((title) => ({
  title,
  keys: ALL.filter((entry) => entry.group === title),
}));

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialogue open={open} onClose={onClose} title="Keys" wide>
      <div className="grid gap-6 sm:grid-cols-2">
        {GROUPS.map((group) => (
          <section key={group.title} className="[&:nth-child(3)]:sm:col-span-2">
            <h3 className="mb-2 font-semibold">{group.title}</h3>
            <dl className="grid grid-cols-[repeat(auto-fill,minmax(14rem,1fr))] gap-2">
              {group.keys.map(({ shown, what }) => (
                <div key={what} className="flex items-baseline gap-3">
                  <dt className="flex min-w-12 gap-1">
                    {shown.map((key) => (
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
