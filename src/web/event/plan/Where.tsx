import { phrase, term } from '#web/words/phrase.ts';
import { Tick } from '../../kit/Choosing.tsx';
import { ChoiceField, Group, TextField } from '../../kit/Field.tsx';
import { useAsk } from '../../parts/ask.ts';
import type { SectionProps } from './section.ts';

/** Where it is, for how many, and who may find it. */
export function Where({ draft: { plan, change, wrong }, page }: SectionProps) {
  const choices = useAsk('GET /api/choices').data;
  // One that is not offered any more stays where it was chosen.
  const venues = choices?.venues ?? [];
  const all = page.venue && !venues.some((v) => v.id === page.venue!.id) ? [page.venue, ...venues] : venues;
  const venue = all.find((v) => v.id === plan.venueId);
  return (
    <div className="pair">
      <ChoiceField
        label={phrase('common.place')}
        value={plan.venueId ?? ''}
        set={(venueId) => change({ venueId: venueId || null })}
        choices={all.map((v) => ({ value: v.id, label: v.name }))}
        empty={phrase('event.toldLater')}
        consequence={venue?.capacity ? phrase('team.holds', { capacity: venue.capacity }) : ''}
      />
      <TextField
        label={phrase('common.capacity')}
        type="number"
        value={plan.capacity === null ? '' : String(plan.capacity)}
        set={(v) => change({ capacity: v === '' ? null : Number(v) })}
        error={wrong.capacity}
        help={phrase('event.seatsInAllEmpty')}
      />
      <ChoiceField
        label={phrase('event.whoMaySeeIt')}
        value={plan.visibility}
        set={(v) => change({ visibility: v as 'everyone' })}
        choices={[
          { value: 'everyone', label: term('everyone') },
          { value: 'link', label: phrase('event.anyoneWithTheLink') },
        ]}
      />
      <Group label={phrase('event.listing')}>
        <Tick checked={plan.listed} set={(listed) => change({ listed })}>
          {phrase('event.shownInTheList')}
        </Tick>
      </Group>
    </div>
  );
}
