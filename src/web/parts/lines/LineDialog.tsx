import type { ReactNode } from 'react';
import type { Audience } from '#core/messages/audiences.ts';
import { fieldsOfLine, problemsInLine } from '#core/messages/merge.ts';
import { FormDialog } from '../../kit/form/FormDialog.tsx';
import type { Form } from '../../kit/form/useForm.ts';
import { phrase } from '../../words/phrase.ts';
import { MessageTexts, textsOf } from '../MessageTexts.tsx';
import { LineFields } from './LineFields.tsx';
import { type LineValues, lineFormOf } from './values.ts';

/** A line as it is written, whatever it is a line of: when it goes out and how, what it says, and how it is read. */
export function LineDialog<V extends LineValues>({
  form,
  line,
  audience,
  counted,
  preview,
  close,
  ...fields
}: {
  form: Form<V>;
  /** The line; a new one without it. */
  line: { name: string; frenchOf: string } | null;
  /** Whom it is for, by which it can say some things and not others. */
  audience: Audience;
  /** Who gets it. */
  counted?: ReactNode;
  /** How they read it. */
  preview: ReactNode;
  close: () => void;
} & Omit<Parameters<typeof LineFields>[0], 'form' | 'isNew'>) {
  return (
    <FormDialog
      form={form}
      wide
      title={line?.name ?? phrase('messages.newLine')}
      submit={phrase(line ? 'common.save' : 'messages.addIt')}
      close={close}
    >
      <LineFields form={lineFormOf(form)} isNew={!line} {...fields} />
      {counted}
      <MessageTexts
        form={textsOf(form)}
        frenchOf={line?.frenchOf ?? ''}
        fields={fieldsOfLine(audience)}
        problemsOf={(text) => problemsInLine(text, audience)}
        byText={form.values.channel === 'text message'}
      />
      {preview}
    </FormDialog>
  );
}
