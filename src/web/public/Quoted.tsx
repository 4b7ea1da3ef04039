import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import type { Quote } from '#core/offers/quote.ts';
import { language } from './language.ts';
import { Ends, Soft } from './parts.tsx';

/** What an order comes to, line by line, with why each costs what it does. */
export function Quoted({
  quote,
  money,
  restBy,
}: {
  quote: Quote;
  money: (amount: number) => string;
  /** Until when the rest is paid, in words. */
  restBy: string | null;
}) {
  const { t } = useTranslation();
  const why = {
    members: t('whyMembers'),
    early: t('whyEarly'),
    group: t('whyGroup'),
    guest: t('whyGuest'),
    full: '',
    chosen: '',
  };
  const rate = (of: number) => (of / 1000).toLocaleString(language() === 'fr' ? 'fr-CA' : 'en-CA');
  // One thing at its own price needs no reckoning.
  const plain =
    quote.lines.length <= 1 &&
    !quote.discount &&
    !quote.taxes.length &&
    !quote.donation &&
    (quote.lines[0]?.why ?? 'full') === 'full';
  return (
    <chakra.div borderTop="1px solid" borderColor="rule" marginTop="22px" paddingTop="12px">
      {!plain && (
        <chakra.div as="ul" listStyleType="none" margin="0 0 8px" padding="0">
          {quote.lines.map((l) => (
            <Line key={`${l.id}${l.optionId}${l.why}`} amount={money(l.amount)}>
              {l.units} × {l.name}
              {why[l.why] && <chakra.span color="soft">, {why[l.why]}</chakra.span>}
            </Line>
          ))}
          {quote.discount && (
            <Line amount={`− ${money(quote.discount.amount)}`}>
              {t('codeIn', { code: quote.discount.code })}
            </Line>
          )}
          {quote.taxes.map((tax) => (
            <Line key={tax.name} amount={money(tax.amount)} soft={tax.included}>
              {t(tax.included ? 'inTax' : 'onTax', { name: tax.name, rate: rate(tax.rate) })}
            </Line>
          ))}
          {quote.donation > 0 && <Line amount={money(quote.donation)}>{t('aGift')}</Line>}
        </chakra.div>
      )}
      <Ends>
        <span>
          {t('total')}, {t('seats', { count: quote.seats })}
        </span>
        <b className="num">{money(quote.total)}</b>
      </Ends>
      {quote.dueNow < quote.total && (
        <>
          <Ends marginTop="4px">
            <span>{t('nowOf')}</span>
            <b className="num">{money(quote.dueNow)}</b>
          </Ends>
          <Soft>
            {restBy
              ? t('laterUntil', { amount: money(quote.total - quote.dueNow), day: restBy })
              : t('laterOf', { amount: money(quote.total - quote.dueNow) })}
          </Soft>
        </>
      )}
    </chakra.div>
  );
}

const Line = ({
  children,
  amount,
  soft = false,
}: {
  children: ReactNode;
  amount: string;
  soft?: boolean;
}) => (
  <Ends as="li" color={soft ? 'soft' : undefined} padding="2px 0">
    <span>{children}</span>
    <chakra.span className="num" whiteSpace="nowrap">
      {amount}
    </chakra.span>
  </Ends>
);
