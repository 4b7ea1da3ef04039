import { Checkbox, chakra, RadioGroup, SimpleGrid, Switch } from '@chakra-ui/react';
import { type ReactNode, useId } from 'react';
import { type Choice, type FieldProps, Group } from './Field.tsx';

interface TickProps {
  checked: boolean;
  set: (checked: boolean) => void;
  children: ReactNode;
  disabled?: boolean;
  id?: string | undefined;
  error?: string | undefined;
  name?: string;
}

/** Something that is so or not, with its words beside it. */
export function Tick({ checked, set, children, disabled = false, id, error, name }: TickProps) {
  return (
    <>
      <Checkbox.Root
        checked={checked}
        disabled={disabled}
        invalid={Boolean(error)}
        onCheckedChange={(d) => set(d.checked === true)}
        {...(id ? { ids: { hiddenInput: id } } : {})}
        {...(name ? { name } : {})}
      >
        <Checkbox.HiddenInput />
        <Checkbox.Control>
          <Checkbox.Indicator />
        </Checkbox.Control>
        <Checkbox.Label>{children}</Checkbox.Label>
      </Checkbox.Root>
      {error && (
        <chakra.div fontSize="13.5px" color="madder" marginTop="3px">
          {error}
        </chakra.div>
      )}
    </>
  );
}

/**
 * A tick of a row in a table. The browser's own mark with our look: a table has hundreds of them, and each of the other
 * kind is a small machine.
 */
export const RowTick = chakra(
  'input',
  {
    base: {
      width: '14px',
      height: '14px',
      margin: 0,
      verticalAlign: 'middle',
      accentColor: 'verdigris',
      flex: 'none',
    },
  },
  { defaultProps: { type: 'checkbox' } },
);

/** Something that is on or off at once, without being saved. */
export function Toggle({ checked, set, children, disabled = false }: Omit<TickProps, 'error'>) {
  return (
    <Switch.Root checked={checked} disabled={disabled} onCheckedChange={(d) => set(d.checked)}>
      <Switch.HiddenInput />
      <Switch.Control>
        <Switch.Thumb />
      </Switch.Control>
      <Switch.Label>{children}</Switch.Label>
    </Switch.Root>
  );
}

/** Whether two choices are short enough to stand beside one another. */
const twoBeside = (choices: readonly Choice[]): boolean => choices.every((c) => c.label.length <= 8);

/** One of a few, all of them seen. */
export function OneOf({
  value,
  set,
  choices,
  id,
  ...group
}: Omit<FieldProps, 'consequence'> & {
  value: string | null;
  set: (value: string) => void;
  choices: readonly Choice[];
}) {
  const key = useId();
  // Values may have blanks in them, and ids are told apart by blanks.
  const at = (value: string) => `${key}${choices.findIndex((c) => c.value === value)}`;
  return (
    <Group {...group} id={id}>
      <RadioGroup.Root
        ids={{
          item: (v) => `${at(v)}-item`,
          itemLabel: (v) => `${at(v)}-words`,
          itemControl: (v) => `${at(v)}-mark`,
          itemHiddenInput: (v) => `${at(v)}-input`,
        }}
        value={value}
        onValueChange={(d) => d.value && set(d.value)}
        aria-label={group.label}
        {...(choices.length === 2 && twoBeside(choices) && { display: 'flex', gap: '22px' })}
      >
        {choices.map((c) => (
          <RadioGroup.Item key={c.value} value={c.value}>
            <RadioGroup.ItemHiddenInput />
            <RadioGroup.ItemControl />
            <RadioGroup.ItemText>{c.label}</RadioGroup.ItemText>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </Group>
  );
}

/** Several of a few. */
export function SeveralOf({
  value,
  set,
  choices,
  id,
  ...group
}: Omit<FieldProps, 'consequence'> & {
  value: readonly string[];
  set: (value: string[]) => void;
  choices: readonly Choice[];
}) {
  return (
    <Group {...group} id={id}>
      {/* A long list stands beside itself where there is room, so that what follows is not far below. */}
      <SimpleGrid minChildWidth={choices.length > 6 ? '200px' : '100%'} columnGap="16px">
        {choices.map((c) => (
          <Tick
            key={c.value}
            checked={value.includes(c.value)}
            set={(on) => set(on ? [...value, c.value] : value.filter((v) => v !== c.value))}
          >
            {c.label}
          </Tick>
        ))}
      </SimpleGrid>
    </Group>
  );
}
