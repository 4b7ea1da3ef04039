import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useRef } from 'react';
import { mailingsContract } from '#contract/mailings.ts';
import { type MailingTopic, mailingTopics } from '#core/messages/mailing.ts';
import { ApiProblem, call } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { LetterFields } from '../parts/LetterFields.tsx';

const topicWords: Record<MailingTopic, string> = {
  notice: phrase('contacts.somethingTheyTakePart'),
  newsletter: phrase('contacts.theNewsletterOnlyWho'),
  invitations: phrase('contacts.anInvitationEverybodyWho'),
  appeals: phrase('contacts.anAppealForMoney'),
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
      say(phrase(leftOut ? 'contacts.itGoesToBut' : 'contacts.itGoesToSee', { planned, leftOut }));
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
      title={phrase('common.writeToThem')}
      submit={p ? phrase('contacts.sendItToNow', { planned: p.planned }) : phrase('contacts.sendIt')}
      disabled={!p?.planned || Object.keys(unclear).length > 0}
    >
      <div className="pair">
        <Text form={form} name="name" label={phrase('contacts.nameForTheTeam')} required autoFocus />
        <Choose
          form={form}
          name="topic"
          label={phrase('contacts.whatItIsAbout')}
          choices={mailingTopics.map((t) => ({ value: t, label: topicWords[t] }))}
        />
      </div>
      <LetterFields
        form={form}
        unclear={unclear}
        gets={p}
        help={phrase('contacts.filledInForEach', {
          name: '{{name}}',
          organization: '{{organization}}',
          ownLink: '{{own_link}}',
        })}
      />
    </FormDialog>
  );
}
