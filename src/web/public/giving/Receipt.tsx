import './givingWords.ts';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { addressOf } from '#web/api.ts';
import { ButtonAnchor } from '#web/kit/Button.tsx';
import { useAsk } from '../asking.ts';
import { Loaded } from '../notices.tsx';
import { Facts, Say, Title } from '../parts.tsx';
import { useMoney } from '../saying.ts';

/** A receipt, from the link it came with. */
export default function Receipt() {
  const { token = '' } = useParams();
  const { t } = useTranslation();
  const money = useMoney();
  return (
    <Loaded of={useAsk('GET /api/public/receipts/:token', { token })}>
      {(r) => (
        <>
          <Title>{t('receiptTitle', { number: r.number })}</Title>
          {r.state === 'void' && (
            <Say tone="stop">
              {r.replacedBy ? t('receiptReplaced', { number: r.replacedBy }) : t('receiptVoid')}
            </Say>
          )}
          <Facts>
            <dt>{t('receiptFor')}</dt>
            <dd>{r.name}</dd>
            <dt>{t('receiptOn')}</dt>
            <dd>{r.issuedOn}</dd>
            <dt>{t('receiptAmount')}</dt>
            <dd>{money(r.amount, r.currency)}</dd>
            <dt>{t('receiptEligible')}</dt>
            <dd>{money(r.eligible, r.currency)}</dd>
          </Facts>
          {r.thanks && <p>{r.thanks}</p>}
          <p>
            <ButtonAnchor
              look="main"
              size="go"
              href={addressOf('GET /api/public/receipts/:token/receipt.pdf', { token })}
            >
              {t('receiptPdf')}
            </ButtonAnchor>
          </p>
        </>
      )}
    </Loaded>
  );
}
