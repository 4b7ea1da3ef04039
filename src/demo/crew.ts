import { shiftDate } from '#core/time/dates.ts';
import { insert, type Queries } from '#server/db/database.ts';
import type { Person } from './people.ts';
import type { Random } from './random.ts';

const skills = [
  ['First aid certificate', true],
  ['Boat handling ticket', true],
  ['Chainsaw ticket', true],
  ['Food safety certificate', true],
  ['Canoeing', false],
  ['Knows birds by ear', false],
] as const;
export type SkillName = (typeof skills)[number][0];

const roles: readonly {
  name: string;
  brief: string;
  fromAge?: number;
  anybody?: false;
  needs?: SkillName[];
  places?: string[];
}[] = [
  {
    name: 'Canoe leader',
    brief: 'Lead up to four canoes across the lagoon and back.',
    fromAge: 18,
    needs: ['Canoeing'],
    places: ['Landing A', 'Landing B'],
  },
  {
    name: 'Safety boat',
    brief: 'Two to a boat, always on the water while canoes are out.',
    fromAge: 18,
    needs: ['Boat handling ticket'],
    places: ['Lagoon', 'Sluice'],
  },
  {
    name: 'First aid',
    brief: 'Be found at the tent, with the bag packed.',
    needs: ['First aid certificate'],
  },
  { name: 'Welcome desk', brief: 'Greet people, tick names off, hand out life jackets.', places: ['Gate'] },
  {
    name: 'Shore guide',
    brief: 'Walk the boardwalk with people and point things out.',
    places: ['Boardwalk'],
  },
  { name: 'Kitchen', brief: 'Soup, bread and tea for everybody.', needs: ['Food safety certificate'] },
  { name: 'Serving', brief: 'Carry plates, fill glasses, clear tables.' },
  { name: 'Raffle', brief: 'Sell tickets and look after the cash.', fromAge: 16 },
  {
    name: 'Tool lead',
    brief: 'Show people how a tool is held, and count the tools back in.',
    needs: ['Chainsaw ticket'],
  },
  { name: 'Count lead', brief: 'Keep the tally of a count.', needs: ['Knows birds by ear'] },
  {
    name: 'Night leader',
    brief: 'Be there for the children from dusk to breakfast.',
    fromAge: 21,
    anybody: false,
  },
  { name: 'Breakfast', brief: 'Porridge for thirty, from six.' },
  { name: 'Table', brief: 'Keep the table, and say who brought what.' },
  { name: 'Leader', brief: 'Lead the group.', fromAge: 18, anybody: false },
  { name: 'Room host', brief: 'Look after a room: its speakers, its time and its doors.' },
];

/** The roles volunteers have here, and what each asks. Answers the skills by their names. */
export async function storeRoles(tx: Queries, id: () => string): Promise<Record<SkillName, string>> {
  const rows = skills.map(([name, certificate]) => ({ id: id(), name, certificate }));
  await insert(tx, 'skills', rows);
  const byName = Object.fromEntries(rows.map((r) => [r.name, r.id])) as Record<SkillName, string>;
  await insert(
    tx,
    'roles',
    roles.map(({ name, brief, fromAge = null, anybody = true, places = [] }) => ({
      id: id(),
      name,
      brief,
      fromAge,
      anybody,
      places,
    })),
  );
  await insert(
    tx,
    'role_needs',
    roles.flatMap(({ name, needs = [] }) => needs.map((skill) => ({ role: name, skillId: byName[skill] }))),
  );
  return byName;
}

/** How many volunteers in ten can do each. */
const share: Readonly<Record<SkillName, number>> = {
  'First aid certificate': 0.14,
  'Boat handling ticket': 0.3,
  'Chainsaw ticket': 0.2,
  'Food safety certificate': 0.35,
  Canoeing: 0.45,
  'Knows birds by ear': 0.25,
};

/** What volunteers can do. A few certificates have run out, or do within weeks; a few nobody has seen. */
export async function storeSkills(
  tx: Queries,
  random: Random,
  people: readonly Person[],
  ids: Record<SkillName, string>,
  today: string,
): Promise<void> {
  await insert(
    tx,
    'held_skills',
    people
      .filter((p) => p.volunteers)
      .flatMap((p) =>
        skills.flatMap(([name, certificate]) => {
          if (!random.chance(share[name])) return [];
          const seen = !certificate || random.chance(0.9);
          const number = certificate ? String(random.whole(10_000, 99_999)) : '';
          const until = certificate ? shiftDate(today, random.whole(-60, 900)) : null;
          const saidAt = `${shiftDate(today, -random.whole(20, 400))}T14:00:00.000Z`;
          return [
            {
              contactId: p.id,
              skillId: ids[name],
              number,
              until,
              seenBy: seen ? 'Imani Okarro' : null,
              seenAt: seen ? saidAt : null,
              saidAt,
            },
          ];
        }),
      ),
  );
}

/** What is said of the shifts of Open Water Day, by role and place. */
const briefings: readonly (readonly [role: string, place: string, briefing: string])[] = [
  [
    'Canoe leader',
    'Landing A',
    'Park at the Reedhouse and walk down; the landing is kept free.\nPaddles and life jackets are in the red shed.',
  ],
  [
    'Canoe leader',
    'Landing B',
    'Over the footbridge, then left.\nPaddles and life jackets are in the green shed.',
  ],
  ['Safety boat', 'Lagoon', 'Fuel and radio are handed out at Landing A, half an hour before.'],
  ['Kitchen', 'Reedhouse', 'By the back door. Aprons are there; closed shoes are yours.'],
];

/** Says what to know of the shifts of an event to come, and who leads them: somebody who is on each. */
export async function briefShifts(db: Queries, title: string): Promise<void> {
  for (const [role, place, briefing] of briefings)
    await db.query(
      `update shifts s set briefing = $4, lead_id = (
         select a.contact_id from assignments a
         where a.shift_id = s.id and a.state = 'agreed'
           and exists (select 1 from contact_phones p where p.contact_id = a.contact_id and p.ended_on is null)
         order by a.contact_id limit 1)
       from events e where e.id = s.event_id and e.public_title = $1 and e.state = 'open' and s.role = $2 and s.place = $3`,
      [title, role, place, briefing],
    );
}
