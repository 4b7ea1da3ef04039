import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import type { PublicCall } from '#contract/applying.ts';
import { sayLongDate } from '#core/time/say.ts';
import { sayDepositRule } from '#core/words/deposits.ts';
import { readTexts } from '#core/words/texts.ts';
import { language } from '../language.ts';
import { Soft } from '../parts.tsx';
import { useMoney } from '../saying.ts';

/** What a call is for: its event or its days, and what it says. */
export function AboutCall({
  call,
  depositAsked = false,
}: {
  call: PublicCall;
  /** The deposit is asked for already, and said where it is paid. */
  depositAsked?: boolean;
}) {
  const { t } = useTranslation();
  const money = useMoney();
  const words = readTexts(call.words, language());
  const { event } = call;
  const when = event?.startsLocal ? sayLongDate(event.startsLocal, language()) : '';
  return (
    <>
      {event && (
        <Soft>
          {event.slug ? (
            <Link to={`/e/${event.slug}`}>{t('helpAbout', { event: event.title })}</Link>
          ) : (
            t('helpAbout', { event: event.title })
          )}
          {[when, event.place].filter(Boolean).map((said) => `, ${said}`)}
        </Soft>
      )}
      {call.fromOn && call.untilOn && (
        <Soft>
          {t('helpFromTo', {
            from: sayLongDate(call.fromOn, language()),
            until: sayLongDate(call.untilOn, language()),
          })}
        </Soft>
      )}
      {call.deposit && !depositAsked && (
        <Soft>
          {t('helpDeposit', { amount: money(call.deposit.amount, call.deposit.currency) })}{' '}
          {sayDepositRule(call.deposit, language())}
        </Soft>
      )}
      {words && (
        <chakra.p whiteSpace="pre-line" margin="10px 0">
          {words}
        </chakra.p>
      )}
    </>
  );
}
