import { Link } from 'react-router';
import type { SeasonEvent } from '#contract/events.ts';
import { sayLongDate, sayShortDate } from '#core/time/say.ts';
import { daysBetween } from '#core/time/wallTime.ts';
import { useAsk } from '../parts/ask.ts';
import { Loaded } from '../parts/notices.tsx';
import { useSaying } from '../parts/saying.ts';

/** What needs somebody now, most urgent first. */
export default function Desk() {
  const desk = useAsk('GET /api/desk', { everyMs: 30_000 });
  const { money } = useSaying();
  return (
    <Loaded of={desk}>
      {({ today, entries, since, openNow, ribbon }) => {
        const next = ribbon.find(
          (e) => e.startsLocal && e.startsLocal.slice(0, 10) >= today && e.state === 'open',
        );
        return (
          <>
            <Ribbon events={ribbon} today={today} />
            <div
              className="page"
              style={{
                display: 'grid',
                gridTemplateColumns: 'minmax(0,1fr) 320px',
                gap: '0 40px',
                alignContent: 'start',
              }}
            >
              <section>
                <h1>{sayLongDate(today).replace(/ \d{4}$/u, '')}</h1>
                <p className="soft" style={{ margin: '3px 0 10px' }}>
                  {entries.length === 0
                    ? 'Nothing needs you.'
                    : `${entries.length === 1 ? 'One thing needs' : `${entries.length} things need`} somebody.`}
                  {next &&
                    ` Next event: ${next.title}, ${nextWords(daysBetween(today, next.startsLocal!.slice(0, 10)))}.`}
                </p>
                {entries.map((e, at) => (
                  <div className="due" key={`${e.action.href}${at}`}>
                    <span
                      className={e.tone === 'stop' ? 'late' : 'need'}
                      style={{ fontSize: 14, fontWeight: 600 }}
                    >
                      {e.when}
                    </span>
                    <div>
                      <span className="name" style={{ fontSize: 16 }}>
                        {e.subject}
                      </span>{' '}
                      <span className="soft">{e.about}</span>
                      <p>{e.text}</p>
                    </div>
                    <Link className="btn" to={e.action.href}>
                      {e.action.label}
                    </Link>
                  </div>
                ))}
                {entries.length === 0 && (
                  <p className="empty">
                    What is late, missing or waiting for you is listed here, computed from every event.
                  </p>
                )}
              </section>
              <section>
                {since.length > 0 && <h2 style={{ marginTop: 4 }}>Since yesterday</h2>}
                <div className="table still">
                  <table>
                    <tbody>
                      {since.map((s) => (
                        <tr key={s.label}>
                          <td className={s.tone === 'stop' ? 'late' : ''}>{s.label}</td>
                          <td className="n">{s.amount !== null ? money(s.amount) : s.count}</td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </div>
                <h2 style={{ marginTop: 24 }}>Open now</h2>
                {openNow.length === 0 && <p className="empty">No event takes registrations just now.</p>}
                <div className="table still">
                  <table>
                    <tbody>
                      {openNow.map((e) => (
                        <tr key={e.id}>
                          <td>
                            <Link
                              to={`/events/${e.id}/registration`}
                              className="name"
                              style={{ color: 'var(--ink)' }}
                            >
                              {e.title}
                            </Link>
                            <br />
                            <small className="soft">
                              {e.startsLocal && sayShortDate(e.startsLocal, true)}
                            </small>
                          </td>
                          <td style={{ verticalAlign: 'middle', width: 86 }}>
                            {e.capacity !== null && (
                              <span
                                className="moneybar"
                                style={{ width: 70, borderColor: 'var(--verdigris)' }}
                                aria-hidden="true"
                              >
                                <span
                                  style={{
                                    right: `${100 - Math.min(100, ((e.confirmed + e.held) / e.capacity) * 100)}%`,
                                    background: 'var(--verdigris)',
                                  }}
                                />
                              </span>
                            )}
                          </td>
                          <td className="n" style={{ verticalAlign: 'middle' }}>
                            {e.confirmed + e.held}
                            {e.capacity !== null && `/${e.capacity}`}
                          </td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </div>
              </section>
            </div>
          </>
        );
      }}
    </Loaded>
  );
}

const nextWords = (days: number): string =>
  days === 0 ? 'today' : days === 1 ? 'tomorrow' : `in ${days} days`;

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
      const label = `${e.title}${e.see.length === 0 ? '' : e.state === 'open' ? ` ${e.confirmed}${e.capacity ? `/${e.capacity}` : ''}` : e.state === 'draft' || e.state === 'in clearance' || e.state === 'cleared' ? `, ${e.state}` : ''}`;
      const width = label.length * 0.54 + 1.2;
      const row = ends.findIndex((end) => end <= left);
      if (row >= 0) ends[row] = left + width;
      return { e, left, label, row };
    });
  return (
    <nav className="ribbon" aria-label="Events around today">
      <span className="axis" />
      {months.map((m) => {
        const at = place(m);
        return at > -2 && at < 93 ? (
          <span key={m} className="month" style={{ left: `${Math.max(0.6, at)}%` }}>
            {new Intl.DateTimeFormat('en', { month: 'long', timeZone: 'UTC' }).format(
              new Date(`${m}T00:00Z`),
            )}
          </span>
        ) : null;
      })}
      <span className="now" style={{ left: `${place(today)}%` }} />
      {marks
        .filter((m) => m.row >= 0)
        .map(({ e, left, label, row }) => (
          <Link
            key={e.id}
            to={e.see.length ? `/events/${e.id}/registration` : '/season'}
            className={`mark ${['draft', 'in clearance', 'cleared'].includes(e.state) ? 'planned' : ['closed', 'wrapped', 'called off'].includes(e.state) ? 'over' : ''}`}
            style={{ left: `${left}%`, top: 31 + row * 16.5 }}
          >
            {label}
          </Link>
        ))}
    </nav>
  );
}
