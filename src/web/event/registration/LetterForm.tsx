import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useRef } from 'react';
import { seatsContract } from '#contract/seats.ts';
import { ApiProblem, call } from '#web/api.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { LetterFields } from '#web/parts/LetterFields.tsx';
import { phrase } from '#web/words/phrase.ts';
import type { WithSeats } from './chosen.ts';

/** Writes to those on some seats: who gets it, who does not and why, is worked out while it is written. */
export function LetterForm({ seatIds, page, close, done }: WithSeats) {
  const count = useRef(0);
  const params = { id: page.id };
  const form = useForm({
    values: { subject: '', body: 'Hello {{name}},\n\n\n\n{{organization}}' },
    request: (v) =>
      prepare(seatsContract, 'POST /api/events/:id/letters', {
        params,
        body: { seatIds: [...seatIds], ...v, expect: count.current },
      }),
    draft: { name: `letter ${page.id}`, keeping: 'device' },
    after: ({ planned }) => {
      say(phrase('seats.sent', { n: planned }));
      done();
    },
  });
  const asked = useDeferredValue(form.values);
  const preview = useQuery({
    queryKey: ['letter', page.id, seatIds.join(), asked.subject, asked.body],
    queryFn: () =>
      call('POST /api/events/:id/letters/preview', {
        params,
        body: { seatIds: [...seatIds], subject: asked.subject, body: asked.body },
      }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const unclear = preview.error instanceof ApiProblem ? preview.error.fields : {};
  const p = preview.data;
  count.current = p?.planned ?? 0;
  return (
    <FormDialog
      form={form}
      wide
      close={close}
      title={phrase('seats.letterTitle', { n: seatIds.length })}
      submit={p ? phrase('seats.sendLetters', { n: p.planned }) : phrase('seats.send')}
      disabled={!p?.planned || Object.keys(unclear).length > 0}
    >
      <LetterFields
        form={form}
        unclear={unclear}
        gets={p}
        autoFocus
        help={phrase('seats.letterHelp', {
          name: '{{name}}',
          event: '{{event}}',
          when: '{{when}}',
          place: '{{place}}',
          link: '{{manage_link}}',
          organization: '{{organization}}',
        })}
      />
    </FormDialog>
  );
}
