import './givingWords.ts';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { givingContract, type PublicGift } from '#contract/giving.ts';
import { addressOf } from '#web/api.ts';
import { ButtonLink } from '#web/kit/Button.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useAsk } from '../asking.ts';
import { Loaded } from '../notices.tsx';
import { Say, Soft, Title } from '../parts.tsx';
import { BankCode, CardForm } from '../paying.tsx';
import { useMoney } from '../saying.ts';

/** A gift, from the link it came with: it is paid here, and thanked for. */
export default function Gift() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/gifts/:token', { token }, { everyMs: 15_000 })}>
      {(gift) => <Shown gift={gift} token={token} />}
    </Loaded>
  );
}

function Shown({ gift, token }: { gift: PublicGift; token: string }) {
  const { t } = useTranslation();
  const money = useMoney();
  const client = useQueryClient();
  const [anew, setAnew] = useState(false);
  const amount = money(gift.amount, gift.currency);
  const reload = async () => {
    setAnew(false);
    await client.invalidateQueries({ queryKey: [addressOf('GET /api/public/gifts/:token', { token })] });
  };
  const paid = gift.payment === 'paid';
  return (
    <>
      <Title>{paid ? t('giftThanks', { name: gift.given }) : t('giftTitle')}</Title>
      <Soft marginBottom="14px">
        {[t('giftNumber', { number: gift.number, fund: gift.fund }), gift.tribute].filter(Boolean).join(', ')}
      </Soft>
      {paid && (
        <>
          <Say tone="good" role="status">
            {t('giftReceived', { amount, fund: gift.fund })} {gift.monthly && t('giftMonthlySent')}
          </Say>
          {gift.thanks && <p>{gift.thanks}</p>}
        </>
      )}
      {gift.payment === 'over' && <Say>{t('giftReturned')}</Say>}
      {gift.payment === 'unknown' && (
        <Say tone="need" role="status">
          {t('giftUnknown')}
        </Say>
      )}
      {gift.payment === 'declined' && (
        <Say tone="stop" role="alert">
          {t('giftDeclined')}
        </Say>
      )}
      {gift.payment === 'step' && !anew ? (
        <BankCode
          request={(body) =>
            prepare(givingContract, 'POST /api/public/gifts/:token/pay/code', { params: { token }, body })
          }
          after={reload}
          another={() => setAnew(true)}
        />
      ) : (
        (gift.payment === 'needed' || gift.payment === 'declined' || gift.payment === 'step') && (
          <CardForm
            submit={t('giftPay', { amount })}
            request={(body) =>
              prepare(givingContract, 'POST /api/public/gifts/:token/pay', { params: { token }, body })
            }
            after={reload}
          />
        )
      )}
      {gift.page && paid && (
        <p>
          <ButtonLink look="link" to={`/give/${gift.page.slug}`}>
            {t('backToPage', { title: gift.page.title })}
          </ButtonLink>
        </p>
      )}
    </>
  );
}
