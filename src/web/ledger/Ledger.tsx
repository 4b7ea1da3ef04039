import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { LedgerRow } from '#contract/money.ts';
import { addressOf } from '#web/api.ts';
import { ButtonAnchor } from '#web/kit/Button.tsx';
import { Note } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';

const kinds = {
  '': 'Everything',
  seats: 'Seats',
  donation: 'Donations',
  refund: 'Refunds',
  waived: 'Let off',
} as const;

/** Every movement of money, newest first. */
export default function Ledger() {
  const [kind, setKind] = useState<keyof typeof kinds>('');
  const ledger = useAsk('GET /api/ledger', { query: { kind: kind || undefined } });
  const { money, dayAndYear, at } = useSaying();
  const columns: Column<LedgerRow>[] = [
    {
      id: 'date',
      phone: 'bare',
      heading: 'Date',
      width: '110px',
      sortBy: (r) => r.at,
      cell: (r) => dayAndYear(r.at),
    },
    {
      id: 'who',
      phone: 'title',
      heading: 'Who',
      sortBy: (r) => r.name.toLowerCase(),
      cell: (r) => <Person id={r.contactId} name={r.name} />,
    },
    {
      id: 'event',
      phone: 'bare',
      heading: 'Event',
      sortBy: (r) => r.event ?? '',
      cell: (r) => r.event && <Link to={`/events/${r.eventId}/registration`}>{r.event}</Link>,
    },
    {
      id: 'kind',
      phone: 'bare',
      heading: 'Kind',
      sortBy: (r) => r.kind,
      cell: (r) =>
        r.method === 'waived'
          ? 'let off'
          : `${r.amount < 0 ? 'refund of ' : ''}${r.kind === 'donation' ? `donation, ${r.fund ?? ''}` : 'seats'}`,
    },
    { id: 'method', phone: 'bare', heading: 'By', sortBy: (r) => r.method, cell: (r) => r.method },
    {
      id: 'reason',
      phone: 'hidden',
      heading: 'Reference',
      cell: (r) => <span className="soft">{r.reason}</span>,
    },
    {
      id: 'amount',
      phone: 'bare',
      heading: 'Amount',
      number: true,
      sortBy: (r) => r.amount,
      cell: (r) => <span className={r.amount < 0 ? 'late' : ''}>{money(r.amount)}</span>,
    },
  ];
  return (
    <div className="page">
      <div className="spread">
        <h1>Ledger</h1>
        <ButtonAnchor href={addressOf('GET /api/ledger.csv')}>Export as CSV</ButtonAnchor>
      </div>
      <Loaded of={ledger}>
        {({ rows, totals, unknown, more }) => (
          <>
            {unknown.map((u) => (
              <Note as="p" key={u.orderNumber} tone="need" marginTop="12px">
                <b>No answer from the card processor</b> for {money(u.amount)} of {u.name}, order{' '}
                {u.orderNumber}, asked {at(u.since)}. It is settled by itself when the answer comes.
              </Note>
            ))}
            <div className="tools">
              {(Object.keys(kinds) as (keyof typeof kinds)[]).map((k) => (
                <button
                  key={k}
                  type="button"
                  className="chip"
                  aria-pressed={kind === k}
                  onClick={() => setKind(k)}
                >
                  {kinds[k]}
                </button>
              ))}
              <chakra.span className="soft num" marginLeft="auto">
                seats {money(totals.seats)} + donations {money(totals.donations)} − refunds{' '}
                {money(totals.refunds)} = {money(totals.net)}
                {totals.waived > 0 && ` · ${money(totals.waived)} let off`}
                {more && ` · the newest ${rows.length} are shown`}
              </chakra.span>
            </div>
            <Table
              label="Movements of money"
              rows={rows}
              columns={columns}
              keyOf={(r) => r.id}
              empty="No money has moved yet."
            />
          </>
        )}
      </Loaded>
    </div>
  );
}
