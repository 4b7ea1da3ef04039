import { chakra } from '@chakra-ui/react';
import type { EventPage } from '#contract/events.ts';
import type { Answer } from '#web/api.ts';
import { Button, ButtonLink } from '#web/kit/Button.tsx';
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
const views = [
  ['', phrase('event.doorsNow')],
  ['signing', phrase('event.doorsSigning')],
  ['there', phrase('event.doorsThere')],
] as const;

const usual = { see: '' };

/** How the doors stand, and the way to the door list on a phone. */
export default function DoorsSheet({ page }: { page: EventPage }) {
  const doors = useAsk('GET /api/events/:id/doors', { params: { id: page.id } });
  const [{ see }, put] = useAddress(usual);
  const may = page.may.change;
  return (
    <Loaded of={doors}>
      {(d) => (
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
          <chakra.nav className="acts" aria-label={phrase('event.doors')} marginBottom="10px">
            {views.map(([view, label]) => (
              <Button key={view} look="plain" aria-pressed={see === view} onClick={() => put({ see: view })}>
                {label}
              </Button>
            ))}
          </chakra.nav>
          {see === 'signing' ? (
            <SigningList
              eventId={page.id}
              may={may.some((stage) => stage === 'registration' || stage === 'crew')}
            />
          ) : see === 'there' ? (
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
      <SelfCheckIn eventId={page.id} address={doors.selfCheckIn} may={page.may.change.includes('doors')} />
    </>
  );
}
