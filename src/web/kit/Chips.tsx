import { TagsInput } from '@chakra-ui/react';
import { Field, type FieldProps } from './Field.tsx';
import { useKitWords } from './words.ts';

/** Several words typed one after the other: Enter or a comma ends one. */
export function Chips({
  value,
  set,
  placeholder,
  ...field
}: FieldProps & { value: readonly string[]; set: (value: string[]) => void; placeholder?: string }) {
  const words = useKitWords();
  return (
    <Field {...field}>
      {({ id, ...props }) => (
        <TagsInput.Root
          value={[...value]}
          onValueChange={(d) => set(d.value)}
          ids={{ input: id }}
          delimiter=","
          addOnPaste
          blurBehavior="add"
        >
          <TagsInput.Control>
            <TagsInput.Context>
              {(tags) =>
                tags.value.map((tag, index) => (
                  <TagsInput.Item key={tag} index={index} value={tag}>
                    <TagsInput.ItemPreview>
                      <TagsInput.ItemText>{tag}</TagsInput.ItemText>
                      <TagsInput.ItemDeleteTrigger aria-label={words.remove(tag)}>
                        ×
                      </TagsInput.ItemDeleteTrigger>
                    </TagsInput.ItemPreview>
                    <TagsInput.ItemInput />
                  </TagsInput.Item>
                ))
              }
            </TagsInput.Context>
            <TagsInput.Input {...props} placeholder={placeholder} />
          </TagsInput.Control>
          <TagsInput.HiddenInput />
        </TagsInput.Root>
      )}
    </Field>
  );
}
