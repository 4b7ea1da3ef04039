import { phrase } from '#web/words/phrase.ts';
import { ListViews } from '../kit/ListViews.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { Accounts } from './Accounts.tsx';
import { Bank } from './Bank.tsx';
import { Cards } from './Cards.tsx';
import { Gifts } from './Gifts.tsx';
import { Movements } from './Movements.tsx';
import { Owed } from './Owed.tsx';
import { Receipts } from './Receipts.tsx';

const views = {
  '': { label: phrase('ledger.movements'), Show: Movements },
  accounts: { label: phrase('ledger.accounts'), Show: Accounts },
  owed: { label: phrase('ledger.owed'), Show: Owed },
  gifts: { label: phrase('ledger.giving'), Show: Gifts },
  receipts: { label: phrase('ledger.receipts'), Show: Receipts },
  bank: { label: phrase('ledger.bank'), Show: Bank },
  cards: { label: phrase('ledger.cards'), Show: Cards },
} as const;
type View = keyof typeof views;
const usual = { show: '', kind: '', account: '', fund: '', year: '' };

/** The money of the organization: how it moved, how the accounts stand, and what people owe. */
export default function Ledger() {
  const [address, put] = useAddress(usual);
  const view: View = address.show in views ? (address.show as View) : '';
  const { Show } = views[view];
  return (
    <div className="page">
      <div className="spread">
        <h1>{phrase('common.ledger')}</h1>
        <ListViews
          label={phrase('common.show')}
          value={view}
          set={(show) => put({ ...usual, show })}
          views={(Object.keys(views) as View[]).map((value) => ({ value, label: views[value].label }))}
        />
      </div>
      <Show />
    </div>
  );
}
