import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type PublicOrder, registrationContract } from '#contract/registration.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { useFrame } from '../asking.ts';
import { Say } from '../parts.tsx';
import { sayMoment, useMoney } from '../saying.ts';
import { useReload } from './booking.ts';

/** Pays what is due by card; where the bank wants a code for it, that comes first. */
export function Pay({ order, token }: { order: PublicOrder; token: string }) {
  const [anew, setAnew] = useState(false);
  return order.payment === 'step' && !anew ? (
    <BankCode token={token} another={() => setAnew(true)} />
  ) : (
    <PayByCard order={order} token={token} />
  );
}

function BankCode({ token, another }: { token: string; another: () => void }) {
  const { t } = useTranslation();
  const reload = useReload(token);
  const frame = useFrame().data;
  const [wrong, setWrong] = useState(false);
  const form = useForm({
    values: { code: '' },
    request: (body) =>
      prepare(registrationContract, 'POST /api/public/orders/:token/pay/code', { params: { token }, body }),
    after: async ({ outcome }) => {
      setWrong(outcome === 'step');
      await reload();
    },
  });
  return (
    <chakra.div marginTop="16px">
      <Say tone="need" role="status">
        {t('bankCodeHelp')}
      </Say>
      {wrong && (
        <Say tone="stop" role="alert">
          {t('bankCodeWrong')}
        </Say>
      )}
      <Form form={form} size="go" submit={form.sending ? t('loading') : t('bankCodeGo')}>
        <Text
          form={form}
          name="code"
          label={t('bankCode')}
          help={frame?.demo ? t('bankCodeDemo', { code: '2468' }) : undefined}
          inputMode="numeric"
          autoComplete="one-time-code"
          required
        />
        <Button look="link" onClick={another}>
          {t('otherCard')}
        </Button>
      </Form>
    </chakra.div>
  );
}

function PayByCard({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  const money = useMoney();
  const reload = useReload(token);
  const demo = useFrame().data?.demo ?? false;
  const form = useForm({
    values: { card: '', expiry: '' },
    request: (body) =>
      prepare(registrationContract, 'POST /api/public/orders/:token/pay', { params: { token }, body }),
    after: reload,
  });
  return (
    <chakra.div marginTop="16px">
      {order.heldUntil && <Say>{t('held', { time: sayMoment(order.heldUntil, order.event.zone) })}</Say>}
      {order.payment === 'declined' && (
        <Say tone="stop" role="alert">
          {t('declined')}
        </Say>
      )}
      <Form
        form={form}
        size="go"
        submit={form.sending ? t('loading') : t('payNow', { amount: money(order.payNow) })}
      >
        <Text
          form={form}
          name="card"
          label={t('card')}
          inputMode="numeric"
          autoComplete="cc-number"
          required
        />
        <Text
          form={form}
          name="expiry"
          label={t('expiry')}
          inputMode="numeric"
          autoComplete="cc-exp"
          placeholder="08/29"
          required
        />
        {demo && (
          <chakra.div color="soft" fontSize="14.5px">
            {t('demoCards')}
            <chakra.ul margin="4px 0 0" padding="0" listStyleType="none">
              {([1, 2, 3, 4, 6, 7, 9] as const).map((n) => (
                <li key={n}>
                  <Button
                    look="plain"
                    textStyle="figures"
                    fontSize="14.5px"
                    onClick={() => form.set({ card: `9000 0000 0000 000${n}`, expiry: '08/29' })}
                  >
                    9000 0000 0000 000{n}
                  </Button>{' '}
                  {t(`card${n}`)}
                </li>
              ))}
            </chakra.ul>
          </chakra.div>
        )}
      </Form>
    </chakra.div>
  );
}
