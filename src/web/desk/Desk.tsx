import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { Link } from 'react-router';
import type { SeasonEvent } from '#contract/events.ts';
import { daysBetween } from '#core/time/dates.ts';
import { sayLongDate, sayShortDate } from '#core/time/say.ts';
import { ButtonLink, TextLink } from '#web/kit/Button.tsx';
import { placed } from '#web/kit/placed.ts';
import { saySeats } from '#web/season/seasonAddress.ts';
import { phrase, spokenLanguage, term } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { useAsk, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { FirstSteps } from './FirstSteps.tsx';

const ribbonLook: SystemStyleObject = {
  borderBottom: '1px solid var(--line)',
  background: 'var(--sheet)',
  position: 'relative',
  height: '98px',
  overflow: 'hidden',
  flex: 'none',
  '& .month': {
    position: 'absolute',
    top: '6px',
    fontSize: '12px',
    color: 'var(--soft)',
  },
  '& .axis': {
    position: 'absolute',
    left: 0,
    right: 0,
    top: '27px',
    borderTop: '1px solid var(--line)',
  },
  '& .mark': {
    position: 'absolute',
    fontSize: '12.5px',
    whiteSpace: 'nowrap',
    paddingLeft: '5px',
    borderLeft: '2px solid var(--verdigris)',
    lineHeight: '15px',
    color: 'var(--ink)',
  },
  '& .mark.planned': {
    borderLeftStyle: 'dotted',
    color: 'var(--soft)',
  },
  '& .mark.over': {
    borderColor: 'var(--slate)',
    color: 'var(--soft)',
  },
  '& .now': {
    position: 'absolute',
    top: 0,
    bottom: 0,
    borderLeft: '1.5px solid var(--verdigris)',
  },
};
const dueLook: SystemStyleObject = {
  display: 'grid',
  gridTemplateColumns: '96px minmax(0, 1fr) auto',
  gap: '0 16px',
  padding: '10px 0',
  borderBottom: '1px solid var(--line)',
  alignItems: 'baseline',
  '& p': {
    margin: '1px 0 0',
    color: 'var(--soft)',
    fontSize: '14px',
  },
  '@media (max-width: 900px)': {
    gridTemplateColumns: 'minmax(0, 1fr)',
    justifyItems: 'start',
    gap: '4px',
  },
};

/** What needs somebody now, most urgent first. */
export default function Desk() {
  const desk = useAsk('GET /api/desk', { everyMs: 30_000 });
  const { money } = useSaying();
  const coordinates = useMe().data?.staff.roles.includes('coordinator') ?? false;
  return (
    <Loaded of={desk}>
      {({ today, entries, since, openNow, ribbon }) => {
        const next = ribbon.find(
          (e) => e.startsLocal && e.startsLocal.slice(0, 10) >= today && e.state === 'open',
        );
        return (
          <>
            <Ribbon events={ribbon} today={today} />
            <chakra.div
              className="page"
              display="grid"
              gridTemplateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 320px' }}
              gap={{ base: '28px', lg: '0 40px' }}
              alignContent="start"
            >
              <section>
                <h1>{sayLongDate(today).replace(/ \d{4}$/u, '')}</h1>
                <chakra.p className="soft" margin="3px 0 10px">
                  {entries.length === 0
                    ? phrase('desk.nothingNeedsYou')
                    : phrase('desk.thingsNeedSomebody', { count: entries.length })}{' '}
                  {next &&
                    phrase('desk.nextEvent', {
                      title: next.title,
                      when: nextWords(daysBetween(today, next.startsLocal!.slice(0, 10))),
                    })}
                </chakra.p>
                {entries.map((e, at) => (
                  <chakra.div css={dueLook} key={`${e.action.href}${at}`}>
                    <chakra.span
                      className={e.tone === 'stop' ? 'late' : 'need'}
                      fontSize="14px"
                      fontWeight={600}
                    >
                      {e.when}
                    </chakra.span>
                    <div>
                      <chakra.span className="name" fontSize="16px">
                        {e.subject}
                      </chakra.span>{' '}
                      <span className="soft">{e.about}</span>
                      <p>{e.text}</p>
                    </div>
                    <ButtonLink to={e.action.href}>{e.action.label}</ButtonLink>
                  </chakra.div>
                ))}
                {entries.length === 0 && <Empty>{phrase('desk.whatIsLateMissing')}</Empty>}
                {entries.length === 0 && ribbon.length === 0 && coordinates && <FirstSteps />}
              </section>
              <Coming events={ribbon} today={today} />
              <section>
                {since.length > 0 && <chakra.h2 marginTop="4px">{phrase('desk.sinceYesterday')}</chakra.h2>}
                <div className="table still">
                  <table>
                    <tbody>
                      {since.map((s) => (
                        <tr key={s.label}>
                          <td className={s.tone === 'stop' ? 'late' : ''}>{s.label}</td>
                          <td className="n">
                            {s.amount !== null ? money(s.amount.amount, s.amount.currency) : s.count}
                          </td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </div>
                <chakra.h2 marginTop="24px">{phrase('desk.openNow')}</chakra.h2>
                {openNow.length === 0 && <Empty>{phrase('desk.noEventTakesRegistrations')}</Empty>}
                <div className="table still">
                  <table>
                    <tbody>
                      {openNow.map((e) => (
                        <tr key={e.id}>
                          <td>
                            <TextLink to={`/events/${e.id}/registration`} className="name" color="ink">
                              {e.title}
                            </TextLink>
                            <br />
                            <small className="soft">
                              {e.startsLocal && sayShortDate(e.startsLocal, true)}
                            </small>
                          </td>
                          <chakra.td verticalAlign="middle" width="86px">
                            {e.capacity !== null && (
                              <chakra.span
                                className="moneybar"
                                width="70px"
                                borderColor="verdigris"
                                aria-hidden="true"
                              >
                                <chakra.span
                                  background="verdigris"
                                  style={placed({
                                    right: `${100 - Math.min(100, (taken(e) / e.capacity) * 100)}%`,
                                  })}
                                />
                              </chakra.span>
                            )}
                          </chakra.td>
                          <chakra.td className="n" verticalAlign="middle">
                            {taken(e)}
                            {e.capacity !== null && `/${e.capacity}`}
                          </chakra.td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </div>
              </section>
            </chakra.div>
          </>
        );
      }}
    </Loaded>
  );
}

const nextWords = (days: number): string =>
  days === 0 ? phrase('desk.today') : days === 1 ? phrase('desk.tomorrow') : phrase('desk.inDays', { days });

/** Seats that are gone: confirmed, and kept for somebody who pays or was offered one. */
const taken = (e: SeasonEvent): number => e.confirmed + e.held;

/** How an event stands, in a few words. */
const standing = (e: SeasonEvent): string => {
  if (e.see.length === 0) return '';
  if (e.state === 'open') return saySeats(e);
  return e.state === 'draft' || e.state === 'in clearance' || e.state === 'cleared' ? term(e.state) : '';
};
/** Where an event leads whoever sees something of it. */
const pageOf = (e: SeasonEvent): string => (e.see.length ? `/events/${e.id}/registration` : '/season');

/** What comes next, as a list: where there is no room for a line of weeks. */
function Coming({ events, today }: { events: SeasonEvent[]; today: string }) {
  const next = events.filter((e) => e.startsLocal && e.startsLocal.slice(0, 10) >= today).slice(0, 5);
  if (!next.length) return null;
  return (
    <chakra.nav aria-label={phrase('desk.comingEvents')} hideFrom="lg">
      <chakra.h2 marginBottom="4px">{phrase('common.coming')}</chakra.h2>
      <ul className="lines">
        {next.map((e) => (
          <li key={e.id}>
            <TextLink
              to={pageOf(e)}
              color="ink"
              display="grid"
              gridTemplateColumns="84px minmax(0, 1fr) auto"
              gap="10px"
              fontSize="medium"
            >
              <span className="soft num">{sayShortDate(e.startsLocal!, true)}</span>
              <span className="clip">{e.title}</span>
              <span className="soft num">{standing(e)}</span>
            </TextLink>
          </li>
        ))}
      </ul>
    </chakra.nav>
  );
}

/** The weeks around today on one line; marks that would overlap go to the next row. */
function Ribbon({ events, today }: { events: SeasonEvent[]; today: string }) {
  const from = -45;
  const to = 120;
  const place = (date: string) => ((daysBetween(today, date) - from) / (to - from)) * 100;
  const months: string[] = [];
  for (let n = -2; n < 6; n += 1) {
    const d = new Date(Date.UTC(Number(today.slice(0, 4)), Number(today.slice(5, 7)) - 1 + n, 1));
    months.push(d.toISOString().slice(0, 10));
  }
  const ends = [0, 0, 0, 0];
  const marks = events
    .filter((e) => e.startsLocal)
    .map((e) => {
      const left = place(e.startsLocal!.slice(0, 10));
      const stands = standing(e);
      const comma = stands && e.state !== 'open' ? ',' : '';
      const label = `${e.title}${comma}${stands && ` ${stands}`}`;
      const width = label.length * 0.54 + 1.2;
      const row = ends.findIndex((end) => end <= left);
      if (row >= 0) ends[row] = left + width;
      return { e, left, label, row };
    });
  return (
    <chakra.nav css={ribbonLook} aria-label={phrase('desk.eventsAroundToday')} hideBelow="lg">
      <span className="axis" />
      {months.map((m) => {
        const at = place(m);
        return at > -2 && at < 93 ? (
          <span key={m} className="month" style={placed({ left: `${Math.max(0.6, at)}%` })}>
            {new Intl.DateTimeFormat(spokenLanguage(), { month: 'long', timeZone: 'UTC' }).format(
              new Date(`${m}T00:00Z`),
            )}
          </span>
        ) : null;
      })}
      <span className="now" style={placed({ left: `${place(today)}%` })} />
      {marks
        .filter((m) => m.row >= 0)
        .map(({ e, left, label, row }) => (
          <Link
            key={e.id}
            to={pageOf(e)}
            className={`mark ${['draft', 'in clearance', 'cleared'].includes(e.state) ? 'planned' : ['closed', 'wrapped', 'called off'].includes(e.state) ? 'over' : ''}`}
            style={placed({ left: `${left}%`, top: 31 + row * 16.5 })}
          >
            {label}
          </Link>
        ))}
    </chakra.nav>
  );
}
