import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type PublicOrder, registrationContract } from '#contract/registration.ts';
import { prepare } from '#web/kit/form/request.ts';
import { Say } from '../parts.tsx';
import { BankCode, CardForm } from '../paying.tsx';
import { sayMoment, useMoney } from '../saying.ts';
import { useReload } from './booking.ts';

/** Pays what is due by card; where the bank wants a code for it, that comes first. */
export function Pay({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  const money = useMoney();
  const reload = useReload(token);
  const [anew, setAnew] = useState(false);
  if (order.payment === 'step' && !anew)
    return (
      <BankCode
        request={(body) =>
          prepare(registrationContract, 'POST /api/public/orders/:token/pay/code', {
            params: { token },
            body,
          })
        }
        after={reload}
        another={() => setAnew(true)}
      />
    );
  return (
    <chakra.div marginTop="16px">
      {order.heldUntil && <Say>{t('held', { time: sayMoment(order.heldUntil, order.event.zone) })}</Say>}
      {order.payment === 'declined' && (
        <Say tone="stop" role="alert">
          {t('declined')}
        </Say>
      )}
      <CardForm
        submit={t('payNow', { amount: money(order.payNow) })}
        request={(body) =>
          prepare(registrationContract, 'POST /api/public/orders/:token/pay', { params: { token }, body })
        }
        after={async () => {
          setAnew(false);
          await reload();
        }}
      />
    </chakra.div>
  );
}
