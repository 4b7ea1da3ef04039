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
import { say } from '../kit/toast.tsx';
import { useAction, useMayChangeContacts } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** What somebody said about each topic, by which channel, to whom and when. */
export function Consents({ contact }: { contact: ContactRecord }) {
  const [topic, setTopic] = useState<ConsentTopic>('newsletter');
  const [channel, setChannel] = useState<ConsentChannel>('email');
  const { dayAndYear } = useSaying();
  const may = useMayChangeContacts();
  const write = useAction('POST /api/contacts/:id/consents', () => say('Written down.'));
  const put = (granted: boolean) =>
    write.mutate({ params: { id: contact.id }, body: { topic, channel, granted } });
  return (
    <chakra.details fontSize="14px" margin="10px 0">
      <chakra.summary cursor="pointer">
        Consent{' '}
        <span className="soft">
          {contact.consents.length === 0
            ? 'never asked'
            : contact.consents
                .map((c) => `${c.topic} by ${c.channel}: ${c.granted ? 'yes' : 'no'}`)
                .join(', ')}
        </span>
      </chakra.summary>
      {contact.consents.map((c) => (
        <p key={`${c.topic}${c.channel}`}>
          {c.topic} by {c.channel}: <b>{c.granted ? 'yes' : 'no'}</b>{' '}
          <span className="soft">
            {c.source}, {dayAndYear(c.at)}
          </span>
        </p>
      ))}
      {may && (
        <chakra.div className="tools" flexWrap="wrap">
          <chakra.select
            aria-label="Topic"
            width="auto"
            value={topic}
            onChange={(e) => setTopic(e.target.value as typeof topic)}
          >
            {consentTopics.map((t) => (
              <option key={t}>{t}</option>
            ))}
          </chakra.select>
          by
          <chakra.select
            aria-label="Channel"
            width="auto"
            value={channel}
            onChange={(e) => setChannel(e.target.value as typeof channel)}
          >
            {consentChannels.map((c) => (
              <option key={c}>{c}</option>
            ))}
          </chakra.select>
          <Button disabled={write.isPending} onClick={() => put(true)}>
            They said yes
          </Button>
          <Button disabled={write.isPending} onClick={() => put(false)}>
            They said no
          </Button>
        </chakra.div>
      )}
    </chakra.details>
  );
}
