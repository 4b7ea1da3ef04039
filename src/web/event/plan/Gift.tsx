import { phrase } from '#web/words/phrase.ts';
import { SeveralOf } from '../../kit/Choosing.tsx';
import { Loaded } from '../../kit/notices.tsx';
import { useAsk } from '../../parts/ask.ts';
import type { SectionProps } from './section.ts';

/** Whether a gift is asked for with a booking, and what for. */
export function Gift({ draft: { plan, change, wrong } }: SectionProps) {
  const choices = useAsk('GET /api/choices');
  return (
    <Loaded of={choices}>
      {({ funds }) => (
        <SeveralOf
          label={phrase('offers.giftFunds')}
          help={phrase('offers.giftFundsHelp')}
          value={plan.giftFunds}
          set={(giftFunds) => change({ giftFunds })}
          choices={funds.map((f) => ({ value: f.id, label: f.name }))}
          error={wrong.giftFunds}
        />
      )}
    </Loaded>
  );
}
