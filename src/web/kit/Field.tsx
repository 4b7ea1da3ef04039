import { Field as ChakraField, Fieldset, Input, NativeSelect, Textarea } from '@chakra-ui/react';
import type { InputHTMLAttributes, ReactNode, Ref } from 'react';
import { useId } from 'react';
import { useKitWords } from './words.ts';

export interface FieldProps {
  label: string;
  help?: ReactNode;
  /** What the value means: "a Saturday, 23 days from now". */
  consequence?: ReactNode;
  error?: string | undefined;
  required?: boolean | undefined;
  /** Whether a heading above shows the label: it is read out, and not shown again. */
  headed?: boolean | undefined;
  /** The id of what is typed into, where somebody refers to it. */
  id?: string | undefined;
  /** Whether what stands there can be seen and not changed; the help says why. */
  disabled?: boolean | undefined;
}

/** What ties a control to its label, its help and what is wrong with it. */
export interface ControlProps {
  id: string;
  'aria-invalid': boolean;
  'aria-describedby': string;
  'aria-required'?: true;
}

/** Help, consequence and error of a field, under it. */
function More({
  id,
  help,
  consequence,
  error,
}: Pick<FieldProps, 'help' | 'consequence' | 'error'> & { id: string }) {
  return (
    <div id={id}>
      {error ? (
        <ChakraField.ErrorText>{error}</ChakraField.ErrorText>
      ) : (
        consequence && <ChakraField.HelperText>{consequence}</ChakraField.HelperText>
      )}
      {help && <ChakraField.HelperText>{help}</ChakraField.HelperText>}
    </div>
  );
}

/** A labelled field with its help, its consequence and what is wrong with it. */
export function Field({
  label,
  help,
  consequence,
  error,
  required = false,
  headed = false,
  disabled = false,
  id: given,
  children,
}: FieldProps & { children: (props: ControlProps) => ReactNode }) {
  const own = useId();
  const id = given ?? own;
  const words = useKitWords();
  return (
    <ChakraField.Root id={`${id}-field`} invalid={Boolean(error)} required={required} disabled={disabled}>
      <ChakraField.Label htmlFor={id} {...(headed && { srOnly: true })}>
        {label}
      </ChakraField.Label>
      <ChakraField.RequiredIndicator>{words.required}</ChakraField.RequiredIndicator>
      {children({
        id,
        'aria-invalid': Boolean(error),
        'aria-describedby': `${id}-more`,
        ...(required ? { 'aria-required': true } : {}),
      })}
      <More id={`${id}-more`} help={help} consequence={consequence} error={error} />
    </ChakraField.Root>
  );
}

/** Several controls under one heading. */
export function Group({
  label,
  help,
  error,
  required = false,
  headed = false,
  id,
  children,
}: Omit<FieldProps, 'consequence' | 'label'> & { label: ReactNode; children: ReactNode }) {
  const words = useKitWords();
  return (
    <Fieldset.Root invalid={Boolean(error)}>
      <Fieldset.Legend {...(headed && { srOnly: true })}>
        {label}
        {required && (
          <Fieldset.HelperText as="span" display="inline" marginInlineStart="6px" fontWeight={400}>
            {words.required}
          </Fieldset.HelperText>
        )}
      </Fieldset.Legend>
      <div id={id} tabIndex={id ? -1 : undefined} aria-invalid={Boolean(error)}>
        {children}
      </div>
      {error && <Fieldset.ErrorText>{error}</Fieldset.ErrorText>}
      {help && <Fieldset.HelperText>{help}</Fieldset.HelperText>}
    </Fieldset.Root>
  );
}

/** What a text field is for: which keyboard a phone shows, and what the browser may fill in. */
export type TextKind = Pick<
  InputHTMLAttributes<HTMLInputElement>,
  | 'type'
  | 'inputMode'
  | 'autoComplete'
  | 'placeholder'
  | 'list'
  | 'maxLength'
  | 'min'
  | 'max'
  | 'step'
  | 'readOnly'
>;

/** A one-line text field. */
export function TextField({
  value,
  set,
  onBlur,
  autoFocus,
  inputRef,
  type = 'text',
  inputMode,
  autoComplete,
  placeholder,
  list,
  maxLength,
  min,
  max,
  step,
  readOnly,
  ...field
}: FieldProps &
  TextKind & {
    value: string;
    set: (value: string) => void;
    onBlur?: (() => void) | undefined;
    autoFocus?: boolean;
    inputRef?: Ref<HTMLInputElement> | undefined;
  }) {
  const keyboard = inputMode ?? (type === 'email' ? 'email' : type === 'tel' ? 'tel' : undefined);
  return (
    <Field {...field}>
      {(props) => (
        <Input
          {...props}
          ref={inputRef}
          type={type}
          inputMode={keyboard}
          autoComplete={autoComplete}
          placeholder={placeholder}
          list={list}
          maxLength={maxLength}
          min={min}
          max={max}
          step={step}
          value={value}
          onBlur={onBlur}
          data-autofocus={autoFocus || undefined}
          onChange={(e) => set(e.target.value)}
        />
      )}
    </Field>
  );
}

/** A field for several lines of text. */
export function LongField({
  value,
  set,
  rows = 4,
  onBlur,
  placeholder,
  ...field
}: FieldProps & {
  value: string;
  set: (value: string) => void;
  rows?: number;
  onBlur?: () => void;
  placeholder?: string | undefined;
}) {
  return (
    <Field {...field}>
      {(props) => (
        <Textarea
          {...props}
          rows={rows}
          placeholder={placeholder}
          value={value}
          onBlur={onBlur}
          onChange={(e) => set(e.target.value)}
        />
      )}
    </Field>
  );
}

export interface Choice {
  value: string;
  label: string;
}

/** What a choice is made from, and what stands there while nothing is chosen. */
export function Options({ choices, empty }: { choices: readonly Choice[]; empty?: string | undefined }) {
  return (
    <>
      {empty !== undefined && <option value="">{empty}</option>}
      {choices.map((c) => (
        <option key={c.value} value={c.value}>
          {c.label}
        </option>
      ))}
    </>
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
  choices: readonly Choice[];
  empty?: string | undefined;
}) {
  return (
    <Field {...field}>
      {(props) => (
        <NativeSelect.Root>
          <NativeSelect.Field {...props} value={value} onChange={(e) => set(e.target.value)}>
            <Options choices={choices} empty={empty} />
          </NativeSelect.Field>
        </NativeSelect.Root>
      )}
    </Field>
  );
}
