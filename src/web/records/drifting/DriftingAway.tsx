import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { sayShortDate } from '#core/time/say.ts';
import type { Answer } from '#web/api.ts';
import { Chosen } from '#web/contacts/Chosen.tsx';
import { Button } from '#web/kit/Button.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { Person } from '#web/parts/Person.tsx';
import { phrase } from '#web/words/phrase.ts';

type Drifting = Answer<'GET /api/records/drifting'>['people'][number];

/** Those who drift away by their own rhythm, each with why; chosen, they can be written to or kept as a segment. */
export function DriftingAway() {
  const [chosen, choose] = useState<ReadonlySet<string>>(new Set());
  const columns: Column<Drifting>[] = [
    {
      id: 'name',
      phone: 'title',
      heading: phrase('archive.name'),
      width: '190px',
      sortBy: (p) => p.name.toLowerCase(),
      cell: (p) => <Person id={p.id} name={p.name} />,
    },
    {
      id: 'times',
      heading: phrase('archive.timesCame'),
      number: true,
      sortBy: (p) => p.times,
      cell: (p) => p.times,
    },
    {
      id: 'last',
      heading: phrase('archive.lastSeen'),
      sortBy: (p) => p.lastOn,
      cell: (p) => (
        <>
          <span className="num">
            {sayShortDate(p.lastOn)} {p.lastOn.slice(0, 4)}
          </span>{' '}
          <small className="soft">{p.lastEvent}</small>
        </>
      ),
    },
    {
      id: 'why',
      heading: phrase('archive.why'),
      cell: (p) => (
        <>
          {p.why} {p.quiet && <b className="need">{phrase('archive.quiet')}</b>}
        </>
      ),
    },
  ];
  return (
    <Loaded of={useAsk('GET /api/records/drifting')}>
      {({ all, reachable, people }) =>
        all === 0 ? (
          <Empty>{phrase('archive.nobodyDrifts')}</Empty>
        ) : (
          <>
            <div className="spread">
              <h2>{phrase('archive.driftingTitle', { n: all })}</h2>
              <Button onClick={() => choose(new Set(people.filter((p) => !p.quiet).map((p) => p.id)))}>
                {phrase('archive.chooseReachable')}
              </Button>
            </div>
            <chakra.p className="soft" maxWidth="80ch">
              {phrase('archive.driftingHelp')} {phrase('archive.reachable', { n: reachable })}{' '}
              {people.length < all && phrase('archive.shownOf', { n: people.length, all })}
            </chakra.p>
            {chosen.size > 0 && (
              <Chosen
                ids={[...chosen]}
                clear={() => choose(new Set())}
                all={null}
                chooseAll={() => choose(new Set(people.map((p) => p.id)))}
              />
            )}
            <Table
              label={phrase('archive.drifting')}
              rows={people}
              columns={columns}
              keyOf={(p) => p.id}
              choosing={{ chosen, choose }}
              empty=""
              height="62vh"
            />
          </>
        )
      }
    </Loaded>
  );
}
