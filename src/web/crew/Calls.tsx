import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Call } from '#contract/applying.ts';
import { Button, ButtonLink } from '#web/kit/Button.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { sayFor } from './applyingWords.ts';
import { CallForm } from './CallForm.tsx';

/** Every call for volunteers, with how many answered it. */
export default function Calls() {
  const calls = useAsk('GET /api/calls');
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  const columns: Column<Call>[] = [
    {
      id: 'title',
      phone: 'title',
      heading: phrase('applying.call'),
      sortBy: (k) => k.title.en.toLowerCase(),
      cell: (k) => <span className="name">{k.title.en}</span>,
    },
    { id: 'for', phone: 'bare', heading: phrase('applying.for'), sortBy: sayFor, cell: sayFor },
    {
      id: 'open',
      phone: 'bare',
      heading: phrase('common.state'),
      sortBy: (k) => Number(!k.open),
      cell: (k) => (
        <span className={k.open ? '' : 'soft'}>{phrase(k.open ? 'applying.open' : 'applying.closed')}</span>
      ),
    },
    {
      id: 'new',
      heading: phrase('applying.view-new'),
      number: true,
      sortBy: (k) => k.counts.new,
      cell: (k) => k.counts.new || '',
    },
    {
      id: 'accepted',
      heading: phrase('applying.view-accepted'),
      number: true,
      sortBy: (k) => k.counts.accepted,
      cell: (k) => k.counts.accepted || '',
    },
  ];
  return (
    <div className="page">
      <div className="spread">
        <h1>{phrase('applying.title')}</h1>
        <div className="acts">
          <ButtonLink to="/volunteers/hours">{phrase('crew.hoursTitle')}</ButtonLink>
          <Button look="main" data-new onClick={() => setAdding(true)}>
            {phrase('applying.add')}
          </Button>
        </div>
      </div>
      <p className="soft">{phrase('applying.about')}</p>
      <Loaded of={calls}>
        {(rows) => (
          <Table
            label={phrase('applying.title')}
            rows={rows}
            columns={columns}
            keyOf={(k) => k.id}
            open={(k) => navigate(`/volunteers/${k.id}`)}
            empty={phrase('applying.none')}
          />
        )}
      </Loaded>
      {adding && (
        <CallForm call={null} made={(id) => navigate(`/volunteers/${id}`)} close={() => setAdding(false)} />
      )}
    </div>
  );
}
