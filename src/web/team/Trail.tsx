import { useState } from 'react';
import { Link } from 'react-router';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { phrase } from '#web/words/phrase.ts';
import { History } from '../kit/History.tsx';
import { ListViews } from '../kit/ListViews.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { Paging } from '../kit/Paging.tsx';
import { useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';

const filters = {
  everything: phrase('common.everything'),
  accounts: phrase('team.accountsAndRights'),
  health: phrase('team.healthFactsRead'),
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
        <Link to="/team">{phrase('common.teamAndRoles')}</Link>
      </p>
      <h1>{phrase('team.whoDidWhat')}</h1>
      <div className="tools">
        <ListViews
          label={phrase('common.show')}
          value={of}
          set={(to) => {
            setOf(to);
            setOffset(0);
          }}
          views={(Object.keys(filters) as (keyof typeof filters)[]).map((f) => ({
            value: f,
            label: filters[f],
          }))}
        />
      </div>
      <Loaded of={trail}>
        {({ rows, more }) => (
          <>
            {rows.length === 0 && <Empty>{phrase('team.nothingOfThisKind')}</Empty>}
            <History
              label={phrase('team.whoDidWhat')}
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
            <Paging offset={offset} size={page} shown={rows.length} more={more} set={setOffset} />
          </>
        )}
      </Loaded>
    </div>
  );
}
