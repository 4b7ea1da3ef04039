import { useTranslation } from 'react-i18next';
import type { PublicEvent } from '#contract/publicEvent.ts';
import { sayLongDate } from '#core/time/say.ts';
import { language } from './language.ts';
import { Soft } from './parts.tsx';

/** What goes back of a seat that is given up, in one sentence; nothing where everything does. */
export function Terms({ refunds }: Pick<PublicEvent, 'refunds'>) {
  const { t } = useTranslation();
  if (!refunds.length) return null;
  const steps = refunds.map(({ until, days, percent }) =>
    until === null
      ? t('refundDaysStep', { days, percent })
      : t(percent === 100 ? 'refundAll' : 'refundStep', { day: sayLongDate(until, language()), percent }),
  );
  return <Soft>{t('refundTerms', { steps: [...steps, t('refundAfter')].join('; ') })}</Soft>;
}
