import { Field as ChakraField, chakra } from '@chakra-ui/react';
import { type ReactNode, useId } from 'react';

export interface FieldProps {
  label: string;
  help?: ReactNode;
  /** What the value means: "a Saturday, 23 days from now". */
  consequence?: ReactNode;
  error?: string | undefined;
}

/** A labelled field with its help, its consequence and what is wrong with it. */
export function Field({
  label,
  help,
  consequence,
  error,
  children,
}: FieldProps & {
  children: (props: { id: string; 'aria-invalid': boolean; 'aria-describedby': string }) => ReactNode;
}) {
  const id = useId();
  return (
    <ChakraField.Root id={`${id}-field`} invalid={Boolean(error)}>
      <ChakraField.Label htmlFor={id}>{label}</ChakraField.Label>
      {children({ id, 'aria-invalid': Boolean(error), 'aria-describedby': `${id}-more` })}
      <div id={`${id}-more`}>
        {error ? (
          <ChakraField.ErrorText>{error}</ChakraField.ErrorText>
        ) : (
          consequence && <ChakraField.HelperText>{consequence}</ChakraField.HelperText>
        )}
        {help && <ChakraField.HelperText>{help}</ChakraField.HelperText>}
      </div>
    </ChakraField.Root>
  );
}

/** A one-line text field. */
export function TextField({
  value,
  set,
  type = 'text',
  placeholder,
  onBlur,
  autoFocus,
  list,
  ...field
}: FieldProps & {
  value: string;
  set: (value: string) => void;
  type?: string;
  /** Id of a datalist of what may be meant. */
  list?: string | undefined;
  placeholder?: string;
  onBlur?: () => void;
  autoFocus?: boolean;
}) {
  return (
    <Field {...field}>
      {(props) => (
        <chakra.input
          {...props}
          type={type}
          list={list}
          value={value}
          placeholder={placeholder}
          onBlur={onBlur}
          data-autofocus={autoFocus || undefined}
          onChange={(e) => set(e.target.value)}
        />
      )}
    </Field>
  );
}

/** A choice from a list. */
export function ChoiceField({
  value,
  set,
  choices,
  empty,
  ...field
}: FieldProps & {
  value: string;
  set: (value: string) => void;
  choices: readonly { value: string; label: string }[];
  empty?: string;
}) {
  return (
    <Field {...field}>
      {(props) => (
        <select {...props} value={value} onChange={(e) => set(e.target.value)}>
          {empty !== undefined && <option value="">{empty}</option>}
          {choices.map((c) => (
            <option key={c.value} value={c.value}>
              {c.label}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}
