import { bankContract } from '#contract/bank.ts';
import { type Account, accountNames } from '#core/money/accounts.ts';
import type { Answer } from '#web/api.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { accountWords } from './accountWords.ts';

/** The codes by which an accountant knows the accounts. */
export function AccountCodes({ close }: { close: () => void }) {
  return (
    <Loaded of={useAsk('GET /api/account-codes')}>{(codes) => <Fields codes={codes} close={close} />}</Loaded>
  );
}

function Fields({ codes, close }: { codes: Answer<'GET /api/account-codes'>; close: () => void }) {
  const form = useForm({
    values: { of: accountNames.map((account) => codes.find((c) => c.account === account)?.code ?? '') },
    request: ({ of }) =>
      prepare(bankContract, 'PUT /api/account-codes', {
        body: { codes: accountNames.map((account: Account, at) => ({ account, code: of[at] ?? '' })) },
      }),
    fieldOf: (path) => path.replace(/^codes\.(\d+)\..*$/u, 'of.$1'),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      wide
      close={close}
      title={phrase('ledger.accountCodes')}
      submit={phrase('common.save')}
    >
      <p className="soft">{phrase('ledger.accountCodesText')}</p>
      <div className="pair">
        {accountNames.map((account, at) => (
          <Text key={account} form={form} name={`of.${at}`} label={accountWords[account]} />
        ))}
      </div>
    </FormDialog>
  );
}
