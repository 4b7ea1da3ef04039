import { chakra } from '@chakra-ui/react';
import type { LedgerRow, LedgerTotals } from '#contract/money.ts';
import { addressOf } from '#web/api.ts';
import { ButtonAnchor } from '#web/kit/Button.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { ListViews } from '../kit/ListViews.tsx';
import { Note } from '../kit/Note.tsx';
import { NothingFound } from '../kit/NothingFound.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { TableColumns } from '../kit/TableColumns.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { MoneyFilters, useMoneyFilters, usualMoney } from './MoneyFilters.tsx';
import { useMoneyColumns } from './moneyColumns.tsx';

const kinds = {
  '': phrase('common.everything'),
  seats: phrase('common.seats'),
  donation: phrase('common.donations'),
  deposit: phrase('ledger.accountDeposits'),
  refund: phrase('common.refunds'),
  waived: phrase('common.letOff'),
} as const;

type LedgerKind = keyof typeof kinds;
const usual = { ...usualMoney, kind: '' };

const nothing = { seats: 0, donations: 0, deposits: 0, refunds: 0, net: 0, waived: 0 };

/** What a movement is: seats, a donation to a fund, what went back of either, or what was let off. */
function sayKind(r: LedgerRow): string {
  if (r.method === 'waived') return phrase('ledger.letOff');
  const what =
    r.kind === 'donation'
      ? phrase('ledger.donation', { fund: r.fund ?? '' })
      : phrase(r.kind === 'deposit' ? 'ledger.deposit' : 'ledger.seats');
  return r.amount < 0 ? phrase('ledger.refundOf', { what }) : what;
}

/** What the sums add up to; deposits stand in it where there are any. */
function sayTotals(t: LedgerTotals, money: (amount: number, currency: string) => string): string {
  const of = (amount: number) => money(amount, t.currency);
  const parts = {
    seats: of(t.seats),
    donations: of(t.donations),
    refunds: of(t.refunds),
    net: of(t.net),
  };
  return t.deposits > 0
    ? phrase('ledger.withDeposits', { ...parts, deposits: of(t.deposits) })
    : phrase('ledger.seatsDonationsRefunds', parts);
}

/** Every movement of money, newest first. */
export function Movements() {
  const [address, put] = useAddress(usual);
  const kind: LedgerKind = address.kind in kinds ? (address.kind as LedgerKind) : '';
  const filters = useMoneyFilters(['event', 'fund', 'person', 'period']);
  const query = { ...filters.query, kind: kind || undefined };
  const ledger = useAsk('GET /api/ledger', { query });
  const { figure, money, currency, at } = useSaying();
  const columnsOf = useMoneyColumns<LedgerRow>();
  const columns: Column<LedgerRow>[] = [
    columnsOf.date,
    columnsOf.who,
    columnsOf.event,
    {
      id: 'kind',
      phone: 'bare',
      heading: phrase('common.kind'),
      sortBy: (r) => r.kind,
      cell: (r) => sayKind(r),
    },
    {
      id: 'method',
      phone: 'bare',
      heading: phrase('common.byWhom'),
      sortBy: (r) => r.method,
      cell: (r) => term(r.method),
    },
    {
      id: 'reason',
      phone: 'hidden',
      heading: phrase('ledger.reference'),
      cell: (r) => <span className="soft">{r.reason}</span>,
    },
    {
      id: 'amount',
      phone: 'bare',
      heading: phrase('ledger.amount'),
      number: true,
      sortBy: (r) => r.amount,
      cell: (r) => <span className={r.amount < 0 ? 'late' : ''}>{figure(r.amount, r.currency)}</span>,
    },
  ];
  return (
    <>
      <MoneyFilters of={filters} />
      <Loaded of={ledger}>
        {({ rows, totals, unknown, more }) => (
          <>
            {unknown.map((u) => (
              <Note as="p" key={u.orderNumber} tone="need" marginTop="12px">
                <Phrase
                  of="ledger.forOfOrderAsked"
                  with={{
                    noAnswer: <b>{phrase('ledger.noAnswerFromThe')}</b>,
                    amount: money(u.amount, u.currency),
                    name: u.name,
                    orderNumber: u.orderNumber,
                    since: at(u.since),
                  }}
                />
              </Note>
            ))}
            <div className="tools">
              <ListViews
                label={phrase('common.show')}
                value={kind}
                set={(to) => put({ kind: to })}
                views={(Object.keys(kinds) as LedgerKind[]).map((k) => ({ value: k, label: kinds[k] }))}
              />
              <TableColumns name="ledger" columns={columns} />
              <ButtonAnchor look="link" href={addressOf('GET /api/ledger.csv', {}, query)}>
                {phrase('ledger.exportAsCsv', { what: kinds[kind] })}
              </ButtonAnchor>
              <chakra.span className="soft num" marginLeft="auto">
                {(totals.length ? totals : [{ ...nothing, currency }])
                  .map((t) =>
                    [
                      sayTotals(t, money),
                      t.waived > 0 && phrase('ledger.letOffInAll', { waived: money(t.waived, t.currency) }),
                    ]
                      .filter(Boolean)
                      .join(' · '),
                  )
                  .join('; ')}
                {more && ` · ${phrase('ledger.theNewestAreShown', { rows: rows.length })}`}
              </chakra.span>
            </div>
            <Table
              label={phrase('ledger.movementsOfMoney')}
              name="ledger"
              rows={rows}
              columns={columns}
              keyOf={(r) => r.id}
              empty={
                kind || filters.inUse ? (
                  <NothingFound ways={[{ label: phrase('ledger.showEverything'), run: () => put(usual) }]}>
                    {phrase('ledger.nothingOfThis')}
                  </NothingFound>
                ) : (
                  phrase('ledger.noMoneyHasMoved')
                )
              }
            />
          </>
        )}
      </Loaded>
    </>
  );
}
