import type { Stage } from '#core/events/states.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { insert, type Queries } from '#server/db/database.ts';
import type { Ids } from '#server/db/ids.ts';
import type { Founded } from './organization.ts';

/** What was learnt at events of the past, by their title and year. */
const learnt: readonly { title: string; year: number; stage: Stage; text: string; by: string }[] = [
  {
    title: 'Open Water Day',
    year: 2025,
    stage: 'plan',
    text: 'Eighty at once were too many for nine canoes. Give seats a time of day, or take fewer.',
    by: 'Odalys Ferrant',
  },
  {
    title: 'Open Water Day',
    year: 2025,
    stage: 'crew',
    text: 'Two people for life jackets from nine to ten; one cannot fit eighty.',
    by: 'Odalys Ferrant',
  },
  {
    title: 'Open Water Day',
    year: 2025,
    stage: 'doors',
    text: 'Put the shade tent where the queue is, not beside the landing.',
    by: 'Odalys Ferrant',
  },
  {
    title: 'Fen Supper',
    year: 2025,
    stage: 'plan',
    text: 'The microphone of the Town Hall has to be asked for by itself. At the back nobody heard the speeches.',
    by: 'Odalys Ferrant',
  },
  {
    title: 'Fen Supper',
    year: 2025,
    stage: 'registration',
    text: 'Tables of eight were gone in three days. Open them to members a week earlier.',
    by: 'Odalys Ferrant',
  },
  {
    title: 'Reedbed Symposium',
    year: 2024,
    stage: 'messages',
    text: 'Speakers want the room and the cable a week before, not the day before.',
    by: 'Odalys Ferrant',
  },
];

/** Writes down what was learnt, a day after each event. */
export async function writeLessons(tx: Queries, ids: Ids, founded: Founded): Promise<void> {
  for (const { title, year, stage, text, by } of learnt) {
    const [event] = await tx.query<{ id: string; startsAt: string }>(
      "select id, starts_at from events where public_title = $1 and extract(year from starts_at) = $2 and state = 'wrapped' order by starts_at limit 1",
      [title, year],
    );
    if (!event) throw new Error(`There was no ${title} in ${year} to learn from.`);
    await insert(tx, 'lessons', {
      id: ids.id(),
      eventId: event.id,
      stage,
      text,
      author: by,
      staffId: founded.staff[by],
      at: plusMinutes(event.startsAt, 2 * 1440),
    });
  }
}
