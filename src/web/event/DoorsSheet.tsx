import { chakra } from '@chakra-ui/react';
import type { EventPage } from '#contract/events.ts';
import { ButtonLink } from '#web/kit/Button.tsx';
import { sayMissing } from '../door/saying.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { Ring } from '../parts/marks.tsx';
import { useSaying } from '../parts/saying.ts';

/** How the doors stand, and the way to the door list on a phone. */
export default function DoorsSheet({ page }: { page: EventPage }) {
  const doors = useAsk('GET /api/events/:id/doors', { params: { id: page.id } });
  const { money } = useSaying();
  return (
    <Loaded of={doors}>
      {(d) => {
        const stopped = d.rows.filter((r) => r.missing.length > 0 && r.attendance === 'expected');
        return (
          <>
            <div className="spread">
              <h2 className="num">
                {d.inside} inside, {d.arrived} of {d.confirmed} arrived
              </h2>
              <ButtonLink look="main" to={`/doors/${page.id}`}>
                Open the door list
              </ButtonLink>
            </div>
            <p className="soft">
              The list is made for a phone: search, scan, arrive. Every device sees the others' marks.
            </p>
            <chakra.h3 marginTop="18px">What the door will have to settle</chakra.h3>
            {stopped.length === 0 && <Empty>Nothing: everybody who is expected may come in.</Empty>}
            <div className="table still">
              <table>
                <tbody>
                  {stopped.map((r) => (
                    <tr key={r.registrationId}>
                      <td className="name">{`${r.given} ${r.family}`.trim() || 'to be named'}</td>
                      <td className={r.missing[0] === 'money' ? 'need' : 'late'}>{sayMissing(r)}</td>
                      <td className="n">{r.balance > 0 && money(r.balance)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <chakra.h3 marginTop="18px">Arrivals</chakra.h3>
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
