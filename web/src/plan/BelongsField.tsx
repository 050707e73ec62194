import type { FittedPartBody, StudyBody } from '@red-ember/contract';
import { ChoiceField } from '../ui/Field.tsx';

type Belonging = Pick<FittedPartBody, 'level' | 'variantId'>;

/** What a part or a step belongs to: every variant, a level, or one variant. */
export function BelongsField({
  body,
  label,
  pointer,
  value,
  onChange,
  hideLabel = false,
}: {
  body: StudyBody;
  label: string;
  pointer: string;
  value: Belonging;
  onChange: (value: Belonging) => void;
  hideLabel?: boolean;
}) {
  const choices: { value: string; label: string; to: Belonging }[] = [
    { value: '', label: 'every variant', to: { level: null, variantId: null } },
    ...body.factors.flatMap(({ name, levels }) =>
      levels.map((level) => ({
        value: JSON.stringify([name, level]),
        label: `${name}: ${level}`,
        to: { level: { factor: name, level }, variantId: null },
      })),
    ),
    ...body.variants.map(({ id, name }) => ({ value: id, label: `only ${name}`, to: { level: null, variantId: id } })),
  ];
  const now = value.variantId ?? (value.level ? JSON.stringify([value.level.factor, value.level.level]) : '');
  return (
    <ChoiceField
      label={label}
      hideLabel={hideLabel}
      pointer={pointer}
      value={now}
      options={choices.map(({ value: key, label: text }) => ({ value: key, label: text }))}
      onChange={(key) => onChange(choices.find((choice) => choice.value === key)!.to)}
    />
  );
}
