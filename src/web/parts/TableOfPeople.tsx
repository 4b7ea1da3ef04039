import { chakra } from '@chakra-ui/react';
import type { FieldPathByValue, FieldValues } from 'react-hook-form';
import { LongText } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { Note } from '#web/kit/Note.tsx';
import { phrase } from '#web/words/phrase.ts';

/** A table of people, pasted or from a file. */
export function TableOfPeople<V extends FieldValues>({
  form,
  name,
  put,
}: {
  form: Form<V>;
  name: FieldPathByValue<V, string>;
  put: (table: string) => void;
}) {
  return (
    <>
      <LongText
        form={form}
        name={name}
        label={phrase('offers.guestTable')}
        rows={8}
        required
        help={phrase('offers.guestTableHelp')}
      />
      <chakra.p margin="4px 0 10px">
        <label>
          {phrase('offers.orAFile')}{' '}
          <input
            type="file"
            accept=".csv,.txt,.tsv,text/csv"
            onChange={(e) => {
              void e.target.files?.[0]?.text().then(put);
            }}
          />
        </label>
      </chakra.p>
    </>
  );
}

/** Rows that name nobody, or cannot be, each with why. */
export function Rejected({ rows }: { rows: readonly { line: number; why: string }[] }) {
  if (!rows.length) return null;
  return (
    <Note tone="need">
      {rows.map((r) => (
        <p key={r.line}>{phrase('offers.rowRejected', { line: r.line, why: r.why })}</p>
      ))}
    </Note>
  );
}
