import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type Account, accountNames, accounts } from '#core/money/accounts.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { AccountCodes } from './AccountCodes.tsx';
import { accountWords } from './accountWords.ts';
import { Entries } from './Entries.tsx';
import { MoneyFilters, useMoneyFilters } from './MoneyFilters.tsx';

type Trial = Answer<'GET /api/books'>[number];
type Balance = Trial['balances'][number];

const kinds = {
  asset: phrase('ledger.assets'),
  liability: phrase('ledger.liabilities'),
  income: phrase('ledger.income'),
  expense: phrase('ledger.expenses'),
} as const;

/** Whose entries are shown: those of an account, or of every one of them. */
const usual = { account: '', fund: '' };

/** How the accounts stand, and the entries of each. */
export function Accounts() {
  const [address, put] = useAddress(usual);
  const account = accountNames.find((a) => a === address.account) ?? null;
  return account || address.account === 'every' ? (
    <Entries account={account} back={() => put(usual)} />
  ) : (
    <Trials open={(of, fund) => put({ account: of, fund })} />
  );
}

/** Each currency by itself, debits and credits as much as each other. */
function Trials({ open }: { open: (account: Account | 'every', fund: string) => void }) {
  const filters = useMoneyFilters();
  const { fundId: _, ...query } = filters.query;
  const [coding, setCoding] = useState(false);
  return (
    <>
      <div className="tools">
        <MoneyFilters of={filters} />
        <chakra.span marginLeft="auto" display="flex" gap="14px">
          <Button look="link" onClick={() => open('every', '')}>
            {phrase('ledger.everyEntry')}
          </Button>
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
            trials.map((t) => <Standing key={t.currency} trial={t} several={trials.length > 1} open={open} />)
          ) : (
            <Empty>{phrase('ledger.nothingPosted')}</Empty>
          )
        }
      </Loaded>
    </>
  );
}

function Standing({
  trial,
  several,
  open,
}: {
  trial: Trial;
  several: boolean;
  open: (account: Account, fund: string) => void;
}) {
  const { figure } = useSaying();
  const figured = (amount: number) => figure(amount, trial.currency);
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
      cell: (b) => (b.amount > 0 ? figured(b.amount) : ''),
      total: () => figured(trial.debits),
    },
    {
      id: 'credit',
      heading: phrase('ledger.credit'),
      number: true,
      cell: (b) => (b.amount < 0 ? figured(-b.amount) : ''),
      total: () => figured(trial.credits),
    },
  ];
  return (
    <>
      {several && <h2>{trial.currency}</h2>}
      <Table
        label={phrase('ledger.accountsIn', { currency: trial.currency })}
        rows={trial.balances}
        columns={columns}
        keyOf={(b) => `${b.account} ${b.fundId ?? ''}`}
        open={(b) => open(b.account, b.fundId ?? '')}
        empty={phrase('ledger.nothingPosted')}
      />
    </>
  );
}
