import { chakra } from '@chakra-ui/react';
import { type GiftRow, givingContract } from '#contract/giving.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { type PayBack, PayBackFields } from '../parts/PayBackFields.tsx';
import { useSaying } from '../parts/saying.ts';

/** Pays a gift back, all or some of it. */
export function GiftBack({ gift, close }: { gift: GiftRow; close: () => void }) {
  const { money } = useSaying();
  const said = (of: number) => money(of, gift.currency);
  const form = useForm({
    values: {
      amount: plainAmount(gift.received, gift.currency),
      by: 'same' as PayBack['by'],
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
      <PayBackFields form={form} currency={gift.currency} said={said} />
    </FormDialog>
  );
}
