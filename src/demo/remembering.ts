import { shiftDate } from '#core/time/dates.ts';
import { refreshFound } from '#server/contacts/keys.ts';
import { insert, type Queries } from '#server/db/database.ts';
import type { Person } from './people.ts';
import { makeRandom } from './random.ts';

const skills = [
  'chainsaw',
  'first aid',
  'canoe leader',
  'bird ringing',
  'bakes',
  'drives the van',
  'carpentry',
  'quilts',
];
const interests = ['birds', 'plants', 'quiet evenings', 'bees', 'photographs', 'local history'];

const notes = [
  'Prefers mornings; has the grandchildren after three.',
  'Met at the plant stall and asked about the reed cut.',
  'Bad knee: no lifting, glad to do the desk.',
  'Would lend the trailer again.',
  'Asked for step-free ways in; the east gate is fine.',
  'Knows everybody on the causeway.',
  'Call, do not write: reads email once a month.',
  'Allergic to wasp stings, carries a pen.',
  'Offered quilts for the raffle.',
  'Wants to hear when the hide opens.',
];
const tasks = [
  'Ask whether the trailer is free in August.',
  'Thank for the quilts and ask for a photograph of them.',
  'Find out about the college room for the autumn talk.',
  'Ring about the first aid course.',
];

/** Stores what the Trust keeps in mind about people: tags, notes, tasks, and what their telephones are for. */
export async function storeRemembered(
  tx: Queries,
  people: readonly Person[],
  ids: { id(): string },
  today: string,
): Promise<void> {
  const random = makeRandom(2718);
  const adults = people.filter((p) => !p.child);
  const noon = (daysAgo: number) => `${shiftDate(today, -daysAgo)}T15:00:00.000Z`;
  await insert(
    tx,
    'contact_tags',
    adults.flatMap((p) => {
      const own = p.volunteers
        ? random.some(skills, random.whole(1, 3))
        : random.chance(0.12)
          ? random.some(interests, random.whole(1, 2))
          : [];
      return own.map((tag) => ({ contactId: p.id, tag, at: noon(random.whole(20, 900)) }));
    }),
    'on conflict do nothing',
  );
  const note = (contactId: string, text: string, daysAgo: number, dueOn: string | null = null) => ({
    id: ids.id(),
    contactId,
    text,
    author: 'Odalys Ferrant',
    at: noon(daysAgo),
    dueOn,
  });
  await insert(tx, 'contact_notes', [
    ...random.some(adults, 90).map((p) => note(p.id, random.pick(notes), random.whole(10, 800))),
    // Due from a few days ago to next month, so that the Desk has one that is late.
    ...random
      .some(adults, tasks.length)
      .map((p, at) => note(p.id, tasks[at]!, 14, shiftDate(today, at * 9 - 2))),
  ]);
  await tx.query("update contact_phones set kind = 'mobile' where abs(hashtext(phone)) % 10 < 6");
  const second = random.some(adults, 100);
  await insert(
    tx,
    'contact_phones',
    second.map((p, at) => ({
      id: ids.id(),
      contactId: p.id,
      phone: `+1782555${String(100 + at).padStart(4, '0')}`,
      kind: random.chance(0.6) ? 'home' : 'work',
      position: 1,
    })),
  );
  await refreshFound(
    tx,
    second.map((p) => p.id),
  );
}
