import { type Currency, sameFigure } from '#core/money/amount.ts';
import { ChoiceField } from '#web/kit/Field.tsx';
import { useMe } from '#web/parts/ask.ts';
import { phrase, spokenLanguage } from '#web/words/phrase.ts';
import type { PlanDraft } from './planDraft.ts';
import type { SectionProps } from './section.ts';

/** Everything an event costs, at the same figures in another currency. */
function inAnother({ plan }: Pick<PlanDraft, 'plan'>, from: Currency, to: Currency) {
  const same = (amount: number) => sameFigure(amount, from, to);
  return {
    currency: to,
    offers: plan.offers.map((o) => ({
      ...o,
      price: same(o.price),
      least: same(o.least),
      deposit: same(o.deposit),
      valueReceived: same(o.valueReceived),
      prices: o.prices.map((p) => ({ ...p, price: same(p.price) })),
    })),
    extras: plan.extras.map((e) => ({ ...e, price: same(e.price), valueReceived: same(e.valueReceived) })),
    codes: plan.codes.map((c) => ({
      ...c,
      off: c.off && 'amount' in c.off ? { amount: same(c.off.amount) } : c.off,
    })),
  };
}

/** What an event is paid in, where that is not the currency of the organization. */
export function PaidInSection({ draft }: SectionProps) {
  const usual = useMe().data?.organization.currency ?? 'CAD';
  const { plan, change, wrong } = draft;
  const names = new Intl.DisplayNames(`${spokenLanguage()}-CA`, { type: 'currency' });
  return (
    <ChoiceField
      label={phrase('offers.currencyIs')}
      value={plan.currency ?? usual}
      set={(to) => change(inAnother(draft, plan.currency ?? usual, to))}
      choices={Intl.supportedValuesOf('currency').map((code) => ({
        value: code,
        label: `${code}, ${names.of(code)}`,
      }))}
      error={wrong.currency}
      help={phrase('offers.currencyHelp')}
    />
  );
}
