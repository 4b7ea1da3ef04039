import { chakra } from '@chakra-ui/react';
import { addressOf } from '#web/api.ts';
import { ButtonAnchor } from '#web/kit/Button.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { EventAccount } from '../EventAccount.tsx';

/** What the event came to: its figures, whether they agree, and its account. */
export function Figures({ eventId }: { eventId: string }) {
  const figures = useAsk('GET /api/events/:id/figures', { params: { id: eventId } });
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
                <ButtonAnchor href={addressOf('GET /api/events/:id/registrations.csv', { id: eventId })}>
                  {phrase('event.registrationsAsCsv')}
                </ButtonAnchor>
                <ButtonAnchor href={addressOf('GET /api/ledger.csv', {}, { eventId: eventId })}>
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
            <EventAccount eventId={eventId} />
          </>
        );
      }}
    </Loaded>
  );
}
