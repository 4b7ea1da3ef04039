import { chakra } from '@chakra-ui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useRef } from 'react';
import { mailingsContract } from '#contract/mailings.ts';
import {
  type MailedOfEvent,
  type MailingTopic,
  mailedOfEvent,
  mailingTopics,
} from '#core/messages/mailing.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { ApiProblem, call } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, SeveralOf, Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { useAsk } from '../parts/ask.ts';
import { LetterFields } from '../parts/LetterFields.tsx';
import { useSaying } from '../parts/saying.ts';

const topicWords: Record<MailingTopic, string> = {
  notice: phrase('contacts.somethingTheyTakePart'),
  newsletter: phrase('contacts.theNewsletterOnlyWho'),
  invitations: phrase('contacts.anInvitationEverybodyWho'),
  appeals: phrase('contacts.anAppealForMoney'),
};

const whoWords: Record<MailedOfEvent, string> = {
  booked: phrase('contacts.whoBooked'),
  attendees: phrase('contacts.whoAttends'),
  waiting: phrase('contacts.whoWaits'),
  crew: phrase('contacts.whoHelps'),
  came: phrase('contacts.whoCame'),
  missed: phrase('contacts.whoMissed'),
  following: phrase('contacts.whoFollows'),
};

type To = { ids: string[] } | { segmentId: string } | { eventId: string };
interface Values {
  topic: MailingTopic;
  who: MailedOfEvent;
  without: string[];
  subject: string;
  preview: string;
  body: string;
}
/** What is written, and to whom. */
const saidBy = (to: To, { who, without, topic, subject, preview, body }: Values) => ({
  ...('eventId' in to ? { ofEvent: { eventId: to.eventId, who } } : to),
  without,
  topic,
  subject,
  preview,
  body,
});

/** Writes to some contacts, to a segment or to an event’s people: who gets it, who does not and why, is worked out while it is written. */
export function MailingForm({ to, close }: { to: To; close: () => void }) {
  const count = useRef(0);
  const { zone, at } = useSaying();
  const segments = useAsk('GET /api/segments').data ?? [];
  const named = 'segmentId' in to ? to.segmentId : 'eventId' in to ? to.eventId : 'chosen';
  const form = useForm({
    values: {
      name: '',
      topic: 'notice' as MailingTopic,
      who: 'attendees' as MailedOfEvent,
      without: [] as string[],
      when: '',
      subject: '',
      preview: '',
      body: 'Dear {{name}},\n\n\n\n{{organization}}',
    },
    request: (v) =>
      prepare(mailingsContract, 'POST /api/mailings', {
        body: {
          ...saidBy(to, v),
          name: v.name,
          ...(v.when && { at: instantOf(v.when.slice(0, 16), zone) }),
          expect: count.current,
        },
      }),
    draft: { name: `mailing ${named}`, keeping: 'device' },
    after: ({ planned, leftOut }) => {
      close();
      say(phrase(leftOut ? 'contacts.itGoesToBut' : 'contacts.itGoesToSee', { planned, leftOut }));
    },
  });
  const asked = useDeferredValue(form.values);
  const preview = useQuery({
    queryKey: ['mailing', JSON.stringify(saidBy(to, asked))],
    queryFn: () => call('POST /api/mailings/preview', { body: saidBy(to, asked) }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const unclear = preview.error instanceof ApiProblem ? preview.error.fields : {};
  const p = preview.data;
  count.current = p?.planned ?? 0;
  const later = form.values.when ? instantOf(form.values.when.slice(0, 16), zone) : null;
  return (
    <FormDialog
      form={form}
      wide
      close={close}
      title={phrase('common.writeToThem')}
      submit={
        !p
          ? phrase('contacts.sendIt')
          : later
            ? phrase('contacts.sendItToThen', { planned: p.planned, at: at(later) })
            : phrase('contacts.sendItToNow', { planned: p.planned })
      }
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
        {'eventId' in to && (
          <Choose
            form={form}
            name="who"
            label={phrase('contacts.whoOfTheEvent')}
            choices={mailedOfEvent.map((w) => ({ value: w, label: whoWords[w] }))}
          />
        )}
        <Text
          form={form}
          name="when"
          type="datetime-local"
          label={phrase('contacts.whenItGoes')}
          help={phrase('contacts.whenItGoesHelp')}
        />
        <Text
          form={form}
          name="preview"
          label={phrase('messages.previewLine')}
          help={phrase('messages.previewHelp')}
          consequence={unclear.preview}
        />
      </div>
      {segments.length > 0 && (
        <chakra.details marginBottom="12px" open={form.values.without.length > 0}>
          <chakra.summary cursor="pointer" color="verdigris">
            {phrase('contacts.butNot')}
          </chakra.summary>
          <SeveralOf
            form={form}
            name="without"
            label={phrase('contacts.butNot')}
            choices={segments.filter((g) => g.id !== named).map((g) => ({ value: g.id, label: g.name }))}
          />
        </chakra.details>
      )}
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
