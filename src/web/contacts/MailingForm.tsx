import { chakra } from '@chakra-ui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { type MailingTopic, mailingTopics } from '#core/messages/mailing.ts';
import { ApiProblem, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { ChoiceField, Field, TextField } from '../kit/Field.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';

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
  const [form, setForm] = useState({
    name: '',
    topic: 'notice' as MailingTopic,
    subject: '',
    body: 'Dear {{name}},\n\n\n\n{{organization}}',
  });
  const asked = useDeferredValue(form);
  const preview = useQuery({
    queryKey: ['mailing', JSON.stringify(to), asked.topic, asked.subject, asked.body],
    queryFn: () =>
      call('POST /api/mailings/preview', {
        body: { ...to, topic: asked.topic, subject: asked.subject, body: asked.body },
      }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const send = useAction('POST /api/mailings', ({ planned, leftOut }) => {
    close();
    say(`It goes to ${planned}${leftOut ? `; ${leftOut} were left out` : ''}. See the Tray.`);
  });
  const unclear = preview.error instanceof ApiProblem ? preview.error : null;
  const wrong = { ...unclear?.fields, ...send.problem?.fields };
  const set = (part: Partial<typeof form>) => setForm({ ...form, ...part });
  const p = preview.data;
  return (
    <Asking
      open
      wide
      close={close}
      title="Write to them"
      actions={
        <Button
          look="main"
          disabled={send.isPending || !p?.planned || Boolean(unclear)}
          onClick={() => send.mutate({ body: { ...to, ...form, expect: p?.planned ?? 0 } })}
        >
          {p ? `Send it to ${p.planned} now` : 'Send it'}
        </Button>
      }
    >
      <Problems of={send.problem} />
      <div className="pair">
        <TextField
          label="Name for the team"
          value={form.name}
          set={(name) => set({ name })}
          error={wrong.name}
          autoFocus
        />
        <ChoiceField
          label="What it is about"
          value={form.topic}
          set={(topic) => set({ topic: topic as MailingTopic })}
          choices={mailingTopics.map((t) => ({ value: t, label: topicWords[t] }))}
        />
      </div>
      <TextField
        label="Subject"
        value={form.subject}
        set={(subject) => set({ subject })}
        error={wrong.subject}
      />
      <Field
        label="Text"
        error={wrong.body}
        help="{{name}}, {{organization}} and {{own_link}}, the link to their own page, are filled in for each."
      >
        {(props) => (
          <textarea {...props} rows={7} value={form.body} onChange={(e) => set({ body: e.target.value })} />
        )}
      </Field>
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
          {p.sample && (form.subject || p.sample.body.trim()) && (
            <details>
              <summary>As {p.sample.name} gets it</summary>
              <p className="name">{p.sample.subject}</p>
              <chakra.p whiteSpace="pre-line">{p.sample.body}</chakra.p>
            </details>
          )}
        </div>
      )}
    </Asking>
  );
}
