import type { EventPage } from '#contract/events.ts';
import type { Answer } from '#web/api.ts';
import { addressOf } from '#web/api.ts';
import { useAsk } from '../parts/ask.ts';
import { Loaded } from '../parts/notices.tsx';
import { useSaying } from '../parts/saying.ts';

type Results = Answer<'GET /api/events/:id/survey'>['results'];

/** What the event came to: its figures, whether they agree, and what people said. */
export default function WrapUpSheet({ page }: { page: EventPage }) {
  const figures = useAsk('GET /api/events/:id/figures', { params: { id: page.id } });
  const survey = useAsk('GET /api/events/:id/survey', { params: { id: page.id } });
  const { money } = useSaying();
  return (
    <Loaded of={figures}>
      {(f) => {
        const rows: [string, string | number, string?][] = [
          ['Seats confirmed', f.seatsByState.confirmed],
          ['arrived', f.arrived, f.walkIns ? `${f.walkIns} of them walked in` : ''],
          ['missed', f.missed],
          ['still expected', f.expected],
          [
            'Withdrawn, lapsed, declined',
            f.seatsByState.withdrawn + f.seatsByState.lapsed + f.seatsByState.declined,
          ],
          ['Money for seats', money(f.money.seats)],
          ['Donations', money(f.money.donations)],
          ['Refunds', f.money.refunds ? money(-f.money.refunds) : money(0)],
          ['Money in all', money(f.money.net)],
          ...(f.money.waived ? [['Let off', money(f.money.waived)] as [string, string]] : []),
          ['Hours served', f.hoursServed],
        ];
        return (
          <>
            <div className="spread">
              <h2>
                {f.seatsByState.confirmed === 0
                  ? 'Nothing to count yet'
                  : f.missed + f.arrived === 0
                    ? `${f.expected} are expected`
                    : `${f.arrived} came, ${f.missed} missed it`}
              </h2>
              <div className="acts">
                <a className="btn" href={addressOf('GET /api/events/:id/registrations.csv', { id: page.id })}>
                  Registrations as CSV
                </a>
                <a className="btn" href={addressOf('GET /api/ledger.csv', {}, { eventId: page.id })}>
                  Money as CSV
                </a>
              </div>
            </div>
            <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '0 32px', marginTop: 8 }}>
              <div className="table still">
                <table>
                  <tbody>
                    {rows.map(([label, value, more]) => (
                      <tr key={label}>
                        <td style={{ paddingLeft: label[0] === label[0]!.toLowerCase() ? 14 : 0 }}>
                          {label} {more && <small className="soft">{more}</small>}
                        </td>
                        <td className="n">{value}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
              <div>
                <h3>Do the figures agree?</h3>
                <ul className="lines" style={{ fontSize: 14 }}>
                  {f.checks.map((c) => (
                    <li key={c.text} className={c.holds ? '' : 'late'}>
                      <b>{c.holds ? 'Yes' : 'No'}:</b> {c.text}
                    </li>
                  ))}
                </ul>
              </div>
            </div>
            <h2 style={{ marginTop: 24 }}>Survey</h2>
            <Loaded of={survey}>
              {(s) =>
                !s.exists ? (
                  <p className="empty">This event asks nobody afterwards.</p>
                ) : (
                  <>
                    <p className="soft num">
                      {s.answered} of {s.asked} asked have answered
                      {s.asked > 0 && `, ${Math.round((s.answered / s.asked) * 100)} %`}
                      {s.anonymous && ', without names'}
                    </p>
                    {s.answered > 0 ? (
                      <SurveyResults results={s.results} />
                    ) : (
                      <p className="empty">Answers are counted here as they come in.</p>
                    )}
                  </>
                )
              }
            </Loaded>
          </>
        );
      }}
    </Loaded>
  );
}

function SurveyResults({ results }: { results: Results }) {
  return (
    <>
      {results.map((r) => {
        const most = Math.max(1, ...r.counts.map((c) => c.count));
        return (
          <section key={r.question.id} style={{ margin: '12px 0' }}>
            <h3>
              {r.question.prompt}
              {r.mean !== null && <span className="soft num"> mean {r.mean.toFixed(1)} of 5</span>}
            </h3>
            {r.counts.length > 0 && (
              <table style={{ borderCollapse: 'collapse', fontSize: 14 }}>
                <tbody>
                  {r.counts.map((c) => (
                    <tr key={c.label}>
                      <td style={{ padding: '1px 12px 1px 0' }}>{c.label}</td>
                      <td className="num" style={{ textAlign: 'right', paddingRight: 10 }}>
                        {c.count}
                      </td>
                      <td>
                        <span
                          style={{
                            display: 'inline-block',
                            height: 8,
                            width: (c.count / most) * 220,
                            background: 'var(--slate)',
                          }}
                          aria-hidden="true"
                        />
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            {r.texts.map((t, at) => (
              <p
                key={at}
                style={{
                  fontSize: 14,
                  borderLeft: '2px solid var(--line)',
                  paddingLeft: 10,
                  margin: '4px 0',
                }}
              >
                {t}
              </p>
            ))}
          </section>
        );
      })}
    </>
  );
}
