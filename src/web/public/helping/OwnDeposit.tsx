import { chakra } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { depositsContract } from '#contract/deposits.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { prepare } from '#web/kit/form/request.ts';
import { Head, Say, Soft } from '../parts.tsx';
import { BankCode, CardForm } from '../paying.tsx';
import { useMoney } from '../saying.ts';

type Deposit = NonNullable<Answer<'GET /api/public/applications/:token'>['deposit']>;

/** What somebody is asked to leave as a deposit, paid here; afterwards what became of it. */
export function OwnDeposit({ deposit: d, token }: { deposit: Deposit; token: string }) {
  const { t } = useTranslation();
  const money = useMoney();
  const client = useQueryClient();
  const [anew, setAnew] = useState(false);
  const amount = money(d.amount, d.currency);
  const reload = async () => {
    setAnew(false);
    await client.invalidateQueries({
      queryKey: [addressOf('GET /api/public/applications/:token', { token })],
    });
  };
  if (d.state === 'let off') return null;
  const params = { token };
  return (
    <chakra.section marginBottom="28px">
      <Head>{t('depositTitle', { amount })}</Head>
      <Soft marginBottom="12px">{d.rule}</Soft>
      {d.state === 'held' && (
        <Say tone="good" role="status">
          {t('depositHeld', { amount })}
        </Say>
      )}
      {d.state !== 'asked' && d.state !== 'held' && (
        <Say>
          {[t(`depositState.${d.state}`, { amount: money(d.kept, d.currency) }), d.why]
            .filter(Boolean)
            .join(' ')}
        </Say>
      )}
      {d.payment === 'unknown' && (
        <Say tone="need" role="status">
          {t('depositUnknown')}
        </Say>
      )}
      {d.payment === 'declined' && (
        <Say tone="stop" role="alert">
          {t('depositDeclined')}
        </Say>
      )}
      {d.payment === 'step' && !anew && (
        <BankCode
          request={(body) =>
            prepare(depositsContract, 'POST /api/public/applications/:token/deposit/code', { params, body })
          }
          after={reload}
          another={() => setAnew(true)}
        />
      )}
      {(d.payment === 'needed' || d.payment === 'declined' || (d.payment === 'step' && anew)) && (
        <CardForm
          submit={t('depositPay', { amount })}
          request={(body) =>
            prepare(depositsContract, 'POST /api/public/applications/:token/deposit', { params, body })
          }
          after={reload}
        />
      )}
    </chakra.section>
  );
}
