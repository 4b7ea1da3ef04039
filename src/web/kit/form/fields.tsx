import type { ReactNode } from 'react';
import { useEffect } from 'react';
import { type FieldPath, type FieldPathByValue, type FieldValues, useController } from 'react-hook-form';
import { type Currency, readAmount } from '#core/money/amount.ts';
import { Chips as PlainChips } from '../Chips.tsx';
import { OneOf as PlainOneOf, SeveralOf as PlainSeveralOf, Tick as PlainTick } from '../Choosing.tsx';
import { type Choice, ChoiceField, type FieldProps, LongField, TextField, type TextKind } from '../Field.tsx';
import type { Form } from './useForm.ts';

type Of<V extends FieldValues, T> = { form: Form<V>; name: FieldPathByValue<V, T> };
type Shown = Omit<FieldProps, 'error' | 'id'>;

/** Ties a field to the form it stands in: its value, what is wrong with it, and how it is called in the summary. */
export function useBound<V extends FieldValues>(form: Form<V>, name: FieldPath<V>, label: string) {
  const { field, fieldState } = useController({ control: form.hook.control, name });
  const { named } = form;
  useEffect(() => {
    named(name, label);
  });
  return {
    id: form.idOf(name),
    value: field.value as unknown,
    set: field.onChange as (value: unknown) => void,
    onBlur: field.onBlur,
    error: fieldState.error?.message,
  };
}

/** A line of text. */
export function Text<V extends FieldValues>({
  form,
  name,
  autoFocus = false,
  ...field
}: Of<V, string> & Shown & TextKind & { autoFocus?: boolean }) {
  const { value, ...bound } = useBound(form, name, field.label);
  return <TextField {...field} {...bound} value={(value as string) ?? ''} autoFocus={autoFocus} />;
}

/** Several lines of text. */
export function LongText<V extends FieldValues>({
  form,
  name,
  ...field
}: Of<V, string> & Shown & { rows?: number; placeholder?: string }) {
  const { value, ...bound } = useBound(form, name, field.label);
  return <LongField {...field} {...bound} value={(value as string) ?? ''} />;
}

/** A number of things or people, kept as it is typed. */
export function Count<V extends FieldValues>(props: Of<V, string> & Shown & { placeholder?: string }) {
  return <Text {...props} inputMode="numeric" />;
}

/** An amount of money, kept as it is typed. What it means in the currency is said under it where it reads differently. */
export function Money<V extends FieldValues>({
  form,
  name,
  currency,
  sayAmount,
  consequence,
  ...field
}: Of<V, string> & Shown & { currency: Currency; sayAmount: (amount: number) => string }) {
  const { value, ...bound } = useBound(form, name, field.label);
  const text = (value as string) ?? '';
  const amount = text.trim() ? readAmount(text, currency) : null;
  return (
    <TextField
      {...field}
      {...bound}
      value={text}
      inputMode="decimal"
      consequence={consequence ?? (amount === null ? undefined : sayAmount(amount))}
    />
  );
}

/** A calendar date (2026-08-08), or empty. */
export function DateField<V extends FieldValues>(
  props: Of<V, string> & Shown & Pick<TextKind, 'min' | 'max' | 'autoComplete'>,
) {
  return <Text {...props} type="date" />;
}

/** A wall time (09:00), or empty. */
export function TimeField<V extends FieldValues>(props: Of<V, string> & Shown) {
  return <Text {...props} type="time" />;
}

/** A line of text of which some are suggested; others can be typed. */
export function SuggestedText<V extends FieldValues>({
  suggestions,
  ...props
}: Of<V, string> & Shown & { suggestions: readonly string[] }) {
  const list = `${props.form.idOf(props.name)}-suggested`;
  return (
    <>
      <datalist id={list}>
        {suggestions.map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
      <Text {...props} list={list} />
    </>
  );
}

/** A zone of the time zone database, found by what is typed of it. */
export function ZoneField<V extends FieldValues>(props: Of<V, string> & Shown) {
  return <SuggestedText {...props} suggestions={Intl.supportedValuesOf('timeZone')} />;
}

/** One of a list. */
export function Choose<V extends FieldValues>({
  form,
  name,
  ...field
}: Of<V, string> & Shown & { choices: readonly Choice[]; empty?: string }) {
  const { value, onBlur: _, ...bound } = useBound(form, name, field.label);
  return <ChoiceField {...field} {...bound} value={(value as string) ?? ''} />;
}

/** One of a few, all of them seen. */
export function OneOf<V extends FieldValues>({
  form,
  name,
  ...field
}: Of<V, string> & Omit<Shown, 'consequence'> & { choices: readonly Choice[] }) {
  const { value, onBlur: _, ...bound } = useBound(form, name, field.label);
  return <PlainOneOf {...field} {...bound} value={(value as string) || null} />;
}

/** Several of a few. */
export function SeveralOf<V extends FieldValues>({
  form,
  name,
  ...field
}: Of<V, string[]> & Omit<Shown, 'consequence'> & { choices: readonly Choice[] }) {
  const { value, onBlur: _, ...bound } = useBound(form, name, field.label);
  return <PlainSeveralOf {...field} {...bound} value={(value as string[]) ?? []} />;
}

/** Words typed one after the other. */
export function Chips<V extends FieldValues>({
  form,
  name,
  ...field
}: Of<V, string[]> & Shown & { placeholder?: string }) {
  const { value, onBlur: _, ...bound } = useBound(form, name, field.label);
  return <PlainChips {...field} {...bound} value={(value as string[]) ?? []} />;
}

/** Something that is so or not. */
export function Tick<V extends FieldValues>({
  form,
  name,
  label,
  children,
}: Of<V, boolean> & { label: string; children?: ReactNode }) {
  const { value, id, set, error } = useBound(form, name, label);
  return (
    <PlainTick id={id} checked={Boolean(value)} set={set} error={error}>
      {children ?? label}
    </PlainTick>
  );
}
