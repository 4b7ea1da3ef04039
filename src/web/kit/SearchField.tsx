import { Combobox, chakra, createListCollection } from '@chakra-ui/react';
import { useMemo } from 'react';
import { Field, type FieldProps } from './Field.tsx';
import { useKitWords } from './words.ts';

/** One of what was found: how it is known, and what tells it from others of its name. */
export interface Found {
  value: string;
  label: string;
  hint?: string | undefined;
}

/** Finds one of many while its name is typed. Whoever uses it looks for what was typed and hands in what was found. */
export function SearchField({
  typed,
  type,
  found,
  searching = false,
  pick,
  placeholder,
  autoFocus,
  free = false,
  ...field
}: FieldProps & {
  typed: string;
  type: (text: string) => void;
  found: readonly Found[];
  searching?: boolean;
  pick: (item: Found) => void;
  placeholder?: string;
  autoFocus?: boolean;
  /** What was typed stands, picked or not. */
  free?: boolean;
}) {
  const words = useKitWords();
  const collection = useMemo(
    () =>
      createListCollection({ items: [...found], itemToString: (f) => f.label, itemToValue: (f) => f.value }),
    [found],
  );
  return (
    <Field {...field}>
      {({ id, ...props }) => (
        <Combobox.Root
          collection={collection}
          inputValue={typed}
          onInputValueChange={(d) => d.reason === 'input-change' && type(d.inputValue)}
          onValueChange={(d) => d.items[0] && pick(d.items[0])}
          value={[]}
          selectionBehavior="preserve"
          openOnClick={false}
          inputBehavior={free ? 'none' : 'autohighlight'}
          allowCustomValue={free}
          ids={{ input: id }}
          positioning={{ sameWidth: true }}
        >
          {/* Not elsewhere in the page: a dialog hides what stands outside it. */}
          <Combobox.Control>
            <Combobox.Input {...props} placeholder={placeholder} data-autofocus={autoFocus || undefined} />
          </Combobox.Control>
          <Combobox.Positioner>
            <Combobox.Content>
              {typed && !found.length && !free && (
                <Combobox.Empty>{searching ? words.loading : words.nothingFound}</Combobox.Empty>
              )}
              {collection.items.map((item) => (
                <Combobox.Item key={item.value} item={item}>
                  <Combobox.ItemText>{item.label}</Combobox.ItemText>
                  {item.hint && (
                    <chakra.span color="soft" fontSize="small">
                      {item.hint}
                    </chakra.span>
                  )}
                </Combobox.Item>
              ))}
            </Combobox.Content>
          </Combobox.Positioner>
        </Combobox.Root>
      )}
    </Field>
  );
}
