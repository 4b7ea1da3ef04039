import { chakra } from '@chakra-ui/react';
import type { EventPage } from '#contract/events.ts';
import { ButtonLink } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { sayMissing } from '../door/saying.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { Ring } from '../parts/marks.tsx';
import { useSaying } from '../parts/saying.ts';
import { together } from '../parts/together.ts';
import { SelfCheckIn } from './SelfCheckIn.tsx';
import { SigningList } from './Signing.tsx';

const nameless = (r: { given: string; family: string }): boolean => !`${r.given}${r.family}`.trim();

/** How the doors stand, and the way to the door list on a phone. */
export default function DoorsSheet({ page }: { page: EventPage }) {
  const doors = useAsk('GET /api/events/:id/doors', { params: { id: page.id } });
  const { money } = useSaying();
  return (
    <Loaded of={doors}>
      {(d) => {
        // Who has not signed stands in a list of its own.
        const stopped = d.rows.filter((r) => r.missing.includes('money') && r.attendance === 'expected');
        return (
          <>
            <div className="spread">
              <h2 className="num">
                {phrase('event.insideOfArrived', {
                  inside: d.inside,
                  arrived: d.arrived,
                  confirmed: d.confirmed,
                })}
              </h2>
              <ButtonLink look="main" to={`/doors/${page.id}`}>
                {phrase('event.openTheDoorList')}
              </ButtonLink>
            </div>
            <p className="soft">{phrase('event.theListIsMade')}</p>
            <chakra.h3 marginTop="18px">{phrase('event.whatTheDoorWill')}</chakra.h3>
            {stopped.length === 0 && <Empty>{phrase('event.nothingEverybodyWhoIs')}</Empty>}
            <div className="table still">
              <table>
                <tbody>
                  {together(stopped, (r) => (nameless(r) && r.balance <= 0 ? r.missing.join() : null)).map(
                    ({ row: r, count }) => (
                      <tr key={r.registrationId}>
                        <td className="name">
                          {nameless(r)
                            ? phrase('event.guestsToBeNamed', { count })
                            : `${r.given} ${r.family}`.trim()}
                        </td>
                        <td className={r.missing[0] === 'money' ? 'need' : 'late'}>{sayMissing(r)}</td>
                        <td className="n">{r.balance > 0 && money(r.balance)}</td>
                      </tr>
                    ),
                  )}
                </tbody>
              </table>
            </div>
            <SelfCheckIn eventId={page.id} address={d.selfCheckIn} may={page.may.change.includes('doors')} />
            <SigningList
              eventId={page.id}
              may={page.may.change.some((stage) => stage === 'registration' || stage === 'crew')}
            />
            <chakra.h3 marginTop="18px">{phrase('event.arrivals')}</chakra.h3>
            <p className="soft num">
              <Ring state="arrived" /> {d.arrived} · <Ring state="expected" />{' '}
              {d.rows.filter((r) => r.attendance === 'expected').length} · <Ring state="missed" />{' '}
              {d.rows.filter((r) => r.attendance === 'missed').length}
            </p>
          </>
        );
      }}
    </Loaded>
  );
}
