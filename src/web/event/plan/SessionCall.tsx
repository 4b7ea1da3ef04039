import { phrase } from '#web/words/phrase.ts';
import { TextField } from '../../kit/Field.tsx';
import { BothLanguages } from './entries.tsx';
import type { SectionProps } from './section.ts';

/** Asks people to propose sessions: what they are told, and until when. */
export function SessionCall({ draft: { plan, change }, page }: SectionProps) {
  const call = plan.call ?? { closes: null, words: { en: '' } };
  return (
    <>
      <BothLanguages
        long
        label={phrase('event.callWords')}
        value={call.words}
        set={(words) => change({ call: { ...call, words } })}
      />
      <div className="pair">
        <TextField
          label={phrase('event.callCloses')}
          type="date"
          value={call.closes ?? ''}
          set={(date) => change({ call: { ...call, closes: date || null } })}
        />
      </div>
      <p className="soft">
        {plan.slug
          ? phrase('event.callAddress', { address: `/e/${plan.slug}/propose` })
          : phrase('event.callNeedsAddress')}{' '}
        {page.state === 'draft' && phrase('event.callOnceCleared')}
      </p>
    </>
  );
}
