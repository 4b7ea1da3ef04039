import { useState } from 'react';
import { Link } from 'react-router';
import { sumsOf } from '#core/money/amount.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { NothingFound } from '../kit/NothingFound.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAsk } from '../parts/ask.ts';
import { type Handled, OrderMoney } from '../parts/OrderMoney.tsx';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { MoneyFilters, useMoneyFilters } from './MoneyFilters.tsx';

type Row = Answer<'GET /api/books/owed'>[number];

/** What people owe for what they booked, and what is owed to them. */
export function Owed() {
  const { figure, sums, currency, dayAndYear, now } = useSaying();
  const filters = useMoneyFilters(['event', 'person']);
  const { eventId, contactId } = filters.query;
  const [handled, setHandled] = useState<Handled | null>(null);
  const sum = (rows: readonly Row[], sign: 1 | -1) =>
    sums(
      sumsOf(
        rows.filter((r) => r.amount * sign > 0).map((r) => ({ ...r, amount: r.amount * sign })),
        currency,
      ),
    );
  const columns: Column<Row>[] = [
    {
      id: 'who',
      phone: 'title',
      heading: phrase('common.who'),
      sortBy: (r) => r.name.toLowerCase(),
      cell: (r) => <Person id={r.contactId} name={r.name} />,
      total: (rows) => phrase('ledger.nBookings', { n: rows.length }),
    },
    {
      id: 'event',
      phone: 'bare',
      heading: phrase('common.event'),
      sortBy: (r) => r.event,
      cell: (r) => <Link to={`/events/${r.eventId}/registration`}>{r.event}</Link>,
    },
    {
      id: 'order',
      phone: 'bare',
      heading: phrase('ledger.order'),
      sortBy: (r) => r.orderNumber,
      cell: (r) => String(r.orderNumber),
    },
    {
      id: 'since',
      phone: 'bare',
      heading: phrase('ledger.since'),
      sortBy: (r) => r.since,
      cell: (r) => dayAndYear(r.since),
    },
    {
      id: 'due',
      phone: 'bare',
      heading: phrase('ledger.toBePaid'),
      sortBy: (r) => r.dueBy ?? '',
      cell: (r) =>
        r.dueBy && (
          <span className={r.dueBy < now ? 'late' : ''}>
            {r.dueBy < now
              ? phrase('ledger.overdueSince', { day: dayAndYear(r.dueBy) })
              : phrase('ledger.payUntil', { day: dayAndYear(r.dueBy) })}
          </span>
        ),
    },
    {
      id: 'owes',
      heading: phrase('ledger.owesUs'),
      number: true,
      sortBy: (r) => r.amount,
      cell: (r) => (r.amount > 0 ? figure(r.amount, r.currency) : ''),
      total: (rows) => sum(rows, 1),
    },
    {
      id: 'back',
      heading: phrase('ledger.weOwe'),
      number: true,
      sortBy: (r) => -r.amount,
      cell: (r) => (r.amount < 0 ? figure(-r.amount, r.currency) : ''),
      total: (rows) => sum(rows, -1),
    },
    {
      id: 'handle',
      phone: 'bare',
      heading: '',
      width: '90px',
      cell: (r) => (
        <Button
          look="link"
          aria-label={phrase('ledger.moneyOfBooking', { order: String(r.orderNumber) })}
          onClick={() => setHandled({ ...r, balance: r.amount })}
        >
          {phrase('ledger.handleMoney')}
        </Button>
      ),
    },
  ];
  return (
    <>
      <MoneyFilters of={filters} />
      <Loaded of={useAsk('GET /api/books/owed', { query: { eventId, contactId } })}>
        {(rows) => (
          <Table
            label={phrase('ledger.owed')}
            name="owed"
            rows={rows}
            columns={columns}
            keyOf={(r) => r.orderId}
            empty={
              filters.inUse ? (
                <NothingFound ways={[{ label: phrase('ledger.showEverything'), run: filters.clear }]}>
                  {phrase('ledger.nothingOfThis')}
                </NothingFound>
              ) : (
                phrase('ledger.nobodyOwes')
              )
            }
          />
        )}
      </Loaded>
      {handled && <OrderMoney key={handled.orderId} of={handled} close={() => setHandled(null)} />}
    </>
  );
}
