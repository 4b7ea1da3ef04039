import { Link, Navigate, useSearchParams } from 'react-router';
import { sayRange } from '#core/time/say.ts';
import { addressOf } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { useAsk, useMe } from '../parts/ask.ts';
import { SignOut } from '../parts/SignOut.tsx';
import { useSending } from './useMarks.ts';
import { useTakenAlong } from './useTakenAlong.ts';
import { Waiting } from './Waiting.tsx';

/** The doors of today, for whoever stands at one: straight to the list where there is only one. */
export default function Today() {
  const doors = useAsk('GET /api/doors', { everyMs: 60_000 });
  const me = useMe().data;
  const [search] = useSearchParams();
  useSending();
  useTakenAlong();
  return (
    <main className="door">
      <Loaded of={doors}>
        {(list) => {
          const today = list.filter((d) => d.day === 'today');
          if (today.length === 1 && !search.has('all'))
            return <Navigate to={`/doors/${today[0]!.id}`} replace />;
          return (
            <>
              <div className="spread">
                <h1>{phrase('door.doorsToday')}</h1>
                <SignOut />
              </div>
              <Waiting address={addressOf('GET /api/doors')} />
              {today.length === 0 && <Empty>{phrase('door.noEventOfYours')}</Empty>}
              <ul className="plainlist">
                {list.map((d) => (
                  <li key={d.id}>
                    <Link className="name" to={`/doors/${d.id}`}>
                      {d.title}
                    </Link>
                    <br />
                    <small className="soft">
                      {[d.startsLocal && sayRange(d.startsLocal, null), d.place].filter(Boolean).join(' · ')}
                      {d.day !== 'today' && <span className="need"> {phrase('door.notToday')}</span>}
                    </small>
                    <br />
                    <small className="soft num">
                      {phrase('door.ofArrived', { arrived: d.arrived, confirmed: d.confirmed })}
                    </small>
                  </li>
                ))}
              </ul>
              {me?.staff.roles.some((r) => r !== 'door') && (
                <p>
                  <Link to="/desk">{phrase('common.desk')}</Link>
                </p>
              )}
            </>
          );
        }}
      </Loaded>
    </main>
  );
}
