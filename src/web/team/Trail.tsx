import { useState } from 'react';
import { Link } from 'react-router';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { Button } from '#web/kit/Button.tsx';
import { History } from '../kit/History.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';

const filters = {
  everything: 'Everything',
  accounts: 'Accounts and rights',
  health: 'Health facts read',
} as const;
const page = 100;

/** Who did what, newest first: sign-ins, changed rights, what was read about health, and every change. */
export default function Trail() {
  const [of, setOf] = useState<keyof typeof filters>('everything');
  const [offset, setOffset] = useState(0);
  const trail = useAsk('GET /api/trail', { query: { of, offset } });
  const zone = useMe().data?.organization.zone ?? 'UTC';
  return (
    <div className="page narrow">
      <p>
        <Link to="/team">Team and roles</Link>
      </p>
      <h1>Who did what</h1>
      <div className="tools">
        {(Object.keys(filters) as (keyof typeof filters)[]).map((f) => (
          <button
            key={f}
            type="button"
            className="chip"
            aria-pressed={of === f}
            onClick={() => {
              setOf(f);
              setOffset(0);
            }}
          >
            {filters[f]}
          </button>
        ))}
      </div>
      <Loaded of={trail}>
        {({ rows, more }) => (
          <>
            {rows.length === 0 && <Empty>Nothing of this kind has happened yet.</Empty>}
            <History
              label="Who did what"
              deeds={rows.map((r) => {
                const wall = wallOf(r.at, zone);
                return {
                  id: r.id,
                  when: `${sayShortDate(wall)} ${sayTime(wall)}`,
                  who: r.actor,
                  what: r.action,
                  about: r.contactId ? <Person id={r.contactId} name={r.about} /> : r.about,
                };
              })}
            />
            <div className="acts">
              {offset > 0 && <Button onClick={() => setOffset(Math.max(0, offset - page))}>Newer</Button>}
              {more && <Button onClick={() => setOffset(offset + page)}>Older</Button>}
            </div>
          </>
        )}
      </Loaded>
    </div>
  );
}
