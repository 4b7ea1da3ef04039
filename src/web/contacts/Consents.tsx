import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import {
  type ConsentChannel,
  type ConsentTopic,
  consentChannels,
  consentTopics,
} from '#core/contacts/consent.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { say } from '../kit/toast.tsx';
import { useAction, useMayChangeContacts } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** What somebody said about each topic, by which channel, to whom and when. */
export function Consents({ contact }: { contact: ContactRecord }) {
  const [topic, setTopic] = useState<ConsentTopic>('newsletter');
  const [channel, setChannel] = useState<ConsentChannel>('email');
  const { dayAndYear } = useSaying();
  const may = useMayChangeContacts();
  const write = useAction('POST /api/contacts/:id/consents', () => say(phrase('contacts.writtenDown')));
  const put = (granted: boolean) =>
    write.mutate({ params: { id: contact.id }, body: { topic, channel, granted } });
  return (
    <chakra.details fontSize="14px" margin="10px 0">
      <chakra.summary cursor="pointer">
        {phrase('contacts.consent')}{' '}
        <span className="soft">
          {contact.consents.length === 0
            ? phrase('contacts.neverAsked')
            : contact.consents
                .map((c) =>
                  phrase('contacts.by', {
                    topic: term(c.topic),
                    channel: term(c.channel),
                    granted: term(c.granted ? 'yes' : 'no'),
                  }),
                )
                .join(', ')}
        </span>
      </chakra.summary>
      {contact.consents.map((c) => (
        <p key={`${c.topic}${c.channel}`}>
          <Phrase
            of="contacts.by"
            with={{
              topic: term(c.topic),
              channel: term(c.channel),
              granted: <b>{term(c.granted ? 'yes' : 'no')}</b>,
            }}
          />{' '}
          <span className="soft">
            {c.source}, {dayAndYear(c.at)}
          </span>
        </p>
      ))}
      {may && (
        <chakra.div className="tools" flexWrap="wrap">
          <InlineChoice
            label={phrase('contacts.topic')}
            value={topic}
            set={(to) => setTopic(to as typeof topic)}
            choices={consentTopics.map((t) => ({ value: t, label: term(t) }))}
          />
          {phrase('common.by')}
          <InlineChoice
            label={phrase('contacts.channel')}
            value={channel}
            set={(to) => setChannel(to as typeof channel)}
            choices={consentChannels.map((c) => ({ value: c, label: term(c) }))}
          />
          <Button disabled={write.isPending} onClick={() => put(true)}>
            {phrase('contacts.theySaidYes')}
          </Button>
          <Button disabled={write.isPending} onClick={() => put(false)}>
            {phrase('contacts.theySaidNo')}
          </Button>
        </chakra.div>
      )}
    </chakra.details>
  );
}
