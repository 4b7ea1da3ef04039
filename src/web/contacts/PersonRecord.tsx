import { type ReactNode, useState } from 'react';
import { Link } from 'react-router';
import type { ContactRecord, LifelineEntry } from '#contract/contacts.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { sayShortDate } from '#core/time/say.ts';
import { useAsk, useMe } from '../parts/ask.ts';
import { Asked } from '../parts/notices.tsx';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { useInterface } from '../shell/state.ts';
import { Consents } from './Consents.tsx';
import { Merges } from './Merges.tsx';
import { Notes } from './Notes.tsx';
import { Tags } from './Tags.tsx';

/** One person: who they are, what they add up to, and their lifeline. Shown in the slide-over and on the page. */
export function PersonRecord({ id }: { id: string }) {
  const contact = useAsk('GET /api/contacts/:id', { params: { id } });
  return (
    <Asked of={contact}>
      {(c) => (
        <>
          <h1>{`${c.given} ${c.family}`.trim()}</h1>
          <Reach contact={c} />
          <Tags id={c.id} tags={c.tags} />
          <Notes contact={c} />
          <Consents contact={c} />
          <Totals contact={c} />
          <Merges contact={c} />
          <Lifeline id={id} />
        </>
      )}
    </Asked>
  );
}

export function Reach({ contact: c }: { contact: ContactRecord }) {
  const country = useMe().data?.organization.country ?? 'CA';
  const { dayAndYear } = useSaying();
  return (
    <div style={{ fontSize: 14, margin: '4px 0 12px' }}>
      {c.deceasedOn && (
        <p className="late">
          Died {sayShortDate(c.deceasedOn)} {c.deceasedOn.slice(0, 4)}. Nothing is sent.
        </p>
      )}
      {c.doNotContact && <p className="late">Asked not to be contacted</p>}
      {c.emails.map((e) => (
        <p key={e.email}>
          {e.email} {e.kind && <span className="soft">{e.kind} </span>}
          {e.bounced && <span className="late">bounced</span>}
        </p>
      ))}
      {c.phones.map((p) => (
        <p key={p.phone} className="num">
          {sayPhone(p.phone, country)} {p.kind && <span className="soft">{p.kind}</span>}
        </p>
      ))}
      <p className="soft">
        {[
          c.birthDate && `born ${sayShortDate(c.birthDate)} ${c.birthDate.slice(0, 4)}, ${c.age}`,
          [c.street, c.postalCode].filter(Boolean).join(', '),
          ...c.memberships.map(
            (m) => `member ${[m.number, m.level, m.since && `since ${m.since}`].filter(Boolean).join(', ')}`,
          ),
          c.dietary,
          `known since ${dayAndYear(c.createdAt)}`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      {c.related.map((r) => (
        <p key={`${r.relation}${r.contactId ?? r.name}`}>
          <span className="soft">{r.relation}:</span> <Person id={r.contactId} name={r.name} />{' '}
          {r.phone && <span className="num soft">{sayPhone(r.phone, country)}</span>}
        </p>
      ))}
    </div>
  );
}

function Totals({ contact: { totals: t, companions } }: { contact: ContactRecord }) {
  const { money, dayAndYear } = useSaying();
  const rows: [string, ReactNode][] = [
    [
      'Events attended',
      `${t.attended}${t.missed ? `, missed ${t.missed}` : ''}${t.coming ? `, ${t.coming} to come` : ''}`,
    ],
    ['Hours served', String(t.hours)],
    ['Given this year, ever', `${money(t.givenThisYear)}, ${money(t.givenEver)}`],
    ['Seen first, last', t.firstSeen ? `${dayAndYear(t.firstSeen)}, ${dayAndYear(t.lastSeen)}` : 'never yet'],
    ...(companions.length
      ? [
          [
            'Usually comes with',
            companions.map((p) => (
              <span key={p.contactId} style={{ marginLeft: 8 }}>
                <Person id={p.contactId} name={p.name} /> <span className="soft">{p.times} times</span>
              </span>
            )),
          ] as [string, ReactNode],
        ]
      : []),
  ];
  return (
    <div className="table still">
      <table>
        <tbody>
          {rows.map(([label, value]) => (
            <tr key={label}>
              <td className="soft">{label}</td>
              <td className="n">{value}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const kinds = [
  'registration',
  'attendance',
  'money',
  'shift',
  'waiver',
  'message',
  'survey',
  'note',
  'record',
] as const;

export function Lifeline({ id }: { id: string }) {
  const [kind, setKind] = useState<LifelineEntry['kind'] | ''>('');
  const [offset, setOffset] = useState(0);
  const { dayAndYear } = useSaying();
  const showPerson = useInterface((s) => s.showPerson);
  const lifeline = useAsk('GET /api/contacts/:id/lifeline', {
    params: { id },
    query: { kind: kind || undefined, offset },
  });
  return (
    <section style={{ marginTop: 16 }}>
      <div className="spread">
        <h2>Lifeline</h2>
        <select
          aria-label="Show"
          style={{ width: 'auto', fontSize: 13.5 }}
          value={kind}
          onChange={(e) => {
            setKind(e.target.value as LifelineEntry['kind'] | '');
            setOffset(0);
          }}
        >
          <option value="">everything</option>
          {kinds.map((k) => (
            <option key={k} value={k}>
              {k}
            </option>
          ))}
        </select>
      </div>
      <Asked of={lifeline}>
        {({ entries, more }) =>
          entries.length === 0 ? (
            <p className="empty">Nothing of this kind yet.</p>
          ) : (
            <>
              <ol className="lifeline">
                {entries.map((e, at) => (
                  <li key={`${e.at}${e.kind}${at}`}>
                    <span className="soft num">{dayAndYear(e.at)}</span>
                    <span>
                      <span style={{ fontWeight: 500 }}>
                        {e.kind === 'attendance'
                          ? e.text
                          : `${e.kind === 'registration' ? '' : `${e.kind === 'record' ? '' : e.kind === 'money' ? '' : `${e.kind} `}`}${e.text}`}
                      </span>
                      {e.eventId && (
                        <>
                          {' '}
                          <Link to={`/events/${e.eventId}/registration`} onClick={() => showPerson(null)}>
                            {e.eventTitle}
                          </Link>
                        </>
                      )}
                      {e.detail && <span className="soft"> {e.detail}</span>}
                    </span>
                  </li>
                ))}
              </ol>
              <div className="acts">
                {offset > 0 && (
                  <button
                    type="button"
                    className="btn plain"
                    onClick={() => setOffset(Math.max(0, offset - 60))}
                  >
                    Newer
                  </button>
                )}
                {more && (
                  <button type="button" className="btn plain" onClick={() => setOffset(offset + 60)}>
                    Older
                  </button>
                )}
              </div>
            </>
          )
        }
      </Asked>
    </section>
  );
}
