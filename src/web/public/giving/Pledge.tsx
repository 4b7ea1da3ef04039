import './givingWords.ts';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { givingContract, type PublicPledge } from '#contract/giving.ts';
import { readAmount } from '#core/money/amount.ts';
import { sayLongDate } from '#core/time/say.ts';
import { ApiProblem, addressOf, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Money } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { useAsk } from '../asking.ts';
import { language } from '../language.ts';
import { Loaded } from '../notices.tsx';
import { Acts, Ends, Head, Rows, Say, Soft, Title } from '../parts.tsx';
import { CardForm } from '../paying.tsx';
import { PaidIn, useMoney } from '../saying.ts';

const day = (date: string): string => sayLongDate(`${date}T00:00`, language());

/** A monthly gift, from the link it came with: what it is, and how it is changed. */
export default function Pledge() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/pledges/:token', { token })}>
      {(pledge) => (
        <PaidIn.Provider value={pledge.currency}>
          <Shown pledge={pledge} token={token} />
        </PaidIn.Provider>
      )}
    </Loaded>
  );
}

function Shown({ pledge, token }: { pledge: PublicPledge; token: string }) {
  const { t } = useTranslation();
  const money = useMoney();
  const client = useQueryClient();
  const [changing, setChanging] = useState<'amount' | 'card' | 'end' | null>(null);
  const [changed, setChanged] = useState(false);
  const { state } = pledge;
  const after = async () => {
    setChanging(null);
    setChanged(true);
    await client.invalidateQueries({ queryKey: [addressOf('GET /api/public/pledges/:token', { token })] });
  };
  const change = useMutation({
    mutationFn: (next: 'running' | 'paused' | 'ended') =>
      call('POST /api/public/pledges/:token', { params: { token }, body: { state: next } }),
    onSuccess: after,
  });
  const to = (next: 'running' | 'paused' | 'ended') => change.mutate(next);
  const lives = state !== 'ended' && state !== 'begun';
  return (
    <>
      <Title>{t('pledgeTitle')}</Title>
      <p>{t('pledgeSays', { amount: money(pledge.amount), fund: pledge.fund })}</p>
      {state === 'running' && pledge.next && (
        <Soft>{t('pledgeNext', { date: day(pledge.next), card: pledge.cardEnding })}</Soft>
      )}
      {state === 'paused' && <Say tone="need">{t('pledgePaused')}</Say>}
      {state === 'missed' && <Say tone="stop">{t('pledgeMissed')}</Say>}
      {state === 'ended' && <Say>{t('pledgeEnded')}</Say>}
      {state === 'begun' && <Say tone="need">{t('pledgeBegun')}</Say>}
      {changed && !changing && (
        <Say tone="good" role="status">
          {t('pledgeChanged')}
        </Say>
      )}
      <Problems of={change.error instanceof ApiProblem ? change.error : null} />
      {lives && !changing && (
        <Acts>
          <Button onClick={() => setChanging('card')} look={state === 'missed' ? 'main' : undefined}>
            {t('pledgeCard')}
          </Button>
          <Button onClick={() => setChanging('amount')}>{t('pledgeAmount')}</Button>
          {state === 'running' && <Button onClick={() => to('paused')}>{t('pledgePause')}</Button>}
          {state === 'paused' && (
            <Button look="main" onClick={() => to('running')}>
              {t('pledgeGoOn')}
            </Button>
          )}
          <Button onClick={() => setChanging('end')}>{t('pledgeEnd')}</Button>
        </Acts>
      )}
      {changing === 'end' && (
        <Say tone="stop" role="alert">
          <p>{t('pledgeEndSure')}</p>
          <Acts>
            <Button look="stop" onClick={() => to('ended')}>
              {t('pledgeEnd')}
            </Button>
            <Button onClick={() => setChanging(null)}>{t('pledgeKeep')}</Button>
          </Acts>
        </Say>
      )}
      {changing === 'amount' && (
        <Amount pledge={pledge} token={token} after={after} cancel={() => setChanging(null)} />
      )}
      {changing === 'card' && (
        <>
          <Head>{t('pledgeCard')}</Head>
          <CardForm
            submit={t('pledgeCardSet')}
            request={(body) =>
              prepare(givingContract, 'POST /api/public/pledges/:token/card', { params: { token }, body })
            }
            after={after}
          />
        </>
      )}
      {pledge.gifts.length > 0 && (
        <>
          <Head>{t('pledgeGifts')}</Head>
          <Rows>
            {pledge.gifts.map((g) => (
              <li key={g.number}>
                <Ends>
                  <span>{day(g.on)}</span>
                  <span className="num">
                    {money(g.amount)},{' '}
                    {t(
                      g.state === 'given'
                        ? 'giftStateGiven'
                        : g.state === 'open' || g.state === 'lapsed'
                          ? 'giftStateOpen'
                          : 'giftStateReturned',
                    )}
                  </span>
                </Ends>
              </li>
            ))}
          </Rows>
        </>
      )}
    </>
  );
}

function Amount({
  pledge,
  token,
  after,
  cancel,
}: {
  pledge: PublicPledge;
  token: string;
  after: () => Promise<void>;
  cancel: () => void;
}) {
  const { t } = useTranslation();
  const money = useMoney();
  const form = useForm({
    values: { amount: '' },
    request: (v) =>
      prepare(givingContract, 'POST /api/public/pledges/:token', {
        params: { token },
        body: { amount: readAmount(v.amount, pledge.currency) ?? 0 },
      }),
    after,
  });
  const amount = readAmount(form.values.amount, pledge.currency) ?? 0;
  return (
    <Form
      form={form}
      submit={amount > 0 ? t('pledgeAmountSet', { amount: money(amount) }) : t('save')}
      beside={<Button onClick={cancel}>{t('cancel')}</Button>}
    >
      <Money
        form={form}
        name="amount"
        label={t('pledgeAmount')}
        currency={pledge.currency}
        sayAmount={money}
        required
      />
    </Form>
  );
}
