import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { accounts } from '#core/money/accounts.ts';
import { daysOf, type Period, periods } from '#core/time/period.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { ListViews } from '../kit/ListViews.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { AccountCodes } from './AccountCodes.tsx';
import { accountWords } from './accountWords.ts';

type Trial = Answer<'GET /api/books'>[number];
type Balance = Trial['balances'][number];

const kinds = {
  asset: phrase('ledger.assets'),
  liability: phrase('ledger.liabilities'),
  income: phrase('ledger.income'),
  expense: phrase('ledger.expenses'),
} as const;

const periodWords: Record<Period, string> = {
  ever: phrase('ledger.everSince'),
  year: phrase('ledger.thisYear'),
  month: phrase('ledger.thisMonth'),
  'last month': phrase('ledger.lastMonth'),
};
const usual = { period: 'ever' };

/** How the accounts stand: each currency by itself, debits and credits as much as each other. */
export function Accounts() {
  const [address, put] = useAddress(usual);
  const period = periods.find((p) => p === address.period) ?? 'ever';
  const { today } = useSaying();
  const [coding, setCoding] = useState(false);
  const query = daysOf(period, today);
  return (
    <>
      <div className="tools">
        <ListViews
          label={phrase('ledger.period')}
          value={period}
          set={(to) => put({ period: to })}
          views={periods.map((value) => ({ value, label: periodWords[value] }))}
        />
        <chakra.span marginLeft="auto" display="flex" gap="14px">
          <Button look="link" onClick={() => setCoding(true)}>
            {phrase('ledger.accountCodes')}
          </Button>
          <ButtonAnchor look="link" href={addressOf('GET /api/books.csv', {}, query)}>
            {phrase('ledger.entriesAsCsv')}
          </ButtonAnchor>
        </chakra.span>
      </div>
      {coding && <AccountCodes close={() => setCoding(false)} />}
      <Loaded of={useAsk('GET /api/books', { query })}>
        {(trials) =>
          trials.length ? (
            trials.map((t) => <Standing key={t.currency} trial={t} several={trials.length > 1} />)
          ) : (
            <Empty>{phrase('ledger.nothingPosted')}</Empty>
          )
        }
      </Loaded>
    </>
  );
}

function Standing({ trial, several }: { trial: Trial; several: boolean }) {
  const { money } = useSaying();
  const said = (amount: number) => money(amount, trial.currency);
  const columns: Column<Balance>[] = [
    {
      id: 'account',
      phone: 'title',
      heading: phrase('ledger.account'),
      cell: (b) => [accountWords[b.account], b.fund].filter(Boolean).join(', '),
      total: () => phrase('ledger.inAll'),
    },
    {
      id: 'kind',
      phone: 'bare',
      heading: phrase('common.kind'),
      cell: (b) => <span className="soft">{kinds[accounts[b.account]]}</span>,
    },
    {
      id: 'debit',
      heading: phrase('ledger.debit'),
      number: true,
      cell: (b) => (b.amount > 0 ? said(b.amount) : ''),
      total: () => said(trial.debits),
    },
    {
      id: 'credit',
      heading: phrase('ledger.credit'),
      number: true,
      cell: (b) => (b.amount < 0 ? said(-b.amount) : ''),
      total: () => said(trial.credits),
    },
  ];
  return (
    <>
      {several && <h2>{trial.currency}</h2>}
      <Table
        label={phrase('ledger.accountsIn', { currency: trial.currency })}
        rows={trial.balances}
        columns={columns}
        keyOf={(b) => `${b.account} ${b.fund ?? ''}`}
        empty={phrase('ledger.nothingPosted')}
      />
    </>
  );
}
