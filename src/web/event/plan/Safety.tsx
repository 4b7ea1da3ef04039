import { factFlags, sayFact } from '#core/clearance/rules.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { SeveralOf } from '../../kit/Choosing.tsx';
import { ChoiceField } from '../../kit/Field.tsx';
import { useAsk } from '../../parts/ask.ts';
import type { SectionProps } from './section.ts';

/** What clearance looks at, and the waiver that is asked for. */
export function Safety({ draft: { plan, change } }: SectionProps) {
  const choices = useAsk('GET /api/choices').data;
  return (
    <>
      <SeveralOf
        label={phrase('event.whatApplies')}
        value={plan.flags}
        set={(flags) => change({ flags })}
        choices={factFlags
          .filter((flag) => flag !== 'money')
          .map((code) => ({ value: code, label: sayFact({ code }) }))}
      />
      <ChoiceField
        label={phrase('event.waiver')}
        value={plan.waiverId ?? ''}
        set={(waiverId) => change({ waiverId: waiverId || null })}
        // Newest first: of each title the newest version, and the one that is asked for now.
        choices={(choices?.waivers ?? [])
          .filter((w, at, all) => w.id === plan.waiverId || all[at - 1]?.title !== w.title)
          .map((w) => ({
            value: w.id,
            label: phrase('event.version', {
              title: w.title,
              version: w.version,
              audience: term(w.audience),
            }),
          }))}
        empty={phrase('event.noneIsAsked')}
      />
    </>
  );
}
