import type { FieldPathByValue, FieldValues } from 'react-hook-form';
import { phrase } from '#web/words/phrase.ts';
import { Text } from '../kit/form/fields.tsx';
import type { Form } from '../kit/form/useForm.ts';

/** A password that is chosen. */
export function NewPassword<V extends FieldValues>({
  label,
  ...of
}: {
  form: Form<V>;
  name: FieldPathByValue<V, string>;
  label: string;
}) {
  return (
    <Text
      {...of}
      label={label}
      type="password"
      autoComplete="new-password"
      required
      help={phrase('common.atLeast10Characters')}
    />
  );
}
