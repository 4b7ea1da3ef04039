import type { FieldPathByValue, FieldValues } from 'react-hook-form';
import type { WhoGets as Gets } from '#contract/mailings.ts';
import { LongText, Text } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { phrase } from '#web/words/phrase.ts';
import { WhoGets } from './WhoGets.tsx';

/** Subject and text of what is written to several, and beneath who gets it. */
export function LetterFields<V extends FieldValues & { subject: string; body: string }>({
  form,
  help,
  unclear,
  gets,
  autoFocus = false,
}: {
  form: Form<V>;
  /** What stands for something else in the text. */
  help: string;
  /** What of them cannot be filled in, by field. */
  unclear: Readonly<Record<string, string>>;
  gets: Gets | undefined;
  autoFocus?: boolean;
}) {
  const at = (field: 'subject' | 'body') => field as FieldPathByValue<V, string>;
  return (
    <>
      <Text
        form={form}
        name={at('subject')}
        label={phrase('common.subject')}
        required
        autoFocus={autoFocus}
        consequence={unclear.subject}
      />
      <LongText
        form={form}
        name={at('body')}
        label={phrase('contacts.text')}
        rows={8}
        required
        consequence={unclear.body}
        help={help}
      />
      {gets && <WhoGets {...gets} />}
    </>
  );
}
