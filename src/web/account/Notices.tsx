import { noticesContract } from '#contract/notices.ts';
import { plainAmount, readAmount, sayAmount } from '#core/money/amount.ts';
import { type NoticeTime, noticeTimes, sayNoticed } from '#core/notices/notices.ts';
import type { Answer } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Choose, Money, Tick } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAsk, useMe } from '../parts/ask.ts';

type Known = Answer<'GET /api/account/notices'>;

/** What one is told of by email that others did. */
export function Notices() {
  const known = useAsk('GET /api/account/notices');
  return (
    <Loaded of={known}>
      {(k) =>
        k.wishes.length > 0 && (
          <section aria-label={phrase('account.told')}>
            <h2>{phrase('account.told')}</h2>
            <p className="soft">{phrase('account.toldText', { morning: k.morning })}</p>
            <Wishes key={JSON.stringify(k)} known={k} />
          </section>
        )
      }
    </Loaded>
  );
}

const sayTime: Readonly<Record<NoticeTime, () => string>> = {
  never: () => phrase('account.never'),
  soon: () => phrase('account.soon'),
  'each morning': () => phrase('account.eachMorning'),
};

function Wishes({ known: { wishes, onlyMine, leastGift } }: { known: Known }) {
  const currency = useMe().data?.organization.currency ?? 'CAD';
  const form = useForm({
    values: { wishes, onlyMine, leastGift: leastGift ? plainAmount(leastGift, currency) : '' },
    request: ({ leastGift: least, ...body }) =>
      prepare(noticesContract, 'PUT /api/account/notices', {
        body: { ...body, leastGift: least.trim() ? (readAmount(least, currency) ?? Number.NaN) : 0 },
      }),
    after: () => say(phrase('common.saved')),
  });
  const gifts = form.values.wishes.some((w) => w.what === 'gift' && w.when !== 'never');
  return (
    <div className="form">
      <Form form={form} submit={phrase('common.save')} look="normal">
        <div className="pair">
          {wishes.map(({ what }, at) => (
            <Choose
              key={what}
              form={form}
              name={`wishes.${at}.when`}
              label={sayNoticed(what)}
              choices={noticeTimes.map((value) => ({ value, label: sayTime[value]() }))}
            />
          ))}
          {gifts && (
            <Money
              form={form}
              name="leastGift"
              label={phrase('account.leastGift')}
              currency={currency}
              sayAmount={(amount) => sayAmount(amount, currency)}
            />
          )}
        </div>
        <Tick form={form} name="onlyMine" label={phrase('account.onlyMine')} />
      </Form>
    </div>
  );
}
