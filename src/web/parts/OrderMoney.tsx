import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { moneyContract } from '#contract/money.ts';
import { type Currency, plainAmount, readAmount } from '#core/money/amount.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { OneOf } from '#web/kit/Choosing.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Choose, Money, Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { type PayBack as Back, byHand, PayBackFields } from './PayBackFields.tsx';
import { useSaying } from './saying.ts';

/** A booking as far as its money is handled. */
export interface Handled {
  orderId: string;
  orderNumber: number;
  name: string;
  currency: Currency;
  /** Still to come; below nought, to be paid back. */
  balance: number;
}

type Doing = 'received' | 'let off' | 'back';

/** The money of a booking in a dialog of its own. */
export const OrderMoney = ({ of, close }: { of: Handled; close: () => void }) => (
  <Asking
    open
    close={close}
    actions={null}
    title={phrase('ledger.moneyOf', { order: String(of.orderNumber), name: of.name })}
  >
    <MoneyByHand of={of} close={close} />
  </Asking>
);

/** Records what came in for a booking by hand, lets some of it off, or pays money back. */
export function MoneyByHand({ of, close }: { of: Handled; close: () => void }) {
  const { money } = useSaying();
  const [doing, setDoing] = useState<Doing>(of.balance > 0 ? 'received' : 'back');
  const said = (amount: number) => money(amount, of.currency);
  return (
    <chakra.div marginTop="12px">
      <chakra.p className="soft" marginBottom="8px">
        {of.balance > 0
          ? phrase('ledger.stillToCome', { amount: said(of.balance) })
          : of.balance < 0
            ? phrase('ledger.toPayBack', { amount: said(-of.balance) })
            : phrase('ledger.settled')}
      </chakra.p>
      <OneOf
        label={phrase('ledger.whatHappened')}
        value={doing}
        set={(to) => setDoing(to as Doing)}
        choices={[
          { value: 'received', label: phrase('ledger.moneyCame') },
          { value: 'let off', label: phrase('ledger.letSomeOff') },
          { value: 'back', label: phrase('ledger.moneyWentBack') },
        ]}
      />
      {doing === 'back' ? (
        <PayBack key="back" of={of} said={said} close={close} />
      ) : (
        <Receive key={doing} of={of} said={said} close={close} letOff={doing === 'let off'} />
      )}
    </chakra.div>
  );
}

interface Part {
  of: Handled;
  said: (amount: number) => string;
  close: () => void;
}

/** An amount as it is typed, in minor units; what cannot be read is none, and is refused as none. */
const amountIn = (typed: string, currency: Currency): number => readAmount(typed, currency) ?? 0;
const typedOf = ({ balance, currency }: Handled, sign: 1 | -1): string =>
  balance * sign > 0 ? plainAmount(balance * sign, currency) : '';

function Receive({ of, said, close, letOff }: Part & { letOff: boolean }) {
  const form = useForm({
    values: { amount: typedOf(of, 1), method: 'cash' as 'cash' | 'cheque' | 'transfer', reason: '' },
    request: ({ amount, method, reason }) =>
      prepare(moneyContract, 'POST /api/orders/:id/payments', {
        params: { id: of.orderId },
        body: { amount: amountIn(amount, of.currency), method: letOff ? 'waived' : method, reason },
      }),
    after: () => {
      say(phrase('common.recorded'));
      close();
    },
  });
  const amount = amountIn(form.values.amount, of.currency);
  const submit = letOff ? ('ledger.letItOff' as const) : ('ledger.recordIt' as const);
  return (
    <Form
      form={form}
      submit={amount > 0 ? phrase(submit, { amount: said(amount) }) : phrase('ledger.handleMoney')}
      label={phrase('ledger.whatHappened')}
    >
      <Money
        form={form}
        name="amount"
        label={phrase('ledger.amount')}
        currency={of.currency}
        sayAmount={said}
        required
      />
      {!letOff && <Choose form={form} name="method" label={phrase('ledger.how')} choices={byHand()} />}
      <Text
        form={form}
        name="reason"
        label={phrase(letOff ? 'ledger.why' : 'ledger.reference')}
        help={letOff ? undefined : phrase('ledger.referenceHelp')}
        required={letOff}
      />
    </Form>
  );
}

function PayBack({ of, said, close }: Part) {
  const form = useForm({
    values: {
      amount: typedOf(of, -1),
      by: 'same' as Back['by'],
      reason: '',
      gift: false,
    },
    request: ({ amount, by, reason, gift }) =>
      prepare(moneyContract, 'POST /api/orders/:id/refunds', {
        params: { id: of.orderId },
        body: { amount: amountIn(amount, of.currency), by: by === 'same' ? null : by, reason, gift },
      }),
    after: () => {
      say(phrase('ledger.wentBack'));
      close();
    },
  });
  const amount = amountIn(form.values.amount, of.currency);
  return (
    <Form
      form={form}
      submit={
        amount > 0 ? phrase('ledger.payItBack', { amount: said(amount) }) : phrase('ledger.handleMoney')
      }
      label={phrase('ledger.whatHappened')}
    >
      <PayBackFields form={form} currency={of.currency} said={said} />
      <Tick form={form} name="gift" label={phrase('ledger.fromTheGift')} />
    </Form>
  );
}
