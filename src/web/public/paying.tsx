import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import type { Prepared } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { useFrame } from './asking.ts';
import { Say } from './parts.tsx';

export interface CardTyped {
  card: string;
  expiry: string;
}

/** How a payment went, or that a code is wanted first. */
interface Outcome {
  outcome: 'succeeded' | 'declined' | 'step' | 'unknown';
}

/** Number and date of a card, and a button that says what it does. In the demonstration, cards that do something. */
export function CardForm({
  submit,
  request,
  after,
}: {
  submit: string;
  request: (typed: CardTyped) => Prepared<unknown>;
  after: () => Promise<void> | void;
}) {
  const { t } = useTranslation();
  const demo = useFrame().data?.demo ?? false;
  const form = useForm({ values: { card: '', expiry: '' }, request, after: () => after() });
  return (
    <Form form={form} size="go" submit={form.sending ? t('loading') : submit}>
      <Text form={form} name="card" label={t('card')} inputMode="numeric" autoComplete="cc-number" required />
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
  );
}

/** The code that the bank wants before it pays. */
export function BankCode({
  request,
  after,
  another,
}: {
  request: (typed: { code: string }) => Prepared<Outcome>;
  after: () => Promise<void> | void;
  /** Pays with another card instead. */
  another: () => void;
}) {
  const { t } = useTranslation();
  const frame = useFrame().data;
  const [wrong, setWrong] = useState(false);
  const form = useForm({
    values: { code: '' },
    request,
    after: async (answer) => {
      setWrong(answer.outcome === 'step');
      await after();
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
      </Form>
      <chakra.p marginTop="10px">
        <Button look="link" onClick={another}>
          {t('otherCard')}
        </Button>
      </chakra.p>
    </chakra.div>
  );
}
