import { useState } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import {
  type ConsentChannel,
  type ConsentTopic,
  consentChannels,
  consentTopics,
} from '#core/contacts/consent.ts';
import { useAction, useMayChangeContacts } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { say } from '../parts/toast.tsx';

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
    <details style={{ fontSize: 14, margin: '10px 0' }}>
      <summary style={{ cursor: 'pointer' }}>
        Consent{' '}
        <span className="soft">
          {contact.consents.length === 0
            ? 'never asked'
            : contact.consents
                .map((c) => `${c.topic} by ${c.channel}: ${c.granted ? 'yes' : 'no'}`)
                .join(', ')}
        </span>
      </summary>
      {contact.consents.map((c) => (
        <p key={`${c.topic}${c.channel}`}>
          {c.topic} by {c.channel}: <b>{c.granted ? 'yes' : 'no'}</b>{' '}
          <span className="soft">
            {c.source}, {dayAndYear(c.at)}
          </span>
        </p>
      ))}
      {may && (
        <div className="tools" style={{ flexWrap: 'wrap' }}>
          <select
            aria-label="Topic"
            style={{ width: 'auto' }}
            value={topic}
            onChange={(e) => setTopic(e.target.value as typeof topic)}
          >
            {consentTopics.map((t) => (
              <option key={t}>{t}</option>
            ))}
          </select>
          by
          <select
            aria-label="Channel"
            style={{ width: 'auto' }}
            value={channel}
            onChange={(e) => setChannel(e.target.value as typeof channel)}
          >
            {consentChannels.map((c) => (
              <option key={c}>{c}</option>
            ))}
          </select>
          <button type="button" className="btn" disabled={write.isPending} onClick={() => put(true)}>
            They said yes
          </button>
          <button type="button" className="btn" disabled={write.isPending} onClick={() => put(false)}>
            They said no
          </button>
        </div>
      )}
    </details>
  );
}
