import { chakra } from '@chakra-ui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useRef } from 'react';
import { mailingsContract } from '#contract/mailings.ts';
import { type MailingTopic, mailingTopics } from '#core/messages/mailing.ts';
import { ApiProblem, call } from '#web/api.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, LongText, Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';

const topicWords: Record<MailingTopic, string> = {
  notice: 'something they take part in: needs no consent',
  newsletter: 'the newsletter: only who said yes',
  invitations: 'an invitation: everybody who did not say no',
  appeals: 'an appeal for money: only who said yes',
};

/** Writes to some contacts or to a segment: who gets it, who does not and why, is worked out while it is written. */
export function MailingForm({
  to,
  close,
}: {
  to: { ids: string[] } | { segmentId: string };
  close: () => void;
}) {
  const count = useRef(0);
  const form = useForm({
    values: {
      name: '',
      topic: 'notice' as MailingTopic,
      subject: '',
      body: 'Dear {{name}},\n\n\n\n{{organization}}',
    },
    request: (v) =>
      prepare(mailingsContract, 'POST /api/mailings', { body: { ...to, ...v, expect: count.current } }),
    draft: { name: `mailing ${'segmentId' in to ? to.segmentId : 'chosen'}`, keeping: 'device' },
    after: ({ planned, leftOut }) => {
      close();
      say(`It goes to ${planned}${leftOut ? `; ${leftOut} were left out` : ''}. See the Tray.`);
    },
  });
  const asked = useDeferredValue(form.values);
  const preview = useQuery({
    queryKey: ['mailing', JSON.stringify(to), asked.topic, asked.subject, asked.body],
    queryFn: () =>
      call('POST /api/mailings/preview', {
        body: { ...to, topic: asked.topic, subject: asked.subject, body: asked.body },
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
      title="Write to them"
      submit={p ? `Send it to ${p.planned} now` : 'Send it'}
      disabled={!p?.planned || Object.keys(unclear).length > 0}
    >
      <div className="pair">
        <Text form={form} name="name" label="Name for the team" required autoFocus />
        <Choose
          form={form}
          name="topic"
          label="What it is about"
          choices={mailingTopics.map((t) => ({ value: t, label: topicWords[t] }))}
        />
      </div>
      <Text form={form} name="subject" label="Subject" required consequence={unclear.subject} />
      <LongText
        form={form}
        name="body"
        label="Text"
        rows={7}
        required
        consequence={unclear.body}
        help="{{name}}, {{organization}} and {{own_link}}, the link to their own page, are filled in for each."
      />
      {p && (
        <div className="whogets" role="status">
          <p>
            <b className="num">{p.planned}</b> {p.planned === 1 ? 'copy goes' : 'copies go'} out at once.
          </p>
          {p.leftOut.map((l) => (
            <p key={l.why} className="soft">
              <span className="num">{l.people}</span> left out, {l.why}: {l.names.join(', ')}
              {l.people > l.names.length && ' …'}
            </p>
          ))}
          {p.sample && (form.values.subject || p.sample.body.trim()) && (
            <details>
              <summary>As {p.sample.name} gets it</summary>
              <p className="name">{p.sample.subject}</p>
              <chakra.p whiteSpace="pre-line">{p.sample.body}</chakra.p>
            </details>
          )}
        </div>
      )}
    </FormDialog>
  );
}
