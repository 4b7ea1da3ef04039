import { chakra } from '@chakra-ui/react';
import type { EventPage } from '#contract/events.ts';
import type { Answer } from '#web/api.ts';
import { ButtonLink } from '#web/kit/Button.tsx';
import { ListViews } from '#web/kit/ListViews.tsx';
import { useAddress } from '#web/kit/useAddress.ts';
import { phrase } from '#web/words/phrase.ts';
import { Live } from '../door/Live.tsx';
import { sayMissing } from '../door/saying.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { together } from '../parts/together.ts';
import { WhoWasThere } from './doors/WhoWasThere.tsx';
import { SelfCheckIn } from './SelfCheckIn.tsx';
import { SigningList } from './Signing.tsx';

type Doors = Answer<'GET /api/events/:id/doors'>;

/** What of the doors is looked at: how they stand, what was signed, who was there. */
type View = 'now' | 'signing' | 'there';
const views: readonly { value: View; label: string }[] = [
  { value: 'now', label: phrase('event.doorsNow') },
  { value: 'signing', label: phrase('event.doorsSigning') },
  { value: 'there', label: phrase('event.doorsThere') },
];

const usual = { see: '' };

/** What is looked at where nothing was chosen: once an event is over, who was there. */
const first = (day: Doors['day']): View => (day === 'past' ? 'there' : 'now');

/** How the doors stand, and the way to the door list on a phone. */
export default function DoorsSheet({ page }: { page: EventPage }) {
  const doors = useAsk('GET /api/events/:id/doors', { params: { id: page.id } });
  const [{ see }, put] = useAddress(usual);
  const may = page.may.change;
  const view = (d: Doors): View => views.find((v) => v.value === see)?.value ?? first(d.day);
  return (
    <Loaded of={doors}>
      {(d) => (
        <>
          <div className="spread">
            <h2 className="num">
              {d.day === 'past'
                ? phrase('event.cameOfSeats', { arrived: d.arrived, confirmed: d.confirmed })
                : phrase('event.insideOfArrived', {
                    inside: d.inside,
                    arrived: d.arrived,
                    confirmed: d.confirmed,
                  })}
            </h2>
            <ButtonLink look="main" to={`/doors/${page.id}`}>
              {phrase('event.openTheDoorList')}
            </ButtonLink>
          </div>
          <chakra.div margin="10px 0 12px">
            <ListViews
              label={phrase('event.doors')}
              value={view(d)}
              set={(to) => put({ see: to })}
              views={views}
            />
          </chakra.div>
          {view(d) === 'signing' ? (
            <SigningList
              eventId={page.id}
              may={may.some((stage) => stage === 'registration' || stage === 'crew')}
            />
          ) : view(d) === 'there' ? (
            <WhoWasThere page={page} />
          ) : (
            <Now doors={d} page={page} />
          )}
        </>
      )}
    </Loaded>
  );
}

const nameless = (r: { given: string; family: string }): boolean => !`${r.given}${r.family}`.trim();

/** How the doors stand now, or what they will stop before they open. */
function Now({ doors, page }: { doors: Doors; page: EventPage }) {
  const { money } = useSaying();
  // Who has not signed stands in a list of its own.
  const stopped = doors.rows.filter((r) => r.missing.includes('money') && r.attendance === 'expected');
  return (
    <>
      {doors.day !== 'to come' && doors.day !== 'no date' && <Live eventId={page.id} />}
      <chakra.h3 marginTop="18px">{phrase('event.whatTheDoorWill')}</chakra.h3>
      <p className="soft">{phrase('event.theListIsMade')}</p>
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
      <SelfCheckIn
        eventId={page.id}
        address={doors.selfCheckIn}
        kiosk={doors.kiosk}
        may={page.may.change.includes('doors')}
      />
    </>
  );
}
