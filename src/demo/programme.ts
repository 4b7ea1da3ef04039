import type { EventPlan } from '#contract/plan.ts';
import { type Actor, type App, inTransaction } from '#server/app/app.ts';
import { first } from '#server/db/database.ts';
import { savePlan } from '#server/events/plan.ts';
import { addDiary } from '#server/places/diaries.ts';
import { putStandin } from '#server/standins/diaries.ts';

/** Day, begin, end, room, track, title, about, seats, whose talk it is. */
type Line = [
  day: number,
  begins: string,
  ends: string,
  room: 'Main Hall' | 'Council Room',
  track: 'reed' | 'water' | 'birds' | null,
  title: string,
  about: string,
  seats: number | null,
  speakers: number[],
];

const lines: readonly Line[] = [
  [1, '09:00', '09:30', 'Main Hall', null, 'Welcome, and what the marsh did last year', '', null, [0]],
  [
    1,
    '09:30',
    '10:30',
    'Main Hall',
    'water',
    'Salt, sluices and a rising lagoon',
    'Forty years of gauge readings, and what they say about the next ten.',
    null,
    [1],
  ],
  [
    1,
    '10:45',
    '11:45',
    'Main Hall',
    'reed',
    'Cutting in winter, cutting in spring',
    'Two beds, two calendars: what came back, and who nested in it.',
    null,
    [2],
  ],
  [
    1,
    '10:45',
    '11:45',
    'Council Room',
    'birds',
    'Counting herons in the dark',
    'Bring a red lamp. We listen to recordings and count together.',
    24,
    [3],
  ],
  [
    1,
    '13:00',
    '14:00',
    'Main Hall',
    'water',
    'What the eel traps tell',
    'A season of traps at the weir, and a plan for the ladder.',
    null,
    [4],
  ],
  [
    1,
    '13:00',
    '14:00',
    'Council Room',
    'reed',
    'Thatch, panels, compost: reed that pays its way',
    '',
    24,
    [5, 2],
  ],
  [
    1,
    '14:15',
    '15:30',
    'Council Room',
    'birds',
    'Bittern, rail and warbler by ear',
    'A workshop. Headphones are there.',
    16,
    [6],
  ],
  [1, '14:15', '15:30', 'Main Hall', 'water', 'Panel: who looks after the dyke?', '', null, [0, 1, 7]],
  [1, '16:00', '17:00', 'Main Hall', null, 'Open floor: five minutes each', '', null, []],
  [
    2,
    '09:00',
    '10:00',
    'Main Hall',
    'reed',
    'Fire, grazing or blade?',
    'Three ways to keep a bed young, side by side.',
    null,
    [5],
  ],
  [2, '09:00', '10:00', 'Council Room', 'water', 'Testing water with a class of ten-year-olds', '', 20, [7]],
  [
    2,
    '10:30',
    '11:30',
    'Main Hall',
    'birds',
    'Where the swallows slept',
    'Roosts of three autumns on one map.',
    null,
    [3],
  ],
  [2, '10:30', '12:00', 'Council Room', 'reed', 'Sharpening a scythe', 'Hands on. Bring gloves.', 12, [2]],
  [2, '13:30', '15:00', 'Main Hall', null, 'What we do next, and who does it', '', null, [0]],
];
const breaks: readonly [day: number, begins: string, ends: string, title: string][] = [
  [1, '10:30', '10:45', 'Coffee'],
  [1, '12:00', '13:00', 'Soup and bread'],
  [1, '15:30', '16:00', 'Tea'],
  [2, '10:00', '10:30', 'Coffee'],
  [2, '12:00', '13:30', 'Lunch, and a walk to the sluice'],
];
const whoTheyAre = [
  'Chairs the Trust',
  'Reads the gauges at the weir',
  'Cuts reed since 1998',
  'Night Herons',
  'Keeps the eel traps',
  'Thatcher',
  'Records birds for the college',
  'Teaches at Port Ansley school',
];
const supporters: readonly [name: string, level: string][] = [
  ['Port Ansley Credit Union', 'Patron'],
  ['Causeway Printing', 'Patron'],
  ['Harbour Street Bakery', 'Friend'],
  ['Ansley College Bookshop', 'Friend'],
  ['Reed & Rope', 'Friend'],
];

/** What the Town Hall has in its own diary. */
const hallDiary = [
  'BEGIN:VCALENDAR',
  'VERSION:2.0',
  'PRODID:-//Port Ansley Town Hall//Room diary//EN',
  ...(
    [
      ['choir', '20260107T190000', '20260107T210000', 'Town choir', 'RRULE:FREQ=MONTHLY;BYDAY=1WE'],
      ['quilt', '20261017T130000', '20261017T160000', 'Quilt fair setting up', 'STATUS:TENTATIVE'],
      ['council', '20260914T183000', '20260914T210000', 'Town council', ''],
    ] as const
  ).flatMap(([uid, from, to, summary, more]) => [
    'BEGIN:VEVENT',
    `UID:${uid}@portansley.example`,
    'DTSTAMP:20260101T120000Z',
    `DTSTART;TZID=America/Halifax:${from}`,
    `DTEND;TZID=America/Halifax:${to}`,
    `SUMMARY:${summary}`,
    ...(more ? [more] : []),
    'END:VEVENT',
  ]),
  'END:VCALENDAR',
  '',
].join('\r\n');
const hallDiaryAddress = 'https://portansley.example/town-hall.ics';

/** Gives the symposium its agenda, its speakers and sponsors. */
export async function writeProgramme(app: App, staffId: string | null): Promise<void> {
  const actor: Actor = { name: 'Odalys Ferrant', staffId, requestId: null };
  const work = <T>(run: Parameters<typeof inTransaction<T>>[2]) => inTransaction(app, actor, run);
  await putStandin(app.db, hallDiaryAddress, hallDiary);
  const hall = await first<{ id: string }>(app.db, "select id from venues where name = 'Town Hall'");
  if (hall)
    await addDiary(app, actor, hall.id, {
      name: 'Town Hall office',
      roomId: null,
      address: hallDiaryAddress,
      content: null,
    });
  await work(async (w) => {
    const event = await first<{ id: string; version: number; venueId: string }>(
      w.tx,
      "select id, version, venue_id from events where public_title = 'Reedbed Symposium' and starts_at > $1",
      [w.now],
    );
    if (!event) return;
    const id = () => app.ids.id();
    const rooms = await w.tx.query<{ id: string; name: string }>(
      'select id, name from rooms where venue_id = $1',
      [event.venueId],
    );
    const people = await w.tx.query<{ id: string; name: string }>(
      `select id, trim(given_name || ' ' || family_name) as name from contacts
       where kind = 'person' and merged_into is null and birth_date < '1990-01-01' and family_name <> '' order by id limit $1`,
      [whoTheyAre.length],
    );
    const speakers = people.map(({ id: contactId, name }, at) => ({
      id: id(),
      contactId,
      name,
      line: { en: whoTheyAre[at]! },
      pictureId: null,
    }));
    const tracks = [
      { key: 'reed', name: { en: 'Reed', fr: 'Roseau' } },
      { key: 'water', name: { en: 'Water', fr: 'Eau' } },
      { key: 'birds', name: { en: 'Birds', fr: 'Oiseaux' } },
    ].map((t) => ({ ...t, id: id() }));
    const nothing = { about: { en: '' }, trackId: null, roomId: null, capacity: null, speakerIds: [] };
    const sessions: EventPlan['sessions'] = [
      ...breaks.map(([day, begins, ends, title]) => ({
        ...nothing,
        id: id(),
        kind: 'break' as const,
        title: { en: title },
        day,
        begins,
        ends,
        signUp: false,
      })),
      ...lines.map(([day, begins, ends, room, track, title, about, capacity, whose]) => ({
        ...nothing,
        id: id(),
        kind: 'session' as const,
        title: { en: title },
        about: { en: about },
        day,
        begins,
        ends,
        trackId: tracks.find((t) => t.key === track)?.id ?? null,
        roomId: rooms.find((r) => r.name === room)?.id ?? null,
        capacity,
        signUp: capacity !== null,
        speakerIds: whose.flatMap((at) => speakers[at]?.id ?? []),
      })),
    ];
    await savePlan(w, event.id, event.version, {
      speakers,
      sponsors: supporters.map(([name, level]) => ({
        id: id(),
        contactId: null,
        name,
        level,
        address: `https://${name.toLowerCase().replace(/[^a-z]+/gu, '-')}.example`,
        pictureId: null,
      })),
      tracks: tracks.map(({ key: _, ...t }) => t),
      sessions,
    });
  });
}
