import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { GiftRow, GivingPage, PledgeRow } from '#contract/giving.ts';
import { progressOf, sayTribute } from '#core/giving/gift.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase, spokenLanguage, term } from '#web/words/phrase.ts';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { GiftBack } from './GiftBack.tsx';
import { GivingPageForm } from './GivingPageForm.tsx';
import { RecordGift } from './RecordGift.tsx';

/** What is given apart from bookings: the pages to give on, gifts of every month, and every gift. */
export function Gifts() {
  const [recording, setRecording] = useState(false);
  const [editing, setEditing] = useState<GivingPage | 'new' | null>(null);
  const [back, setBack] = useState<GiftRow | null>(null);
  const giving = useAsk('GET /api/giving');
  return (
    <>
      <div className="tools">
        <Button look="main" onClick={() => setRecording(true)}>
          {phrase('ledger.recordGift')}
        </Button>
        <Button onClick={() => setEditing('new')}>{phrase('ledger.newGivingPage')}</Button>
      </div>
      <Loaded of={giving}>
        {({ pages, pledges }) => (
          <>
            <h2>{phrase('ledger.givingPages')}</h2>
            <Pages pages={pages} edit={setEditing} />
            {pledges.length > 0 && (
              <>
                <chakra.h2 marginTop="24px">{phrase('ledger.monthlyGifts')}</chakra.h2>
                <Pledges pledges={pledges} />
              </>
            )}
          </>
        )}
      </Loaded>
      <chakra.h2 marginTop="24px">{phrase('ledger.allGifts')}</chakra.h2>
      <AllGifts back={setBack} />
      {recording && <RecordGift close={() => setRecording(false)} />}
      {editing && <GivingPageForm page={editing === 'new' ? null : editing} close={() => setEditing(null)} />}
      {back && <GiftBack gift={back} close={() => setBack(null)} />}
    </>
  );
}

/** What a gift is for: its fund, its initiative where that has another name, its event. */
const purposes = (of: { fund: string; initiative: string | null; event: string | null }): string =>
  [...new Set([of.fund, of.initiative, of.event])].filter(Boolean).join(', ');

function Pages({ pages, edit }: { pages: GivingPage[]; edit: (of: GivingPage) => void }) {
  const { figure, money } = useSaying();
  const columns: Column<GivingPage>[] = [
    {
      id: 'title',
      phone: 'title',
      heading: phrase('ledger.givingPage'),
      cell: (p) => (
        <>
          <a href={`/give/${p.slug}`}>{p.title.en}</a>
          {!p.open && <span className="soft">{`, ${phrase('ledger.givingClosed')}`}</span>}
        </>
      ),
    },
    {
      id: 'for',
      phone: 'bare',
      heading: phrase('ledger.givenFor'),
      cell: (p) => purposes(p),
    },
    { id: 'gifts', heading: phrase('ledger.gifts'), number: true, cell: (p) => String(p.gifts) },
    {
      id: 'given',
      heading: phrase('ledger.givenSoFar'),
      number: true,
      cell: (p) => figure(p.given, p.currency),
    },
    {
      id: 'goal',
      heading: phrase('ledger.goal'),
      number: true,
      cell: (p) =>
        p.goal !== null &&
        phrase('ledger.goalShare', {
          goal: money(p.goal, p.currency),
          share: String(progressOf(p.goal, p.given)),
        }),
    },
    {
      id: 'edit',
      phone: 'bare',
      heading: '',
      width: '90px',
      cell: (p) => (
        <Button
          look="link"
          aria-label={phrase('ledger.changePage', { title: p.title.en })}
          onClick={() => edit(p)}
        >
          {phrase('ledger.change')}
        </Button>
      ),
    },
  ];
  return (
    <Table
      label={phrase('ledger.givingPages')}
      rows={pages}
      columns={columns}
      keyOf={(p) => p.id}
      empty={phrase('ledger.noGivingPage')}
    />
  );
}

function Pledges({ pledges }: { pledges: PledgeRow[] }) {
  const { figure } = useSaying();
  const states: Record<PledgeRow['state'], string> = {
    begun: '',
    running: phrase('ledger.pledgeRunning'),
    paused: phrase('ledger.pledgePaused'),
    missed: phrase('ledger.pledgeMissed'),
    ended: phrase('ledger.pledgeEnded'),
  };
  const columns: Column<PledgeRow>[] = [
    {
      id: 'who',
      phone: 'title',
      heading: phrase('common.who'),
      cell: (p) => <Person id={p.contactId} name={p.name} />,
    },
    {
      id: 'state',
      phone: 'bare',
      heading: phrase('common.state'),
      cell: (p) => (
        <chakra.span color={p.state === 'missed' ? 'madder' : undefined}>
          {states[p.state]}
          {p.state === 'running' && p.tries > 0 && `, ${phrase('ledger.pledgeTried', { n: p.tries })}`}
        </chakra.span>
      ),
    },
    { id: 'fund', phone: 'bare', heading: phrase('ledger.fund'), cell: (p) => p.fund },
    { id: 'next', heading: phrase('ledger.pledgeNext'), cell: (p) => p.next && sayShortDate(p.next) },
    {
      id: 'amount',
      heading: phrase('ledger.everyMonth'),
      number: true,
      cell: (p) => figure(p.amount, p.currency),
    },
    {
      id: 'given',
      heading: phrase('ledger.givenSoFar'),
      number: true,
      cell: (p) => figure(p.given, p.currency),
    },
  ];
  return (
    <Table
      label={phrase('ledger.monthlyGifts')}
      rows={pledges}
      columns={columns}
      keyOf={(p) => p.id}
      empty={phrase('ledger.noGifts')}
    />
  );
}

function AllGifts({ back }: { back: (of: GiftRow) => void }) {
  const { figure, dayAndYear } = useSaying();
  const hide = useAction('PUT /api/gifts/:id/hidden');
  const columns: Column<GiftRow>[] = [
    {
      id: 'date',
      phone: 'bare',
      heading: phrase('common.date'),
      width: '110px',
      sortBy: (g) => g.at,
      cell: (g) => dayAndYear(g.at),
    },
    {
      id: 'who',
      phone: 'title',
      heading: phrase('common.who'),
      sortBy: (g) => g.name.toLowerCase(),
      cell: (g) => (
        <>
          <Person id={g.contactId} name={g.name} />
          {(g.anonymous || g.hidden) && (
            <span className="soft">{`, ${phrase(g.hidden ? 'ledger.offThePage' : 'ledger.unnamed')}`}</span>
          )}
        </>
      ),
    },
    {
      id: 'for',
      phone: 'bare',
      heading: phrase('ledger.givenFor'),
      sortBy: (g) => g.fund,
      cell: (g) => purposes(g),
    },
    {
      id: 'what',
      phone: 'bare',
      heading: phrase('ledger.whatOf'),
      cell: (g) =>
        [
          g.kind === 'in kind' ? g.thing : g.method && term(g.method),
          sayTribute(g, spokenLanguage() === 'fr' ? 'fr' : 'en'),
          g.pledge && phrase('ledger.everyMonth').toLowerCase(),
        ]
          .filter(Boolean)
          .join(', '),
    },
    {
      id: 'amount',
      heading: phrase('ledger.amount'),
      number: true,
      sortBy: (g) => g.received,
      cell: (g) => figure(g.received, g.currency),
    },
    {
      id: 'back',
      phone: 'bare',
      heading: '',
      width: '90px',
      cell: (g) =>
        g.received > 0 ? (
          <Button
            look="link"
            aria-label={phrase('ledger.payGiftBack', { number: String(g.number) })}
            onClick={() => back(g)}
          >
            {phrase('ledger.payBack')}
          </Button>
        ) : (
          <span className="soft">{phrase('ledger.wasReturned')}</span>
        ),
    },
    {
      id: 'hide',
      phone: 'bare',
      heading: '',
      width: '110px',
      cell: (g) =>
        g.page && (
          <Button
            look="link"
            aria-label={phrase(g.hidden ? 'ledger.showGift' : 'ledger.hideGift', {
              number: String(g.number),
            })}
            onClick={() => hide.mutate({ params: { id: g.id }, body: { hidden: !g.hidden } })}
          >
            {phrase(g.hidden ? 'ledger.showOnPage' : 'ledger.offPage')}
          </Button>
        ),
    },
  ];
  return (
    <Loaded of={useAsk('GET /api/gifts', { query: {} })}>
      {({ rows, more }) => (
        <>
          <Table
            label={phrase('ledger.allGifts')}
            name="gifts"
            rows={rows}
            columns={columns}
            keyOf={(g) => g.id}
            empty={phrase('ledger.noGifts')}
          />
          {more && <p className="soft">{phrase('ledger.theNewestAreShown', { rows: rows.length })}</p>}
        </>
      )}
    </Loaded>
  );
}
