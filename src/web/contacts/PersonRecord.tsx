import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import { textKeys } from '#core/contacts/attributes.ts';
import { holdsOn, saySpan } from '#core/contacts/membership.ts';
import { fullName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { sayShortDate, sayZone } from '#core/time/say.ts';
import { sayText } from '#core/words/attributes.ts';
import { phrase, spokenLanguage, termAlone } from '#web/words/phrase.ts';
import { Facts as Lines } from '../kit/Facts.tsx';
import { Loaded } from '../kit/notices.tsx';
import { useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { Consents } from './Consents.tsx';
import { Lifeline } from './Lifeline.tsx';
import { Merges } from './Merges.tsx';
import { Notes } from './Notes.tsx';
import { Skills } from './Skills.tsx';
import { Tags } from './Tags.tsx';
import { Ties } from './Ties.tsx';

/** One contact in the slide-over: who they are, what they add up to, and their lifeline. */
export function PersonRecord({ id }: { id: string }) {
  const contact = useAsk('GET /api/contacts/:id', { params: { id } });
  return (
    <Loaded of={contact}>
      {(c) => (
        <>
          <Head contact={c} />
          <Facts contact={c} />
          {!c.hidden.includes('tags') && <Tags id={c.id} tags={c.tags} />}
          <Ties contact={c} />
          <Skills contactId={c.id} />
          {c.kind === 'organization' && <People contact={c} />}
          <Notes contact={c} />
          {!c.hidden.includes('consents') && <Consents contact={c} />}
          <Totals contact={c} />
          <Merges contact={c} />
          <Lifeline id={id} />
        </>
      )}
    </Loaded>
  );
}

/** The name, and what has to be seen before anything else. */
export function Head({ contact: c }: { contact: ContactRecord }) {
  return (
    <>
      <h1>{fullName(c)}</h1>
      {c.kind === 'organization' && <p className="soft">{phrase('common.organization')}</p>}
      {c.deceasedOn && (
        <p className="late">{phrase('contacts.diedNothingIsSent', { on: { date: c.deceasedOn } })}</p>
      )}
      {c.doNotContact && <p className="late">{phrase('contacts.askedNotToBeContactedNothing')}</p>}
    </>
  );
}

/** Who is with an organization, by now and before. */
export function People({ contact: c }: { contact: ContactRecord }) {
  const { today } = useSaying();
  return (
    <chakra.section aria-label={phrase('common.people')} marginBottom="14px">
      <h2>{phrase('common.people')}</h2>
      {c.people.length === 0 && <p className="soft">{phrase('contacts.nobodyIsKnownTo')}</p>}
      <ul className="plainlist">
        {c.people.map((p) => (
          <li key={`${p.contactId}${p.role}${p.from}`} className={holdsOn(p, today) ? '' : 'past'}>
            <span>
              <Person id={p.contactId} name={p.name} />
              {p.role && `, ${p.role}`} <span className="soft num">{saySpan(p)}</span>
            </span>
          </li>
        ))}
      </ul>
    </chakra.section>
  );
}

/** How they are reached and what is known of them, line by line. */
export function Facts({ contact: c }: { contact: ContactRecord }) {
  const country = useMe().data?.organization.country ?? 'CA';
  const { dayAndYear } = useSaying();
  const address = [c.street, c.postalCode].filter(Boolean).join(', ');
  const languages = [c.language, ...c.languages.filter((l) => l !== c.language)].map(sayLanguage);
  const rows: [string, ReactNode][] = [
    ...c.emails.map((e): [string, ReactNode] => [
      phrase('common.email'),
      <Ended key={e.email} on={e.endedOn}>
        {e.email} {e.kind && <span className="soft">{e.kind} </span>}
        {e.bounced && <span className="late">{phrase('contacts.bounced')}</span>}
      </Ended>,
    ]),
    ...c.phones.map((p): [string, ReactNode] => [
      phrase('common.telephone'),
      <Ended key={p.phone} on={p.endedOn}>
        <span className="num">{sayPhone(p.phone, country)}</span>{' '}
        {p.kind && <span className="soft">{p.kind}</span>}
      </Ended>,
    ]),
    [
      phrase('common.address'),
      address && (
        <Ended on={c.movedOn} word={phrase('contacts.movedAway')}>
          {address}
        </Ended>
      ),
    ],
    [
      phrase('contacts.born'),
      c.birthDate && (
        <>
          {sayShortDate(c.birthDate)} {c.birthDate.slice(0, 4)}{' '}
          <span className="soft num">
            {c.deceasedOn || c.age === null ? '' : phrase('contacts.yearsOld', { age: c.age })}
          </span>
        </>
      ),
    ],
    ...textKeys.map((key): [string, ReactNode] => [sayText(key, 'short'), c[key]]),
    [phrase('contacts.reads'), c.kind === 'person' && languages.join(', ')],
    [phrase('contacts.timeZone'), c.zone && sayZone(c.zone)],
    ...c.fields.map((f): [string, ReactNode] => [
      f.name,
      f.value && (f.kind === 'date' ? `${sayShortDate(f.value)} ${f.value.slice(0, 4)}` : f.value),
    ]),
    ...c.related.map((r): [string, ReactNode] => [
      termAlone(r.relation),
      <span key={r.contactId ?? r.name}>
        <Person id={r.contactId} name={r.name} />{' '}
        {r.phone && <span className="num soft">{sayPhone(r.phone, country)}</span>}
      </span>,
    ]),
    [phrase('contacts.knownSince'), [dayAndYear(c.createdAt), c.source].filter(Boolean).join(', ')],
  ];
  return <Lines of={rows} />;
}

/** What ended is shown as past, with since when. */
function Ended({
  on,
  word = phrase('contacts.notTheirs'),
  children,
}: {
  on: string | null;
  word?: string;
  children: ReactNode;
}) {
  return on ? (
    <span className="past">
      {children} <span className="soft">{phrase('contacts.ended', { word, on: { date: on } })}</span>
    </span>
  ) : (
    children
  );
}

const sayLanguage = (tag: string): string =>
  new Intl.DisplayNames([spokenLanguage()], { type: 'language' }).of(tag) ?? tag;

/** What somebody adds up to: in one row where there is room for it, otherwise in lines. */
export function Totals({
  contact: { totals: t, companions },
  wide = false,
}: {
  contact: ContactRecord;
  wide?: boolean;
}) {
  const { sums, dayAndYear } = useSaying();
  const all: [string, ReactNode][] = [
    [phrase('contacts.attended'), t.attended],
    [phrase('contacts.missed'), t.missed],
    [phrase('contacts.toCome'), t.coming],
    [phrase('common.hoursServed'), t.hours],
    [phrase('contacts.givenThisYear'), t.givenThisYear === null ? null : sums(t.givenThisYear)],
    [phrase('contacts.givenEver'), t.givenEver === null ? null : sums(t.givenEver)],
    [
      phrase('contacts.firstSeen'),
      t.firstSeen ? dayAndYear(t.firstSeen) : t.attended === null ? null : phrase('contacts.never'),
    ],
    [
      phrase('contacts.lastSeen'),
      t.lastSeen ? dayAndYear(t.lastSeen) : t.attended === null ? null : phrase('contacts.never'),
    ],
  ];
  // What a role does not see is not there, rather than empty.
  const figures = all.filter(([, value]) => value !== null);
  const together = companions.length > 0 && (
    <chakra.p fontSize="14px" margin="8px 0">
      <span className="soft">{phrase('contacts.usuallyComesWith')} </span>
      {companions.map((p, at) => (
        <span key={p.contactId}>
          {at > 0 && ', '}
          <Person id={p.contactId} name={p.name} />{' '}
          <span className="soft num">{phrase('contacts.times', { times: p.times })}</span>
        </span>
      ))}
    </chakra.p>
  );
  return (
    <section aria-label={phrase('contacts.totals')}>
      {wide ? (
        <chakra.dl
          display="grid"
          gridTemplateColumns="repeat(auto-fit, minmax(104px, 1fr))"
          gap="8px 16px"
          margin="10px 0"
        >
          {figures.map(([label, value]) => (
            <div key={label}>
              <chakra.dt color="soft" fontSize="small">
                {label}
              </chakra.dt>
              <chakra.dd margin="0" textStyle="figures">
                {value}
              </chakra.dd>
            </div>
          ))}
        </chakra.dl>
      ) : (
        <div className="table still">
          <table>
            <tbody>
              {figures.map(([label, value]) => (
                <tr key={label}>
                  <td className="soft">{label}</td>
                  <td className="n">{value}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {together}
    </section>
  );
}
