import { chakra } from '@chakra-ui/react';
import { useNavigate } from 'react-router';
import type { Answer } from '#web/api.ts';
import { ButtonLink } from '#web/kit/Button.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { Chain } from './Chain.tsx';
import { sayHolds } from './saying.ts';

type Row = Answer<'GET /api/waivers'>[number];

/** Every waiver: whom it is for, for how long it holds, how many signatures hold. */
export default function Waivers() {
  const waivers = useAsk('GET /api/waivers');
  const navigate = useNavigate();
  const columns: Column<Row>[] = [
    {
      id: 'title',
      phone: 'title',
      heading: phrase('waivers.name'),
      sortBy: (w) => w.title.toLowerCase(),
      cell: (w) => (
        <>
          <span className="name">{w.title}</span>
          {w.closed && <span className="soft"> · {phrase('waivers.closed')}</span>}
          {w.standing && !w.closed && <span className="soft"> · {phrase('waivers.ownPage')}</span>}
        </>
      ),
    },
    {
      id: 'audience',
      heading: phrase('waivers.askedOf'),
      sortBy: (w) => w.audience,
      cell: (w) => term(w.audience),
    },
    {
      id: 'holds',
      phone: 'bare',
      heading: phrase('waivers.holds'),
      sortBy: (w) => w.holds.for,
      cell: (w) => sayHolds(w.holds),
    },
    {
      id: 'version',
      phone: 'hidden',
      heading: phrase('waivers.version'),
      number: true,
      sortBy: (w) => w.version,
      cell: (w) => w.version,
    },
    {
      id: 'signed',
      heading: phrase('waivers.signedNow'),
      number: true,
      sortBy: (w) => w.signed,
      cell: (w) => w.signed || '',
    },
    {
      id: 'events',
      heading: phrase('waivers.eventsAsking'),
      number: true,
      sortBy: (w) => w.events,
      cell: (w) => w.events || '',
    },
  ];
  return (
    <div className="page">
      <div className="spread">
        <h1>{phrase('waivers.title')}</h1>
        <ButtonLink look="main" data-new to="/team/waivers/new">
          {phrase('waivers.add')}
        </ButtonLink>
      </div>
      <chakra.p className="soft" marginBottom="10px">
        {phrase('waivers.about')}
      </chakra.p>
      <Loaded of={waivers}>
        {(rows) => (
          <>
            <Table
              label={phrase('waivers.title')}
              rows={rows}
              columns={columns}
              keyOf={(w) => w.id}
              open={(w) => navigate(`/team/waivers/${w.id}`)}
              empty={phrase('waivers.none')}
            />
            {rows.some((w) => w.signed) && <Chain />}
          </>
        )}
      </Loaded>
    </div>
  );
}
