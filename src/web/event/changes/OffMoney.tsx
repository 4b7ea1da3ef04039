import { chakra } from '@chakra-ui/react';
import { Choose, OneOf } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import type { Settled } from './settling.ts';

/** What becomes of what was paid for events that are called off. */
export function OffMoney({
  form,
  money,
}: {
  form: Form<Settled>;
  money: { orders: number; sums: readonly { amount: number; currency: string }[] };
}) {
  const saying = useSaying();
  const funds = useAsk('GET /api/choices').data?.funds ?? [];
  return (
    <>
      <chakra.p marginBottom="4px">
        <b>{phrase('changes.money', { count: money.orders, amount: saying.sums(money.sums) })}</b>
      </chakra.p>
      <OneOf
        form={form}
        name="money"
        label={phrase('changes.moneyLabel')}
        choices={[
          { value: 'return', label: phrase('changes.moneyReturn') },
          { value: 'ask', label: phrase('changes.moneyAsk') },
          { value: 'by hand', label: phrase('changes.moneyByHand') },
        ]}
      />
      {form.values.money === 'ask' && funds.length > 1 && (
        <Choose
          form={form}
          name="fundId"
          label={phrase('changes.fund')}
          empty={funds[0]!.name}
          choices={funds.slice(1).map((f) => ({ value: f.id, label: f.name }))}
        />
      )}
    </>
  );
}
