import { chakra } from '@chakra-ui/react';
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

/** Pays what is due by card. */
export function Pay({ order, token }: { order: PublicOrder; token: string }) {
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
              {([1, 2, 3, 4] as const).map((n) => (
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
