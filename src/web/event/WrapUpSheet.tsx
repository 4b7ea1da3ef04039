import { chakra } from '@chakra-ui/react';
import type { EventPage } from '#contract/events.ts';
import type { Answer } from '#web/api.ts';
import { addressOf } from '#web/api.ts';
import { ButtonAnchor } from '#web/kit/Button.tsx';
import { placed } from '#web/kit/placed.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { EventAccount } from './EventAccount.tsx';

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
          [phrase('event.confirmedSeats'), f.seatsByState.confirmed],
          [
            term('arrived'),
            f.arrived,
            f.walkIns ? phrase('event.ofThemWalkedIn', { walkIns: f.walkIns }) : '',
          ],
          [term('missed'), f.missed],
          [phrase('event.stillExpected'), f.expected],
          [
            phrase('event.withdrawnLapsedDeclined'),
            f.seatsByState.withdrawn + f.seatsByState.lapsed + f.seatsByState.declined,
          ],
          [phrase('event.moneyForSeats'), money(f.money.seats)],
          [phrase('common.donations'), money(f.money.donations)],
          [phrase('common.refunds'), f.money.refunds ? money(-f.money.refunds) : money(0)],
          [phrase('event.moneyInAll'), money(f.money.net)],
          ...(f.money.waived ? [[phrase('common.letOff'), money(f.money.waived)] as [string, string]] : []),
          [phrase('common.hoursServed'), f.hoursServed],
        ];
        const parts = new Set([term('arrived'), term('missed'), phrase('event.stillExpected')]);
        return (
          <>
            <div className="spread">
              <h2>
                {f.seatsByState.confirmed === 0
                  ? phrase('event.nothingToCountYet')
                  : f.missed + f.arrived === 0
                    ? phrase('event.areExpected', { expected: f.expected })
                    : phrase('event.cameMissedIt', { arrived: f.arrived, missed: f.missed })}
              </h2>
              <div className="acts">
                <ButtonAnchor href={addressOf('GET /api/events/:id/registrations.csv', { id: page.id })}>
                  {phrase('event.registrationsAsCsv')}
                </ButtonAnchor>
                <ButtonAnchor href={addressOf('GET /api/ledger.csv', {}, { eventId: page.id })}>
                  {phrase('event.moneyAsCsv')}
                </ButtonAnchor>
              </div>
            </div>
            <chakra.div
              display="grid"
              gridTemplateColumns={{ base: 'minmax(0,1fr)', md: '1fr 1fr' }}
              gap={{ base: '16px', md: '0 32px' }}
              marginTop="8px"
            >
              <div className="table still">
                <table>
                  <tbody>
                    {rows.map(([label, value, more]) => (
                      <tr key={label}>
                        <chakra.td paddingLeft={parts.has(label) ? '14px' : '0'}>
                          {label} {more && <small className="soft">{more}</small>}
                        </chakra.td>
                        <td className="n">{value}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
              <div>
                <h3>{phrase('event.doTheFiguresAgree')}</h3>
                <chakra.ul className="lines" fontSize="14px">
                  {f.checks.map((c) => (
                    <li key={c.text} className={c.holds ? '' : 'late'}>
                      <b>{c.holds ? phrase('event.yes') : phrase('event.no')}:</b> {c.text}
                    </li>
                  ))}
                </chakra.ul>
              </div>
            </chakra.div>
            <EventAccount eventId={page.id} />
            <chakra.h2 marginTop="24px">{phrase('event.survey')}</chakra.h2>
            <Loaded of={survey}>
              {(s) =>
                !s.exists ? (
                  <Empty>{phrase('event.thisEventAsksNobody')}</Empty>
                ) : (
                  <>
                    <p className="soft num">
                      {[
                        s.asked > 0
                          ? phrase('event.ofAskedHaveAnswered', { answered: s.answered, asked: s.asked })
                          : phrase('event.nobodyAskedYet'),
                        s.asked > 0 && `${Math.round((s.answered / s.asked) * 100)} %`,
                        s.anonymous && phrase('event.withoutNames'),
                      ]
                        .filter(Boolean)
                        .join(', ')}
                    </p>
                    {s.answered > 0 ? (
                      <SurveyResults results={s.results} />
                    ) : (
                      <Empty>{phrase('event.answersAreCountedHere')}</Empty>
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
          <chakra.section key={r.question.id} margin="12px 0">
            <h3>
              {r.question.prompt}
              {r.mean !== null && (
                <span className="soft num"> {phrase('event.meanOf5', { mean: r.mean.toFixed(1) })}</span>
              )}
            </h3>
            {r.counts.length > 0 && (
              <chakra.table borderCollapse="collapse" fontSize="14px">
                <tbody>
                  {r.counts.map((c) => (
                    <tr key={c.label}>
                      <chakra.td padding="1px 12px 1px 0">{c.label}</chakra.td>
                      <chakra.td className="num" textAlign="right" paddingRight="10px">
                        {c.count}
                      </chakra.td>
                      <td>
                        <chakra.span
                          display="inline-block"
                          height="8px"
                          background="slate"
                          style={placed({ width: (c.count / most) * 220 })}
                          aria-hidden="true"
                        />
                      </td>
                    </tr>
                  ))}
                </tbody>
              </chakra.table>
            )}
            {r.texts.map((t, at) => (
              <chakra.p
                key={at}
                fontSize="14px"
                borderLeft="2px solid var(--line)"
                paddingLeft="10px"
                margin="4px 0"
              >
                {t}
              </chakra.p>
            ))}
          </chakra.section>
        );
      })}
    </>
  );
}
