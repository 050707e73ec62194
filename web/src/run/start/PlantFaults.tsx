import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { Dialogue } from '../../ui/Dialogue.tsx';

interface Fault {
  key: string;
  label: string;
}

/** Faults to learn on: chosen by name, or drawn so that even the tester does not know. */
export function PlantFaults({ faults, chosen, onChange }: { faults: Fault[]; chosen: string[]; onChange: (keys: string[]) => void }) {
  const [open, setOpen] = useState(false);
  const [surprise, setSurprise] = useState(false);
  const draw = () => {
    onChange([faults[Math.floor(Math.random() * faults.length)]!.key]);
    setSurprise(true);
    setOpen(false);
  };
  const words =
    chosen.length === 0 ? 'none' : surprise ? 'one, which the run tells at its end' : faults.filter(({ key }) => chosen.includes(key)).map(({ label }) => label).join('; '); // prettier-ignore
  return (
    <p className="text-[0.93rem]">
      <span className="text-soft">Planted fault:</span> {words}{' '}
      <button type="button" className="underline underline-offset-4" onClick={() => setOpen(true)}>
        Plant a fault to learn on
      </button>
      <Dialogue open={open} onClose={() => setOpen(false)} title="What goes wrong on the simulated bench?">
        <p className="mb-3 text-soft">
          Where, when and how badly is drawn from the run’s seed. It is written down with the run, and such a run should not be used.
        </p>
        <div className="grid gap-1.5">
          {faults.map(({ key, label }) => (
            <label key={key} className="flex items-baseline gap-2">
              <input
                type="checkbox"
                checked={!surprise && chosen.includes(key)}
                onChange={(event) => {
                  const kept = surprise ? [] : chosen;
                  setSurprise(false);
                  onChange(event.target.checked ? [...kept, key] : kept.filter((other) => other !== key));
                }}
              />
              {label}
            </label>
          ))}
        </div>
        <p className="mt-5 flex flex-wrap gap-3">
          <Button look="strong" onClick={() => setOpen(false)}>
            Done
          </Button>
          <Button onClick={draw}>Surprise me</Button>
          <Button
            look="quiet"
            onClick={() => {
              setSurprise(false);
              onChange([]);
              setOpen(false);
            }}
          >
            None
          </Button>
        </p>
      </Dialogue>
    </p>
  );
}
