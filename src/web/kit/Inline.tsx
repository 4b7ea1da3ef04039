import { Input, type InputProps, NativeSelect } from '@chakra-ui/react';
import { type Choice, Options } from './Field.tsx';

/** What stands within a line or a row of tools: its label is read out, the line says the rest. */
interface InlineProps {
  label: string;
  value: string;
  set: (value: string) => void;
}

/** A choice within a line. */
export function InlineChoice({
  label,
  value,
  set,
  choices,
  empty,
  look = 'normal',
  disabled,
  maxWidth,
}: InlineProps & {
  choices: readonly Choice[];
  /** What stands there while nothing is chosen. */
  empty?: string | undefined;
  /** `cell` in a table, `quiet` where it does not matter, `asks` where somebody has to choose. */
  look?: 'normal' | 'cell' | 'quiet' | 'asks';
  disabled?: boolean | undefined;
  maxWidth?: string;
}) {
  return (
    <NativeSelect.Root width="auto" maxWidth={maxWidth} display="inline-block" disabled={disabled}>
      <NativeSelect.Field
        aria-label={label}
        value={value}
        onChange={(e) => set(e.target.value)}
        {...(look !== 'normal' && { padding: '2px 4px', fontSize: 'small', minHeight: 'auto' })}
        {...(look === 'quiet' && { color: 'soft', borderColor: 'line' })}
        {...(look === 'asks' && { color: 'ochre', borderColor: 'ochre', fontWeight: 500 })}
      >
        <Options choices={choices} empty={empty} />
      </NativeSelect.Field>
    </NativeSelect.Root>
  );
}

/** Text within a line. */
export function InlineText({
  label,
  value,
  set,
  width = '180px',
  ...more
}: InlineProps & Omit<InputProps, 'value' | 'onChange' | 'size'>) {
  return (
    <Input aria-label={label} width={width} value={value} onChange={(e) => set(e.target.value)} {...more} />
  );
}
