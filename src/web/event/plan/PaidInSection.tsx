import { atSameFigures } from '#core/offers/currency.ts';
import { ChoiceField } from '#web/kit/Field.tsx';
import { useMe } from '#web/parts/ask.ts';
import { phrase, spokenLanguage } from '#web/words/phrase.ts';
import type { SectionProps } from './section.ts';

/** What an event is paid in, where that is not the currency of the organization. */
export function PaidInSection({ draft }: SectionProps) {
  const usual = useMe().data?.organization.currency ?? 'CAD';
  const { plan, change, wrong } = draft;
  const names = new Intl.DisplayNames(`${spokenLanguage()}-CA`, { type: 'currency' });
  return (
    <ChoiceField
      label={phrase('offers.currencyIs')}
      value={plan.currency ?? usual}
      set={(to) => change({ currency: to, ...atSameFigures(plan, plan.currency ?? usual, to) })}
      choices={Intl.supportedValuesOf('currency').map((code) => ({
        value: code,
        label: `${code}, ${names.of(code)}`,
      }))}
      error={wrong.currency}
      help={phrase('offers.currencyHelp')}
    />
  );
}
