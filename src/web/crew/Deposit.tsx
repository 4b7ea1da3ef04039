import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { Application } from '#contract/applying.ts';
import { depositsContract } from '#contract/deposits.ts';
import type { DepositState } from '#core/crew/deposit.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Choose, Money, Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

type Deposit = NonNullable<Application['deposit']>;

export const depositWords: Readonly<Record<DepositState, string>> = {
  asked: phrase('applying.deposit-asked'),
  held: phrase('applying.deposit-held'),
  returned: phrase('applying.deposit-returned'),
  'part returned': phrase('applying.deposit-part returned'),
  kept: phrase('applying.deposit-kept'),
  owed: phrase('applying.deposit-owed'),
  'let off': phrase('applying.deposit-let off'),
};

/** What somebody was asked to leave as a deposit: what became of it, and what would go back now. */
export function DepositOf({ name, deposit: d }: { name: string; deposit: Deposit }) {
  const { money, at } = useSaying();
  const [open, setOpen] = useState<'received' | 'settle' | null>(null);
  const letOff = useAction('POST /api/deposits/:id/let-off', () => say(phrase('applying.depositIsLetOff')));
  const amount = (of: number) => money(of, d.currency);
  return (
    <chakra.section margin="14px 0">
      <h3>{phrase('applying.deposit')}</h3>
      <Problems of={letOff.problem} />
      <p>
        <span className="num">{amount(d.amount)}</span>
        {', '}
        {depositWords[d.state]}
        {d.settledBy && ` (${d.settledBy}, ${at(d.settledAt)})`}
      </p>
      {(d.state === 'held' || d.state === 'owed') && (
        <p className="soft">
          {phrase('applying.depositWould', { amount: amount(d.wouldGoBack), why: d.why })}
        </p>
      )}
      {d.settledBy && d.state !== 'owed' && (
        <p className="soft">
          {[d.kept > 0 && phrase('applying.depositKept', { amount: amount(d.kept) }), d.why]
            .filter(Boolean)
            .join(' ')}
        </p>
      )}
      <chakra.div className="acts" marginTop="6px">
        {d.state === 'asked' && (
          <>
            <Button onClick={() => setOpen('received')}>{phrase('applying.depositCame')}</Button>
            <Button
              disabled={letOff.isPending}
              onClick={() => letOff.mutate({ params: { id: d.id } })}
              look="plain"
            >
              {phrase('applying.depositLetOff')}
            </Button>
          </>
        )}
        {(d.state === 'held' || d.state === 'owed') && (
          <Button onClick={() => setOpen('settle')}>{phrase('applying.depositSettle')}</Button>
        )}
      </chakra.div>
      {open === 'received' && <Received name={name} deposit={d} close={() => setOpen(null)} />}
      {open === 'settle' && <Settle name={name} deposit={d} close={() => setOpen(null)} />}
    </chakra.section>
  );
}

const ways = [
  { value: 'cash', label: phrase('applying.by-cash') },
  { value: 'cheque', label: phrase('applying.by-cheque') },
  { value: 'transfer', label: phrase('applying.by-transfer') },
] as const;

function Received({ name, deposit: d, close }: { name: string; deposit: Deposit; close: () => void }) {
  const { money } = useSaying();
  const form = useForm({
    values: { method: 'cash' as (typeof ways)[number]['value'] },
    request: (body) =>
      prepare(depositsContract, 'POST /api/deposits/:id/received', { params: { id: d.id }, body }),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('applying.depositFrom', { name, amount: money(d.amount, d.currency) })}
      submit={phrase('applying.depositCame')}
    >
      <Choose form={form} name="method" label={phrase('applying.depositHow')} choices={[...ways]} />
    </FormDialog>
  );
}

function Settle({ name, deposit: d, close }: { name: string; deposit: Deposit; close: () => void }) {
  const { money } = useSaying();
  const open = d.received - d.kept;
  const form = useForm({
    values: {
      amount: plainAmount(d.wouldGoBack, d.currency),
      by: '' as '' | (typeof ways)[number]['value'],
      words: d.why,
      tell: true,
    },
    request: (v) =>
      prepare(depositsContract, 'POST /api/deposits/:id/settle', {
        params: { id: d.id },
        body: {
          amount: v.amount.trim() ? (readAmount(v.amount, d.currency) ?? Number.NaN) : Number.NaN,
          by: v.by || null,
          words: v.words,
          tell: v.tell,
        },
      }),
    after: () => {
      say(phrase('applying.depositIsSettled'));
      close();
    },
  });
  const back = readAmount(form.values.amount, d.currency);
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('applying.depositBackTo', { name, amount: money(open, d.currency) })}
      submit={phrase('applying.depositSettle')}
    >
      <Money
        form={form}
        name="amount"
        label={phrase('applying.depositGoesBack')}
        currency={d.currency}
        sayAmount={(of) => money(of, d.currency)}
        consequence={
          back !== null && back < open
            ? phrase('applying.depositKeeps', { amount: money(open - back, d.currency) })
            : back === open
              ? phrase('applying.depositAll')
              : undefined
        }
      />
      <Choose
        form={form}
        name="by"
        label={phrase('applying.depositHow')}
        choices={[{ value: '', label: phrase('applying.by-as it came') }, ...ways]}
      />
      <Text form={form} name="words" label={phrase('applying.depositWhy')} required />
      <Tick form={form} name="tell" label={phrase('applying.tellThem')} />
    </FormDialog>
  );
}
