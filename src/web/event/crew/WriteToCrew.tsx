import { chakra } from '@chakra-ui/react';
import { useEffect } from 'react';
import { crewMailContract } from '#contract/crewMail.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { LongText, SeveralOf, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Note } from '#web/kit/Note.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';

/** How long after the last key it is asked who would get it, in milliseconds. */
const pause = 500;

/** Writes to the crew of an event: each gets the words with their own shifts. Who gets it, and how it reads, stands there before it goes. */
export function WriteToCrew({
  eventId,
  roles,
  close,
}: {
  eventId: string;
  roles: readonly string[];
  close: () => void;
}) {
  const params = { id: eventId };
  const trying = useAction('POST /api/events/:id/crew/mail');
  const form = useForm({
    values: { subject: '', words: '', roles: [] as string[] },
    request: (v) => prepare(crewMailContract, 'POST /api/events/:id/crew/mail', { params, body: v }),
    draft: { name: `crew mail ${eventId}`, keeping: 'tab' },
    after: ({ to }) => {
      say(phrase('crew.mailGoes', { n: to }));
      close();
    },
  });
  const { subject, words, roles: chosen } = form.values;
  const { mutate } = trying;
  const of = chosen.join('\n');
  useEffect(() => {
    const later = setTimeout(
      () =>
        mutate({
          params: { id: eventId },
          body: {
            subject: subject.trim() || '…',
            words: words.trim() || '…',
            roles: of ? of.split('\n') : [],
            trying: true,
          },
        }),
      pause,
    );
    return () => clearTimeout(later);
  }, [eventId, subject, words, of, mutate]);
  const seen = trying.data;
  return (
    <FormDialog
      form={form}
      close={close}
      wide
      title={phrase('crew.mailTitle')}
      submit={seen ? phrase('crew.mailSend', { n: seen.to }) : phrase('crew.mailSendOne')}
      disabled={seen?.to === 0}
    >
      <SeveralOf
        form={form}
        name="roles"
        label={phrase('crew.mailRoles')}
        choices={roles.map((value) => ({ value, label: value }))}
      />
      <Text form={form} name="subject" label={phrase('crew.mailSubject')} required />
      <LongText form={form} name="words" label={phrase('crew.mailWords')} rows={6} required />
      {seen && (
        <>
          <p className="soft num" role="status">
            {phrase('crew.mailTo', { n: seen.to })}
          </p>
          {seen.without.length > 0 && (
            <Note tone="need">
              <p>{phrase('crew.mailWithout')}</p>
              <ul className="lines">
                {seen.without.map((x) => (
                  <li key={x.name}>
                    {x.name} <small className="soft">{x.why}</small>
                  </li>
                ))}
              </ul>
            </Note>
          )}
          {seen.example && (
            <section aria-label={phrase('crew.mailReads', { name: seen.example.name })}>
              <h3>{phrase('crew.mailReads', { name: seen.example.name })}</h3>
              <chakra.p fontWeight={600}>{seen.example.subject}</chakra.p>
              <chakra.p whiteSpace="pre-line" margin="6px 0">
                {seen.example.body}
              </chakra.p>
            </section>
          )}
        </>
      )}
    </FormDialog>
  );
}
