import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { textKeys } from '#core/contacts/attributes.ts';
import { consentChannels, consentTopics } from '#core/contacts/consent.ts';
import { compileSegment } from '#core/records/compile.ts';
import { evaluate, type Facts } from '#core/records/evaluate.ts';
import { type Bound, fieldTests, type Segment, textTests, type Window } from '#core/records/segment.ts';
import type { Asked } from '#core/records/window.ts';
import { fill } from '#demo/fill.ts';
import { whyQuiet } from '#server/contacts/quiet.ts';
import { idsWhere, readFacts } from '#server/records/store.ts';
import { type Caller, makeWorld, type World } from './harness.ts';

/** Gives some of the contacts what the made-up history has little of, so that every question tells people apart. */
const spread = (db: { script(sql: string): Promise<void> }) =>
  db.script(`
    create temp table p as select id, row_number() over (order by id) as n from contacts;
    update contacts c set kind = 'organization' from p where p.id = c.id and n % 37 = 0;
    update contacts c set moved_on = date '2026-07-09' + (n % 3 - 1)::int from p where p.id = c.id and n % 11 = 0;
    update contacts c set languages = '{de,fr}' from p where p.id = c.id and n % 9 = 0;
    update contact_emails e set ended_on = '2025-01-01' from p where p.id = e.contact_id and n % 13 = 0;
    update contact_emails e set bounced_at = now() from p where p.id = e.contact_id and n % 17 = 0;
    update memberships m set starts_on = date '2024-01-01' + (n * 5 % 700)::int, ends_on = case when n % 3 = 0 then date '2026-01-01' + (n % 400)::int end
      from p where p.id = m.contact_id and n % 2 = 0;
    insert into unit_people (id, unit_id, contact_id, role, since, until, created_at)
      select gen_random_uuid(), (select id from units order by id offset n % 3 limit 1), id, (array['Lead', 'Treasurer', 'lead'])[1 + n % 3],
        case when n % 4 > 0 then date '2025-01-01' + (n % 300)::int end, case when n % 5 = 0 then date '2026-03-01' + (n % 200)::int end, now()
      from p where n % 4 <> 1 on conflict do nothing;
    insert into affiliations (id, contact_id, organization_id, since, until, created_at)
      select gen_random_uuid(), p.id, o.id, case when p.n % 2 = 0 then date '2025-01-01' end, case when p.n % 5 = 0 then date '2026-01-01' end, now()
      from p, (select id, row_number() over (order by id) as k from contacts where kind = 'organization') o where (p.n + o.k) % 8 = 0 and p.id <> o.id on conflict do nothing;
    insert into custom_fields (id, name, kind, choices, position, created_at) values
      (gen_random_uuid(), 'Craft', 'text', '{}', 0, now()), (gen_random_uuid(), 'Boots', 'number', '{}', 1, now()),
      (gen_random_uuid(), 'Trained', 'date', '{}', 2, now()), (gen_random_uuid(), 'Key', 'one of', '{A,B}', 3, now());
    insert into custom_values (contact_id, field_id, value) select p.id, f.id, case f.position when 0 then (array['Kayak', 'open canoe', '3'])[1 + n % 3]
        when 1 then (n % 14 - 2)::text || case when n % 2 = 0 then '.0' else '' end when 2 then (date '2025-06-01' + (n % 60)::int)::text else (array['A', 'B'])[1 + n % 2] end
      from p, custom_fields f where (n + f.position) % 3 > 0 and f.name in ('Craft', 'Boots', 'Trained', 'Key');
    update contacts c set pronouns = (array['they/them', 'She', 'il_elle', '100%'])[1 + n % 4] from p where p.id = c.id and n % 3 > 0;
    update contacts c set dietary = (array['No nuts', 'no nuts', 'végé'])[1 + n % 3] from p where p.id = c.id and n % 2 > 0;
    drop table p;`);

describe('segments over three years of history', () => {
  let world: World;
  let odalys: Caller;
  let facts: Facts[];
  const asked: Asked = { today: '2026-07-09', zone: 'America/Halifax', currency: 'CAD' };
  const known: Record<
    'units' | 'funds' | 'waivers' | 'categories' | 'roles' | 'fields' | 'organizations' | 'series',
    string[]
  > = {
    units: [],
    funds: [],
    waivers: [],
    categories: [],
    roles: [],
    fields: [],
    organizations: [],
    series: [],
  };

  beforeAll(async () => {
    world = await makeWorld({ empty: true });
    await fill(world.app.db, { contacts: 220, play: false });
    const { db } = world.app;
    const column = async (sql: string) => (await db.query<{ x: string }>(sql)).map((r) => r.x);
    known.units = await column('select id as x from units order by id');
    known.funds = await column('select id as x from funds order by id');
    known.waivers = await column('select id as x from waivers order by id');
    known.categories = await column('select distinct category as x from events order by 1');
    known.roles = await column('select distinct role as x from shifts order by 1');
    await db.query(
      "insert into contact_tags (contact_id, tag, at) select id, 'bees', now() from contacts where postal_code like 'B1%' on conflict do nothing",
    );
    await db.query(
      "insert into contact_tags (contact_id, tag, at) select id, 'stall', now() from contacts where language = 'fr' on conflict do nothing",
    );
    await spread(db);
    known.fields = await column('select id as x from custom_fields order by position');
    known.organizations = await column(
      "select id as x from contacts where kind = 'organization' order by id",
    );
    known.series = await column(
      'select distinct first_of as x from events where first_of is not null order by 1',
    );
    const ids = await column('select id as x from contacts order by id');
    const plain = await readFacts(db, ids);
    const homes = new Map(
      (
        await db.query<{ id: string; householdId: string | null }>('select id, household_id from contacts')
      ).map((h) => [h.id, h.householdId]),
    );
    facts = plain.map((f) => {
      const home = homes.get(f.contactId);
      return { ...f, household: home ? plain.filter((o) => homes.get(o.contactId) === home) : [] };
    });
    await db.query('select 1');
    odalys = await world.as('odalys');
  }, 120_000);
  afterAll(() => world.close());

  const of = <T>(list: () => readonly T[]) => fc.nat(50).map((n) => list()[n % list().length]!);
  const bound = (most: number): fc.Arbitrary<Bound> =>
    fc.record({
      is: fc.constantFrom('at least', 'at most', 'exactly'),
      n: fc.integer({ min: 0, max: most }),
    });
  const day = fc
    .integer({ min: 0, max: 1200 })
    .map((n) => new Date(Date.UTC(2023, 5, 1 + n)).toISOString().slice(0, 10));
  const window: fc.Arbitrary<Window> = fc.oneof(
    fc.constantFrom<Window>({ when: 'ever' }, { when: 'this year' }, { when: 'last year' }),
    fc.integer({ min: 0, max: 900 }).map((days): Window => ({ when: 'days', days })),
    fc.tuple(day, day).map(([a, b]): Window => {
      const [from, to] = [a, b].sort();
      return { when: 'between', from: from!, to: to! };
    }),
  );
  const onDay = fc.oneof(fc.constant('today'), day);
  const events = fc.oneof(
    fc.constant({}),
    of(() => known.units).map((unitId) => ({ unitId })),
    of(() => known.categories).map((category) => ({ category })),
    of(() => known.series).map((seriesId) => ({ seriesId })),
    fc.constantFrom('Fen', 'cut', 'BOAT', '%', 'e').map((title) => ({ title })),
  );
  const question: fc.Arbitrary<Segment> = fc.oneof(
    fc.constantFrom('bees', 'stall', 'nothing').map((tag): Segment => ({ ask: 'tag', tag })),
    fc.constantFrom('email', 'phone', 'address').map((by): Segment => ({ ask: 'reach', by: by as 'email' })),
    fc.tuple(fc.nat(70), fc.nat(30)).map(([from, more]): Segment => ({ ask: 'age', from, to: from + more })),
    fc.nat(90).map((to): Segment => ({ ask: 'age', to })),
    fc.constantFrom('B1', 'b2 ', 'B3G', 'x', '_').map((begins): Segment => ({ ask: 'postal code', begins })),
    fc.constantFrom('en', 'fr').map((language): Segment => ({ ask: 'language', language })),
    fc
      .tuple(
        fc.constantFrom('yes', 'no', 'nothing'),
        fc.constantFrom(...consentTopics),
        fc.constantFrom(...consentChannels),
      )
      .map(([said, topic, channel]): Segment => ({ ask: 'consent', said: said as 'yes', topic, channel })),
    fc.constantFrom<Segment>({ ask: 'moved away' }, { ask: 'organization' }),
    fc
      .tuple(
        of(() => known.fields),
        fc.constantFrom(...fieldTests),
        fc.constantFrom('kayak', 'A', '3', '12', '2025-06-30', 'yes', '%', '1.0', '-2'),
      )
      .map(
        ([fieldId, is, value]): Segment => ({
          ask: 'custom field',
          fieldId,
          is,
          ...(is === 'filled' ? {} : { value }),
        }),
      ),
    fc
      .tuple(
        fc.constantFrom(...textKeys),
        fc.constantFrom(...textTests),
        fc.constantFrom('nut', 'NO NUTS', 'they', 'é', '%', '_'),
      )
      .map(
        ([detail, is, value]): Segment => ({
          ask: 'detail',
          detail,
          is,
          ...(is === 'filled' ? {} : { value }),
        }),
      ),
    fc
      .tuple(
        of(() => known.units),
        fc.constantFrom(undefined, 'Lead', 'treasurer'),
        onDay,
      )
      .map(([unitId, role, on]): Segment => ({ ask: 'in a unit', unitId, on, ...(role ? { role } : {}) })),
    fc
      .tuple(
        fc.option(
          of(() => known.organizations),
          { nil: undefined },
        ),
        onDay,
      )
      .map(
        ([organizationId, on]): Segment => ({
          ask: 'works for',
          on,
          ...(organizationId ? { organizationId } : {}),
        }),
      ),
    fc.constant<Segment>({ ask: 'not to be contacted' }),
    fc
      .tuple(fc.constantFrom(undefined, 'Life', 'student'), onDay)
      .map(([level, on]): Segment => ({ ask: 'member', on, ...(level ? { level } : {}) })),
    fc
      .tuple(fc.constantFrom('registered', 'attended', 'missed'), bound(6), events, window)
      .map(([ask, times, e, within]): Segment => ({ ask: ask as 'attended', times, of: e, within })),
    fc
      .tuple(
        bound(6000),
        fc.option(
          of(() => known.funds),
          { nil: undefined },
        ),
        window,
      )
      .map(
        ([amount, fundId, within]): Segment => ({
          ask: 'donated',
          amount,
          within,
          ...(fundId ? { fundId } : {}),
        }),
      ),
    fc
      .tuple(
        bound(20),
        fc.option(
          of(() => known.roles),
          { nil: undefined },
        ),
        window,
      )
      .map(([hours, role, within]): Segment => ({ ask: 'served', hours, within, ...(role ? { role } : {}) })),
    fc
      .tuple(
        fc.option(
          of(() => known.waivers),
          { nil: undefined },
        ),
        window,
      )
      .map(([waiverId, within]): Segment => ({ ask: 'signed', within, ...(waiverId ? { waiverId } : {}) })),
    window.map((within): Segment => ({ ask: 'last seen', within })),
    fc
      .tuple(
        events,
        window,
        fc.constantFrom(undefined, 'come', 'the'),
        fc.constantFrom(undefined, 'yes', '5', 'e'),
      )
      .map(
        ([e, within, question, said]): Segment => ({
          ask: 'answered a survey',
          of: e,
          within,
          ...(question ? { question } : {}),
          ...(said ? { said } : {}),
        }),
      ),
  );
  const { segment } = fc.letrec<{ segment: Segment }>((tie) => ({
    segment: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      question,
      fc.array(tie('segment'), { maxLength: 3 }).map((all): Segment => ({ all })),
      fc.array(tie('segment'), { maxLength: 3 }).map((any): Segment => ({ any })),
      tie('segment').map((not): Segment => ({ not })),
      question.map((who): Segment => ({ ask: 'in the household of', who })),
    ),
  }));

  test('the SQL finds exactly those for whom it is true, one by one', async () => {
    let found = 0;
    await fc.assert(
      fc.asyncProperty(segment, async (s) => {
        const bySql = await idsWhere(world.app.db, compileSegment(s, asked));
        const byHand = facts.filter((f) => evaluate(s, f, asked).holds).map((f) => f.contactId);
        expect(bySql).toEqual(byHand.sort());
        if (bySql.length && bySql.length < facts.length) found += 1;
      }),
      { numRuns: 250 },
    );
    // Most of them told some people from others, or the comparison would say little.
    expect(found).toBeGreaterThan(80);
  }, 120_000);

  const cameNeverGave = {
    all: [
      { ask: 'attended', times: { is: 'at least', n: 2 }, of: {}, within: { when: 'ever' } },
      { ask: 'donated', amount: { is: 'exactly', n: 0 }, within: { when: 'ever' } },
    ],
  };

  test('is counted, kept, asked why, frozen, compared and taken along', async () => {
    const counted = await odalys.call('POST /api/segments/count', { body: { segment: cameNeverGave } });
    expect(counted.sentence).toBe('People who came at least twice and never gave.');
    expect(counted.count).toBeGreaterThan(0);
    expect(counted.count).toBeLessThan(counted.of);
    expect(counted.sample.length).toBe(Math.min(12, counted.count));
    const { id } = await odalys.call('POST /api/segments', {
      body: { name: 'Came, never gave', segment: cameNeverGave },
    });
    expect(await odalys.call('GET /api/segments', {})).toMatchObject([
      { id, count: counted.count, frozenAt: null },
    ]);
    const list = await odalys.call('GET /api/segments/:id/contacts', {
      params: { id },
      query: { limit: 200 },
    });
    expect(list.total).toBe(counted.count);

    const one = list.contacts[0]!;
    const why = await odalys.call('POST /api/segments/why', {
      body: { segment: cameNeverGave, contactId: one.id },
    });
    expect(why.holds).toBe(true);
    expect(why.reasons.map((r) => r.words)).toEqual(['all of these', 'came at least twice', 'never gave']);
    expect(why.reasons[1]!.found).toMatch(/^\d+ times$/u);

    // Frozen, it keeps somebody who gives from now on; alive, it loses them.
    await odalys.call('PATCH /api/segments/:id', { params: { id }, body: { frozen: true } });
    const live = (
      await odalys.call('POST /api/segments', { body: { name: 'The same, living', segment: cameNeverGave } })
    ).id;
    await world.app.db.query(
      "insert into donations (id, contact_id, fund_id, amount, currency, at) select $1, $2, id, 500, 'CAD', '2026-07-09T12:00:00Z' from funds limit 1",
      [crypto.randomUUID(), one.id],
    );
    const overlap = await odalys.call('GET /api/segments/:id/compare/:other', {
      params: { id, other: live },
    });
    expect(overlap).toEqual({ both: counted.count - 1, onlyThis: 1, onlyOther: 0 });
    const refused = await odalys.try('PATCH /api/segments/:id', {
      params: { id },
      body: { segment: { all: [] } },
    });
    expect(refused.problem.fields![0]!.message).toContain('frozen');
    const alive = await odalys.call('PATCH /api/segments/:id', { params: { id }, body: { frozen: false } });
    expect(alive.count).toBe(counted.count - 1);

    const csv = await odalys.try('GET /api/segments/:id/contacts.csv', { params: { id } });
    // Whoever nothing may be sent to is in neither file.
    const { ids } = (
      await world.app.db.query<{ ids: string[] }>(
        `select coalesce(array_agg(id), '{}') as ids from contacts c where id = any($1) and ${whyQuiet('c')} is null`,
        [list.contacts.map((c) => c.id).filter((c) => c !== one.id)],
      )
    )[0]!;
    expect(ids.length).toBeGreaterThan(0);
    expect(String(csv.body).split('\r\n').filter(Boolean).length).toBeGreaterThanOrEqual(ids.length + 1);
    const cards = await odalys.try('GET /api/segments/:id/contacts.vcf', { params: { id } });
    expect(String(cards.body).match(/BEGIN:VCARD/gu)).toHaveLength(ids.length);
    await odalys.call('DELETE /api/segments/:id', { params: { id } });
    expect((await odalys.try('GET /api/segments/:id', { params: { id } })).status).toBe(404);
  });

  test('a wrong question is refused with where it stands', async () => {
    const reply = await odalys.try('POST /api/segments/count', {
      body: { segment: { all: [{ ask: 'shoe size' }] } },
    });
    expect(reply.status).toBe(422);
    expect(reply.problem.fields![0]!.path).toBe('segment.all.0.ask');
    const unnamed = await odalys.try('POST /api/segments', { body: { name: ' ', segment: { all: [] } } });
    expect(unnamed.problem.fields![0]!.message).toBe('Give the segment a name.');
  });
});
