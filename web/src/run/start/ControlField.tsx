import type { LinkControl } from '@red-ember/contract';

/** A value for a control of the rig: one of its choices, or a number within its bounds. */
export function ControlField({
  control,
  value,
  onChange,
  id = 'control-value',
}: {
  control: LinkControl;
  value: string | number;
  onChange: (value: string | number) => void;
  id?: string;
}) {
  const bounds = control.choices ? '' : ` (${control.least} to ${control.most} ${control.unit})`;
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[0.87rem] text-soft">
        {control.label}
        {bounds}
      </label>
      {control.choices ? (
        <select id={id} className="field-box" value={value} onChange={(event) => onChange(event.target.value)}>
          {control.choices.map((choice) => (
            <option key={choice}>{choice}</option>
          ))}
        </select>
      ) : (
        <input
          id={id}
          type="number"
          className="field-box"
          min={control.least}
          max={control.most}
          value={value}
          onChange={(event) => onChange(event.target.value === '' ? '' : Number(event.target.value))}
        />
      )}
    </div>
  );
}
