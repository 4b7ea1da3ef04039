import { chakra } from '@chakra-ui/react';
import { type GiftRow, givingContract } from '#contract/giving.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Choose, Money, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { useSaying } from '../parts/saying.ts';

/** Pays a gift back, all or some of it. */
export function GiftBack({ gift, close }: { gift: GiftRow; close: () => void }) {
  const { money } = useSaying();
  const said = (of: number) => money(of, gift.currency);
  const form = useForm({
    values: {
      amount: plainAmount(gift.received, gift.currency),
      by: 'same' as 'same' | 'cash' | 'cheque' | 'transfer',
      reason: '',
    },
    request: ({ amount, by, reason }) =>
      prepare(givingContract, 'POST /api/gifts/:id/refunds', {
        params: { id: gift.id },
        body: { amount: readAmount(amount, gift.currency) ?? 0, by: by === 'same' ? null : by, reason },
      }),
    after: () => {
      say(phrase('ledger.wentBack'));
      close();
    },
  });
  const amount = readAmount(form.values.amount, gift.currency) ?? 0;
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('ledger.giftBackTitle', { number: String(gift.number), name: gift.name })}
      submit={amount > 0 ? phrase('ledger.payItBack', { amount: said(amount) }) : phrase('ledger.payBack')}
    >
      <chakra.p className="soft" marginTop="8px">
        {phrase('ledger.giftCame', { amount: said(gift.received) })}
      </chakra.p>
      <Money
        form={form}
        name="amount"
        label={phrase('ledger.amount')}
        currency={gift.currency}
        sayAmount={said}
        required
      />
      <Choose
        form={form}
        name="by"
        label={phrase('ledger.how')}
        help={phrase('ledger.asItCameHelp')}
        choices={[
          { value: 'same', label: phrase('ledger.asItCame') },
          { value: 'cash', label: phrase('ledger.inCash') },
          { value: 'cheque', label: phrase('ledger.byCheque') },
          { value: 'transfer', label: phrase('ledger.byTransfer') },
        ]}
      />
      <Text form={form} name="reason" label={phrase('ledger.why')} required />
    </FormDialog>
  );
}
