import type { EventPlan } from '#contract/plan.ts';
import type { Measure } from '#core/outcomes/measure.ts';
import type { Doubt } from '#core/outcomes/tally.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { type App, inTransaction, systemActor, type Work } from '#server/app/app.ts';
import { insert } from '#server/db/database.ts';
import { makeIds } from '#server/db/ids.ts';
import { setCounting } from '#server/outcomes/counting.ts';
import type { Founded } from './organization.ts';
import { makeRandom, type Random } from './random.ts';

type Key = 'removed' | 'boardwalk' | 'herons' | 'kinds' | 'clarity';

/** What the trust counts. */
const measures: Readonly<Record<Key, Omit<Measure, 'id'>>> = {
  removed: {
    name: { en: 'Reed, silt and litter taken out', fr: 'Roseaux, vase et déchets retirés' },
    unit: { en: 'kg' },
    kind: 'sum',
    direction: 'more',
    decimals: 0,
    most: 400,
    enteredBy: 'people',
    lookedAt: false,
  },
  boardwalk: {
    name: { en: 'Boardwalk laid', fr: 'Passerelle posée' },
    unit: { en: 'm' },
    kind: 'sum',
    direction: 'more',
    decimals: 1,
    most: 40,
    enteredBy: 'crew',
    lookedAt: false,
  },
  herons: {
    name: { en: 'Herons counted', fr: 'Hérons comptés' },
    unit: { en: 'herons', fr: 'hérons' },
    kind: 'count',
    direction: 'more',
    decimals: 0,
    most: 120,
    enteredBy: 'people',
    lookedAt: false,
  },
  kinds: {
    name: { en: 'Kinds of birds', fr: 'Espèces d’oiseaux' },
    unit: { en: '' },
    kind: 'distinct',
    direction: 'more',
    decimals: 0,
    most: null,
    enteredBy: 'anyone',
    lookedAt: false,
  },
  clarity: {
    name: { en: 'How far one sees into the water', fr: 'Transparence de l’eau' },
    unit: { en: 'cm' },
    kind: 'latest',
    direction: 'more',
    decimals: 0,
    most: 300,
    enteredBy: 'team',
    lookedAt: false,
  },
};

const birds = [
  'Great blue heron',
  'American bittern',
  'Sora',
  'Belted kingfisher',
  'Marsh wren',
  'Red-winged blackbird',
  'Osprey',
  'Wood duck',
  'Pied-billed grebe',
  'Swamp sparrow',
  'Common yellowthroat',
  'Black-crowned night heron',
  'Virginia rail',
  'Green heron',
  'Tree swallow',
  'Northern harrier',
];
const places = ['North sluice', 'Landing A', 'Long reach', 'Willow corner', 'Old jetty'];

interface Held {
  id: string;
  title: string;
  state: string;
  startsAt: string;
  endsAt: string;
}

type Outcomes = EventPlan['outcomes'];

/** What each kind of event counts, what was planned of it, and when it can be counted. */
const counts: Readonly<
  Record<string, { of: readonly [Key, number | null][]; opens: number; closes: number }>
> = {
  'First Wednesday Reed Cut': {
    of: [
      ['removed', 250],
      ['boardwalk', 8],
      ['clarity', null],
    ],
    opens: 0,
    closes: 3,
  },
  'Open Water Day': { of: [['removed', 300]], opens: 1, closes: 3 },
  'Mudlarks Overnight': {
    of: [
      ['herons', 10],
      ['kinds', 8],
    ],
    opens: 0,
    closes: 14,
  },
  'Heron Count': {
    of: [
      ['herons', 120],
      ['kinds', 10],
    ],
    opens: 2,
    closes: 2,
  },
};

/** Years of the past that began slowly: what came out of the marsh grew as people learnt. */
const growth = (at: string): number => 0.75 + (Number(at.slice(0, 4)) - 2023) * 0.14;

/** What was counted in three years, towards what, and the page that is open now. */
export async function playCounting(app: App, founded: Founded): Promise<void> {
  const random = makeRandom(51);
  const ids = makeIds(app.clock, makeRandom(52).bytes);
  const by = founded.staff['Odalys Ferrant'] ?? null;
  await inTransaction(app, systemActor, async (w) => {
    const measureIds = {} as Record<Key, string>;
    for (const [key, measure] of Object.entries(measures)) {
      measureIds[key as Key] = ids.id();
      await insert(w.tx, 'measures', {
        id: measureIds[key as Key],
        ...measure,
        madeAt: '2023-07-01T12:00:00.000Z',
      });
    }
    const named = new Map(
      (await w.tx.query<{ id: string; name: string }>('select id, name from initiatives')).map((i) => [
        i.name,
        i.id,
      ]),
    );
    const water = named.get('Clear Water by 2028')!;
    const hide = named.get('Hide Appeal')!;
    const events = await w.tx.query<Held>(
      'select id, public_title as title, state, starts_at, coalesce(ends_at, starts_at) as ends_at from events where starts_at is not null and not is_template and public_title = any($1) order by starts_at',
      [[...Object.keys(counts), 'Fen Supper']],
    );
    for (const event of events) {
      const plan = counts[event.title];
      const outcomes: Outcomes = {
        measures: (plan?.of ?? []).map(([key, planned]) => ({ measureId: measureIds[key], planned })),
        opensDays: plan?.opens ?? 0,
        closesDays: plan?.closes ?? 7,
        initiativeIds: event.title === 'Fen Supper' ? [hide] : [water],
      };
      await w.tx.query('update events set outcomes = $2 where id = $1', [event.id, outcomes]);
      if (plan && event.endsAt < w.now) await countAt(w, event, plan.of, { measureIds, random, ids, by });
    }
    await setGoals(w, ids, { water, hide, measureIds });
  });
  await openCounting(app, ids);
}

interface Around {
  measureIds: Record<Key, string>;
  random: Random;
  ids: { id(): string };
  by: string | null;
}

/** Enters what those who came counted at one event of the past. */
async function countAt(
  w: Work,
  event: Held,
  of: readonly [Key, number | null][],
  around: Around,
): Promise<void> {
  const { measureIds, random, ids, by } = around;
  const people = await w.tx.query<{ id: string; name: string }>(
    `select distinct c.id, trim(c.given_name || ' ' || c.family_name) as name from attendance a join contacts c on c.id = a.contact_id
     where a.event_id = $1 and a.state in ('arrived', 'left') order by c.id`,
    [event.id],
  );
  const minutes = (Date.parse(event.endsAt) - Date.parse(event.startsAt)) / 60_000;
  const enter = (key: Key, row: object, person: { id: string; name: string } | null) => {
    const at = plusMinutes(event.startsAt, Math.round(minutes * (0.3 + random.next() * 0.7)));
    return insert(w.tx, 'tallies', {
      id: ids.id(),
      eventId: event.id,
      measureId: measureIds[key],
      value: null,
      thing: '',
      said: '',
      countedAt: at,
      place: random.pick(places),
      note: '',
      byName: person?.name ?? 'Odalys Ferrant',
      contactId: person?.id ?? null,
      staffId: person ? null : by,
      state: 'counted',
      doubts: [],
      enteredAt: plusMinutes(at, random.whole(1, 40)),
      ...row,
    });
  };
  const summer = /-0[5-9]-/u.test(event.startsAt) ? 1 : 0.75;
  for (const [key] of of) {
    if (key === 'clarity') {
      const value = Math.round(
        38 + (Date.parse(event.startsAt) - Date.parse('2023-08-01')) / 86_400_000 / 45 + random.whole(-4, 4),
      );
      await enter(key, { value, said: String(value) }, null);
      continue;
    }
    const some = random.some(people, key === 'kinds' ? random.whole(5, 9) : random.whole(3, 7));
    for (const person of some) {
      if (key === 'kinds') await enter(key, { thing: random.pick(birds) }, person);
      else {
        const value =
          key === 'boardwalk'
            ? random.whole(8, 26) / 10
            : key === 'herons'
              ? random.whole(3, 28)
              : Math.round(random.whole(18, 62) * growth(event.startsAt) * summer);
        await enter(key, { value, said: String(value) }, person);
      }
    }
  }
}

/** What the initiatives want to have reached, and what gifts count for the hide. */
async function setGoals(
  { tx }: Work,
  ids: { id(): string },
  { water, hide, measureIds }: { water: string; hide: string; measureIds: Record<Key, string> },
): Promise<void> {
  const goals: [string, string, Key | null, number, string, string][] = [
    [water, 'measure', 'removed', 14_000, '2023-07-01', '2027-12-31'],
    [water, 'measure', 'boardwalk', 400, '2023-07-01', '2027-12-31'],
    [water, 'hours', null, 4000, '2023-07-01', '2027-12-31'],
    [water, 'measure', 'clarity', 90, '2023-07-01', '2027-12-31'],
    [water, 'measure', 'kinds', 20, '2024-01-01', '2027-12-31'],
    [hide, 'gifts', null, 30_000, '2023-07-01', '2026-12-31'],
  ];
  for (const [position, [initiativeId, of, key, target, fromOn, byOn]] of goals.entries())
    await insert(tx, 'initiative_goals', {
      id: ids.id(),
      initiativeId,
      of,
      measureId: key && measureIds[key],
      target,
      fromOn,
      byOn,
      position,
    });
  await tx.query('update initiatives set about = $2 where id = $1', [
    water,
    'The marsh kept open and its water clear: reed, silt and litter taken out, a boardwalk that keeps feet off the banks.',
  ]);
  await tx.query(
    "update initiatives set about = $2, fund_id = (select id from funds where name = 'Hide Appeal') where id = $1",
    [hide, 'A bird hide by the reedbed that everybody gets into, with a ramp and low windows.'],
  );
}

/** The last overnight is being counted still: two tallies wait to be looked at. */
async function openCounting(app: App, ids: { id(): string }): Promise<void> {
  await inTransaction(app, systemActor, async (w) => {
    const [event] = await w.tx.query<{ id: string; startsAt: string }>(
      "select id, starts_at from events where public_title = 'Mudlarks Overnight' and ends_at < $1 and state = 'closed' order by starts_at desc limit 1",
      [w.now],
    );
    if (!event) throw new Error('There is no overnight to count at.');
    await setCounting(w, event.id, true);
    const [herons] = await w.tx.query<{ id: string }>("select id from measures where kind = 'count'");
    const waiting: [string, number, Doubt[], string][] = [
      ['Corin Ashby', 3, ['nobody'], 'At dawn, from the car park'],
      ['Perpetua Lund', 140, ['nobody', 'much'], 'All week, I think'],
    ];
    for (const [byName, value, doubts, note] of waiting)
      await insert(w.tx, 'tallies', {
        id: ids.id(),
        eventId: event.id,
        measureId: herons!.id,
        value,
        thing: '',
        said: String(value),
        countedAt: plusMinutes(event.startsAt, 150),
        place: '',
        note,
        byName,
        state: 'waiting',
        doubts,
        enteredAt: plusMinutes(event.startsAt, 3000),
      });
  });
}
