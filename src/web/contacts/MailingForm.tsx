import { chakra } from '@chakra-ui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { mailingsContract } from '#contract/mailings.ts';
import {
  fieldsOfMailing,
  type MailedOfEvent,
  type MailingTopic,
  mailedOfEvent,
  mailingTopics,
  problemsInMailing,
} from '#core/messages/mailing.ts';
import { sayLongDate } from '#core/time/say.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { ApiProblem, call } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { ChoiceField } from '../kit/Field.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, SeveralOf, Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { type Form, useForm } from '../kit/form/useForm.ts';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAsk } from '../parts/ask.ts';
import { keptTexts, MessageTexts, type TextValues, textsOf, typedTexts } from '../parts/MessageTexts.tsx';
import { useSaying } from '../parts/saying.ts';
import { topicWords } from '../parts/topicWords.ts';
import { WhoGets } from '../parts/WhoGets.tsx';

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
interface Values extends TextValues {
  topic: MailingTopic;
  who: MailedOfEvent;
  without: string[];
  /** The event to which it calls those who have no seat; empty without one. */
  withoutSeatOf: string;
}
/** What is written, and to whom. */
const saidBy = (to: To, v: Values) => ({
  ...('eventId' in to ? { ofEvent: { eventId: to.eventId, who: v.who } } : to),
  without: v.without,
  ...(v.withoutSeatOf && { withoutSeatOf: v.withoutSeatOf }),
  topic: v.topic,
  said: keptTexts(v),
});

const firstText: TextValues = {
  subject: { en: '', fr: '' },
  preview: { en: '', fr: '' },
  body: { en: 'Dear {{name}},\n\n\n\n{{organization}}', fr: '' },
  formatted: { en: null, fr: null },
  frenchFits: false,
};

/** Writes to some contacts, to a segment or to an event’s people: who gets it, who does not and why, is worked out while it is written. */
export function MailingForm({ to, close }: { to: To; close: () => void }) {
  const count = useRef(0);
  const { zone, at } = useSaying();
  const segments = useAsk('GET /api/segments').data ?? [];
  const events = useAsk('GET /api/events').data ?? [];
  const open = events.filter((e) => e.state === 'open' && !e.isTemplate);
  const named = 'segmentId' in to ? to.segmentId : 'eventId' in to ? to.eventId : 'chosen';
  const form = useForm({
    values: {
      name: '',
      topic: 'notice' as MailingTopic,
      who: 'attendees' as MailedOfEvent,
      without: [] as string[],
      withoutSeatOf: '',
      when: '',
      ...firstText,
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
    fieldOf: (path) => path.replace(/^said\./u, ''),
    draft: { name: `mailing to ${named}`, keeping: 'device' },
    after: ({ planned, leftOut }) => {
      close();
      say(phrase(leftOut ? 'contacts.itGoesToBut' : 'contacts.itGoesToSee', { planned, leftOut }));
    },
  });
  const { values } = form;
  // Whoever is called to an event is invited.
  const called = useRef('');
  useEffect(() => {
    if (values.withoutSeatOf === called.current) return;
    called.current = values.withoutSeatOf;
    if (values.withoutSeatOf && values.topic === 'notice') form.set({ topic: 'invitations' });
  });
  const aboutEvent = 'eventId' in to || values.withoutSeatOf !== '';
  const asked = useDeferredValue(values);
  const preview = useQuery({
    queryKey: ['mailing', JSON.stringify(saidBy(to, asked))],
    queryFn: () => call('POST /api/mailings/preview', { body: saidBy(to, asked) }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const unclear = preview.error instanceof ApiProblem ? preview.error : null;
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
      disabled={!p?.planned || unclear !== null}
    >
      <div className="pair">
        <Text form={form} name="name" label={phrase('contacts.nameForTheTeam')} required autoFocus />
        <Choose
          form={form}
          name="topic"
          label={phrase('contacts.whatItIsAbout')}
          choices={mailingTopics.map((t) => ({ value: t, label: topicWords[t] }))}
        />
        {'eventId' in to ? (
          <Choose
            form={form}
            name="who"
            label={phrase('contacts.whoOfTheEvent')}
            choices={mailedOfEvent.map((w) => ({ value: w, label: whoWords[w] }))}
          />
        ) : (
          open.length > 0 && (
            <Choose
              form={form}
              name="withoutSeatOf"
              label={phrase('contacts.onlyWithoutSeat')}
              choices={[
                { value: '', label: phrase('contacts.allOfThem') },
                ...open.map((e) => ({
                  value: e.id,
                  label: [e.title, e.startsLocal && sayLongDate(e.startsLocal)].filter(Boolean).join(', '),
                })),
              ]}
            />
          )
        )}
        <Text
          form={form}
          name="when"
          type="datetime-local"
          label={phrase('contacts.whenItGoes')}
          help={phrase('contacts.whenItGoesHelp')}
        />
      </div>
      {segments.length > 0 && (
        <chakra.details marginBottom="12px" open={values.without.length > 0}>
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
      <EarlierWords form={textsOf(form)} />
      <MessageTexts
        form={textsOf(form)}
        frenchOf=""
        fields={fieldsOfMailing(aboutEvent)}
        problemsOf={(text) => problemsInMailing(text, aboutEvent)}
      />
      {unclear && !Object.keys(unclear.fields).length && <p className="late">{unclear.message}</p>}
      {p && <WhoGets {...p} />}
    </FormDialog>
  );
}

/** Takes the words of a mailing that was written before; what stood there can be had back. */
function EarlierWords({ form }: { form: Form<TextValues> }) {
  const mailings = useAsk('GET /api/mailings').data ?? [];
  const [chosen, choose] = useState('');
  const [before, setBefore] = useState<{ words: TextValues; of: string } | null>(null);
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  if (!mailings.length) return null;
  const take = async (id: string) => {
    const { subject, preview, body, formatted, frenchFits } = form.values;
    try {
      const { name, said } = await call('GET /api/mailings/:id', { params: { id } });
      setProblem(null);
      choose('');
      form.set(typedTexts(said));
      // What is said beside the dialog is not heard while it is open: the way back stands in it.
      setBefore({ words: { subject, preview, body, formatted, frenchFits }, of: name });
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      setProblem(error);
    }
  };
  return (
    <>
      <Problems of={problem} />
      <ChoiceField
        label={phrase('contacts.earlierWords')}
        value={chosen}
        set={choose}
        choices={[
          { value: '', label: phrase('contacts.ownWords') },
          ...mailings.map((m) => ({ value: m.id, label: m.name })),
        ]}
      />
      {chosen && <Button onClick={() => void take(chosen)}>{phrase('contacts.takeWords')}</Button>}
      {before && !chosen && (
        <p className="soft" role="status">
          {phrase('contacts.wordsTaken', { name: before.of })}{' '}
          <Button
            look="link"
            color="verdigris"
            onClick={() => {
              form.set(before.words);
              setBefore(null);
            }}
          >
            {phrase('contacts.wordsBack')}
          </Button>
        </p>
      )}
    </>
  );
}
