import { atSameFigures } from '#core/offers/currency.ts';
import { ChoiceField } from '#web/kit/Field.tsx';
import { useMe } from '#web/parts/ask.ts';
import { currencyChoices } from '#web/parts/OrganizationFields.tsx';
import { phrase } from '#web/words/phrase.ts';
import type { SectionProps } from './section.ts';

/** What an event is paid in, where that is not the currency of the organization. */
export function PaidInSection({ draft }: SectionProps) {
  const usual = useMe().data?.organization.currency ?? 'CAD';
  const { plan, change, wrong } = draft;
  return (
    <ChoiceField
      label={phrase('offers.currencyIs')}
      value={plan.currency ?? usual}
      set={(to) => change({ currency: to, ...atSameFigures(plan, plan.currency ?? usual, to) })}
      choices={currencyChoices()}
      error={wrong.currency}
      help={phrase('offers.currencyHelp')}
    />
  );
}
