import { FileUpload } from '@chakra-ui/react';
import { useState } from 'react';
import { fileEndings } from '#core/files/kinds.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import { isDetail } from '#core/questions/details.ts';
import type { Question } from '#core/questions/question.ts';
import { Button } from '#web/kit/Button.tsx';
import { OneOf, SeveralOf, Tick } from '#web/kit/Choosing.tsx';
import { ChoiceField, Group, LongField, TextField } from '#web/kit/Field.tsx';

/** What a form says around its questions, in the language of its reader. */
export interface QuestionWords {
  choose: string;
  yes: string;
  no: string;
  chooseFile: string;
  remove: string;
}

/** A question in its reader's words. */
export type AskedQuestion = Pick<Question, 'kind' | 'required' | 'choices' | 'keeps'> & {
  label: string;
  help: string;
};

/** What a browser may fill in of a detail. */
const fills: Readonly<Record<string, string>> = {
  phone: 'tel',
  street: 'street-address',
  postalCode: 'postal-code',
  birthDate: 'bday',
};

/** One question, in the form its kind needs; undefined is not answered. */
export function QuestionControl({
  question,
  value,
  set,
  onBlur,
  id,
  error,
  words,
  upload,
}: {
  question: AskedQuestion;
  value: AnswerValue | undefined;
  set: (value: AnswerValue | undefined) => void;
  onBlur?: () => void;
  id?: string;
  error?: string | undefined;
  words: QuestionWords;
  /** Brings a file in and answers what it is known by; none where nothing is brought in. */
  upload?: (file: File) => Promise<{ id: string; name: string }>;
}) {
  const { kind, label, help, required } = question;
  const field = { label, help, required, error, ...(id !== undefined && { id }) };
  const choices = question.choices.map((c) => ({ value: c, label: c }));
  const text = typeof value === 'string' ? value : '';
  const more = onBlur && { onBlur };
  switch (kind) {
    case 'yes or no':
      return (
        <OneOf
          {...field}
          value={typeof value === 'boolean' ? String(value) : null}
          set={(v) => set(v === 'true')}
          choices={[
            { value: 'true', label: words.yes },
            { value: 'false', label: words.no },
          ]}
        />
      );
    case 'consent':
      return (
        <Group label={label} headed help={help} error={error}>
          <Tick {...(id !== undefined && { id })} checked={value === true} set={(on) => set(on || undefined)}>
            {label}
          </Tick>
        </Group>
      );
    case 'several of':
      return <SeveralOf {...field} value={Array.isArray(value) ? value : []} set={set} choices={choices} />;
    case 'one of':
      return choices.length <= 4 ? (
        <OneOf {...field} value={text || null} set={set} choices={choices} />
      ) : (
        <ChoiceField {...field} value={text} set={set} choices={choices} empty={words.choose} />
      );
    case 'long text':
      return <LongField {...field} {...more} value={text} set={set} rows={3} />;
    case 'file':
      return <FileAnswer field={field} value={text} set={set} words={words} upload={upload} />;
    default:
      return (
        <TextField
          {...field}
          {...more}
          value={text}
          set={set}
          {...(kind === 'date' && { type: 'date' })}
          {...(kind === 'number' && { inputMode: 'decimal' as const })}
          {...(question.keeps === 'phone' && { type: 'tel' })}
          {...(isDetail(question.keeps) && fills[question.keeps] && { autoComplete: fills[question.keeps] })}
        />
      );
  }
}

/** A file as an answer: chosen and brought in at once, shown by its name, taken away again. */
export function FileAnswer({
  field: { id, ...field },
  value,
  set,
  words,
  upload,
  called = '',
}: {
  /** What one that was brought before is called. */
  called?: string;
  field: { label: string; help: string; required: boolean; error?: string | undefined; id?: string };
  value: string;
  set: (value: AnswerValue | undefined) => void;
  words: Pick<QuestionWords, 'chooseFile' | 'remove'>;
  upload: ((file: File) => Promise<{ id: string; name: string }>) | undefined;
}) {
  const [name, setName] = useState('');
  const [unread, setUnread] = useState('');
  const [busy, setBusy] = useState(false);
  return (
    <Group {...field} {...(id !== undefined && { id })} error={field.error ?? (unread || undefined)}>
      {value ? (
        <>
          {name || called || '✓'}{' '}
          <Button
            look="plain"
            onClick={() => {
              setName('');
              set(undefined);
            }}
          >
            {words.remove}
          </Button>
        </>
      ) : (
        <FileUpload.Root
          accept={fileEndings.map((e) => `.${e}`)}
          maxFiles={1}
          width="auto"
          onFileAccept={({ files: [file] }) => {
            if (!file || !upload) return;
            setUnread('');
            setBusy(true);
            upload(file)
              .then(
                (kept) => {
                  setName(kept.name);
                  set(kept.id);
                },
                (problem: Error) => setUnread(problem.message),
              )
              .finally(() => setBusy(false));
          }}
        >
          <FileUpload.HiddenInput aria-label={field.label} />
          <FileUpload.Trigger asChild>
            <Button disabled={busy || !upload}>{words.chooseFile}</Button>
          </FileUpload.Trigger>
        </FileUpload.Root>
      )}
    </Group>
  );
}
