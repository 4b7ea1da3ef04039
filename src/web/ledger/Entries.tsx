import { chakra } from '@chakra-ui/react';
import type { Account } from '#core/money/accounts.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { NothingFound } from '../kit/NothingFound.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { accountWords, postingWords } from './accountWords.ts';
import { MoneyFilters, useMoneyFilters } from './MoneyFilters.tsx';
import { useMoneyColumns } from './moneyColumns.tsx';

type Row = Answer<'GET /api/books/entries'>['rows'][number];

/** The entries of one account, or of all, newest first. */
export function Entries({ account, back }: { account: Account | null; back: () => void }) {
  const filters = useMoneyFilters(
    account === null || account === 'gifts' ? ['event', 'fund', 'person', 'period'] : undefined,
  );
  const query = { ...filters.query, account: account ?? undefined };
  const { figure, sums, currency } = useSaying();
  const columnsOf = useMoneyColumns<Row>();
  const columns: Column<Row>[] = [
    { ...columnsOf.date, total: () => phrase('ledger.inAll') },
    {
      id: 'about',
      phone: 'bare',
      heading: phrase('ledger.about'),
      sortBy: (r) => r.kind,
      cell: (r) => [postingWords[r.kind], r.orderNumber ?? r.giftNumber].filter(Boolean).join(', '),
    },
    columnsOf.who,
    columnsOf.event,
    {
      id: 'account',
      phone: 'bare',
      heading: phrase('ledger.account'),
      sortBy: (r) => r.account,
      cell: (r) => [accountWords[r.account], r.fund].filter(Boolean).join(', '),
    },
    {
      id: 'debit',
      heading: phrase('ledger.debit'),
      number: true,
      sortBy: (r) => r.amount,
      cell: (r) => (r.amount > 0 ? figure(r.amount, r.currency) : ''),
      total: () => totalOf('debits'),
    },
    {
      id: 'credit',
      heading: phrase('ledger.credit'),
      number: true,
      sortBy: (r) => -r.amount,
      cell: (r) => (r.amount < 0 ? figure(-r.amount, r.currency) : ''),
      total: () => totalOf('credits'),
    },
  ];
  const asked = useAsk('GET /api/books/entries', { query });
  const totalOf = (side: 'debits' | 'credits') =>
    sums(
      (asked.data?.totals ?? [{ currency, debits: 0, credits: 0 }]).map((t) => ({
        currency: t.currency,
        amount: t[side],
      })),
    );
  return (
    <>
      <div className="tools">
        <Button look="link" onClick={back}>
          {phrase('ledger.allAccounts')}
        </Button>
        <chakra.h2 margin="0">
          {account
            ? phrase('ledger.entriesOf', { account: accountWords[account] })
            : phrase('ledger.everyEntry')}
        </chakra.h2>
        <chakra.span marginLeft="auto">
          <ButtonAnchor look="link" href={addressOf('GET /api/books.csv', {}, query)}>
            {phrase('ledger.asCsv')}
          </ButtonAnchor>
        </chakra.span>
      </div>
      <MoneyFilters of={filters} />
      <Loaded of={asked}>
        {({ rows, more }) => (
          <>
            {more && <p className="soft">{phrase('ledger.theNewestAreShown', { rows: rows.length })}</p>}
            <Table
              label={
                account
                  ? phrase('ledger.entriesOf', { account: accountWords[account] })
                  : phrase('ledger.everyEntry')
              }
              rows={rows}
              columns={account && account !== 'gifts' ? columns.filter((c) => c.id !== 'account') : columns}
              keyOf={(r) => r.key}
              empty={
                filters.inUse ? (
                  <NothingFound ways={[{ label: phrase('ledger.showEverything'), run: filters.clear }]}>
                    {phrase('ledger.nothingOfThis')}
                  </NothingFound>
                ) : (
                  phrase('ledger.nothingPosted')
                )
              }
            />
          </>
        )}
      </Loaded>
    </>
  );
}
