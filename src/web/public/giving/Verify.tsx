import './givingWords.ts';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { receiptsContract } from '#contract/receipts.ts';
import type { Answer } from '#web/api.ts';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Say, Soft, Title } from '../parts.tsx';
import { useMoney } from '../saying.ts';
import { VerifySigned } from '../VerifySigned.tsx';

/** Says whether a receipt is ours, by the number and the code that stand on it. */
export default function Verify() {
  const { t } = useTranslation();
  const money = useMoney();
  const [search] = useSearchParams();
  const [found, setFound] = useState<Answer<'GET /api/public/verify'> | null>(null);
  const form = useForm({
    values: { number: search.get('number') ?? '', code: search.get('code') ?? '' },
    request: (query) => prepare(receiptsContract, 'GET /api/public/verify', { query }),
    check: ({ number, code }) => [
      ...(number.trim() ? [] : [{ path: 'number', code: 'about-needed' as const }]),
      ...(code.trim() ? [] : [{ path: 'code', code: 'about-needed' as const }]),
    ],
    again: true,
    after: setFound,
  });
  return (
    <>
      <Title>{t('verifyTitle')}</Title>
      <Soft marginBottom="12px">{t('verifyText')}</Soft>
      {found && (
        <Say tone={found.found ? (found.state === 'issued' ? 'good' : 'stop') : 'stop'} role="status">
          {!found.found
            ? t('verifyNot')
            : found.state === 'void'
              ? found.replacedBy
                ? t('receiptReplaced', { number: found.replacedBy })
                : t('receiptVoid')
              : t('verifyGood', {
                  date: found.issuedOn,
                  amount: money(found.eligible ?? 0, found.currency ?? undefined),
                })}
        </Say>
      )}
      <Form form={form} size="go" submit={form.sending ? t('loading') : t('verifyDo')}>
        <Text form={form} name="number" label={t('verifyNumber')} placeholder="2026-00001" required />
        <Text form={form} name="code" label={t('verifyCode')} placeholder="A1B2-C3D4-E5F6-0789" required />
      </Form>
      <VerifySigned />
    </>
  );
}
