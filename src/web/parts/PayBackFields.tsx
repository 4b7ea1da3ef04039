import type { Currency } from '#core/money/amount.ts';
import { Choose, Money, Text } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { phrase } from '#web/words/phrase.ts';

/** The ways money comes and goes by hand, as they are chosen. */
export const byHand = () => [
  { value: 'cash' as const, label: phrase('ledger.inCash') },
  { value: 'cheque' as const, label: phrase('ledger.byCheque') },
  { value: 'transfer' as const, label: phrase('ledger.byTransfer') },
];

/** What is paid back, as it is filled in. */
export interface PayBack {
  amount: string;
  /** `same`: the way it came. */
  by: 'same' | 'cash' | 'cheque' | 'transfer';
  reason: string;
}

/** How money goes back: how much, which way, and why. */
export function PayBackFields<V extends PayBack>({
  form: given,
  currency,
  said,
}: {
  form: Form<V>;
  currency: Currency;
  said: (amount: number) => string;
}) {
  const form = given as unknown as Form<PayBack>;
  return (
    <>
      <Money
        form={form}
        name="amount"
        label={phrase('ledger.amount')}
        currency={currency}
        sayAmount={said}
        required
      />
      <Choose
        form={form}
        name="by"
        label={phrase('ledger.how')}
        help={phrase('ledger.asItCameHelp')}
        choices={[{ value: 'same', label: phrase('ledger.asItCame') }, ...byHand()]}
      />
      <Text form={form} name="reason" label={phrase('ledger.why')} required />
    </>
  );
}
