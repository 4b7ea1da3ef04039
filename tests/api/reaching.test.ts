import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { type Caller, makeWorld, takeWritesBack, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { type Key, type Letter, type Objects, type Row, shiftBody, table } from './reaches.ts';
import { openEvent, orderFor, signs, surveyOf } from './scenes.ts';

describe('who reaches what', () => {
  let world: World;
  const callers = new Map<Letter, Caller>();
  const objects = {} as Record<'own' | 'other' | 'far', Objects>;

  async function makeObjects(unit: string, day: string, name: string): Promise<Objects> {
    const odalys = await world.as('odalys');
    const event = await openEvent(world, {
      title: `Day of ${unit} ${day}`,
      unit,
      startsLocal: `${day}T09:00`,
      endsLocal: `${day}T16:00`,
      price: 2500,
      so: ['boats', 'money'],
      waiver: 'On the water',
      surveys: [surveyOf([{ id: 'q', kind: 'text' }])],
    });
    const [survey] = await odalys.call('GET /api/events/:id/surveys', { params: { id: event.id } });
    const lesson = await odalys.call('POST /api/events/:id/lessons', {
      params: { id: event.id },
      body: { stage: 'crew', text: 'One more at the landing.' },
    });
    const next = await odalys.call('POST /api/events', {
      body: { publicTitle: `Next day of ${unit}`, from: event.id, date: '2027-08-07' },
    });
    const { steps } = await odalys.call('GET /api/events/:id/clearance', { params: { id: event.id } });
    await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given: name, family: 'Aldous', birthDate: '1988-02-03' }]),
    });
    await world.runner.run();
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const [waiver] = (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).waivers;
    await odalys.call('POST /api/registrations/:id/signatures', {
      params: { id: rows[0]!.id },
      body: {
        relation: 'self',
        ...signs(waiver!, `${name} Aldous`),
      },
    });
    const shift = await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { ...shiftBody, startsLocal: `${day}T08:00`, endsLocal: `${day}T12:00` },
    });
    const person = await odalys.call('POST /api/contacts', {
      body: {
        given: `${name}helper`,
        family: 'Tansley',
        email: `${name}.helper@fenmail.example`.toLowerCase(),
      },
    });
    await odalys.call('POST /api/shifts/:id/assignments', {
      params: { id: shift.id },
      body: { contactId: person.id },
    });
    const skills = await odalys.call('GET /api/roles');
    const role = skills.roles.find((r) => r.name === 'Landing')!.id;
    const call = await odalys.call('POST /api/calls', {
      body: {
        eventId: event.id,
        title: { en: `Help at ${event.slug}` },
        words: { en: '' },
        asks: ['skills'],
        roles: [role],
        open: true,
      },
    });
    const file = await world.anyone.call('POST /api/public/calls/:slug/files', {
      params: { slug: call.slug },
      body: { name: 'ticket.txt', content: Buffer.from('Boat handling').toString('base64') },
    });
    const saying = (experience: string) =>
      world.anyone.call('POST /api/public/calls/:slug', {
        params: { slug: call.slug },
        body: {
          person: {
            given: `Helper${name}`,
            family: 'Lowry',
            email: `helper.${name.toLowerCase()}@fenmail.example`,
          },
          said: {
            wishes: [{ roleId: role, weight: 2 }],
            skills: [{ skillId: skills.skills[0]!.id, number: '7', until: '2027-01-01', fileId: file.id }],
            experience,
          },
        },
      });
    await saying('');
    await saying('');
    const [application] = await world.app.db.query<{ id: string }>(
      'update applications set again = said || \'{"experience": "Much"}\' where call_id = $1 returning id',
      [call.id],
    );
    const [deposit] = await world.app.db.query<{ id: string }>(
      `insert into deposits (id, call_id, application_id, contact_id, event_id, amount, currency, back, notice_hours, state, asked_at)
       select gen_random_uuid(), call_id, id, contact_id, $2, 2000, 'CAD', 'every', 24, 'asked', changed_at from applications where id = $1 returning id`,
      [application!.id, event.id],
    );
    const crew = await odalys.call('GET /api/events/:id/crew', { params: { id: event.id } });
    const [message] = await world.app.db.query<{ id: string }>(
      'select id from messages where event_id = $1 and contact_id is not null order by id limit 1',
      [event.id],
    );
    await odalys.call('PUT /api/events/:id/board', {
      params: { id: event.id },
      body: { on: true, shown: 'at once' },
    });
    await odalys.call('POST /api/public/events/:slug/board', {
      params: { slug: event.slug },
      body: { name: 'Asks Aldous', email: 'asks@fenmail.example', words: 'Is there parking?' },
    });
    const measure = await odalys.call('POST /api/measures', {
      body: {
        name: { en: `Counted by ${name}` },
        unit: { en: 'kg' },
        kind: 'sum',
        direction: 'more',
        decimals: 0,
        most: null,
        enteredBy: 'anyone',
        lookedAt: false,
      },
    });
    await saveIt(odalys, event.id, {
      outcomes: {
        measures: [{ measureId: measure.id, planned: null }],
        opensDays: 365,
        closesDays: 7,
        initiativeIds: [],
      },
    });
    const countedLocal = '2026-07-09T08:00';
    const tallies = await odalys.call('POST /api/events/:id/tallies', {
      params: { id: event.id },
      body: { entries: [{ measureId: measure.id, said: '2' }], countedLocal },
    });
    await odalys.call('PUT /api/events/:id/counting', { params: { id: event.id }, body: { on: true } });
    const board = await odalys.call('GET /api/events/:id/board', { params: { id: event.id } });
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    return {
      survey: survey!.id,
      lesson: lesson.id,
      next: next.id,
      question: board.questions[0]!.id,
      tally: tallies.ids[0]!,
      countedLocal,
      event: event.id,
      slug: event.slug,
      offer: event.offers[0]!.id,
      waiver: waiver!.id,
      order: rows[0]!.orderId,
      registration: rows[0]!.id,
      contact: rows[0]!.contactId!,
      shift: shift.id,
      skill: skills.skills[0]!.id,
      call: call.id,
      role,
      application: application!.id,
      deposit: deposit!.id,
      certificate: file.id,
      assignment: crew.shifts[0]!.assignments[0]!.id,
      message: message!.id,
      line: page.plan.messages.find((l) => l.moment === 'start')!.id,
      step: steps.find((s) => s.approves === 'safety')!.id,
      version: page.version,
    };
  }

  beforeAll(async () => {
    world = await makeWorld();
    const { db } = world.app;
    objects.own = await makeObjects('Small Boats', '2026-07-10', 'Sunniva');
    objects.other = await makeObjects('Mudlarks', '2026-07-10', 'Torben');
    objects.far = await makeObjects('Small Boats', '2026-09-10', 'Ulrika');
    // One role each; and one account more of two kinds.
    await db.query("update staff set roles = '{treasurer}', approves = '{}' where email like 'marit%'");
    await db.query(
      `insert into staff (id, name, email, email_key, password_hash, roles, approves, unit_id, created_at)
       select gen_random_uuid(), x.name, x.name || '@brackenmere.example', x.name || '@brackenmere.example', s.password_hash, x.roles::text[], '{}',
         case when x.unit <> '' then (select id from units where name = x.unit) end, s.created_at
       from staff s, (values ('third', '{treasurer}', 'Night Herons'), ('loose', '{"unit lead"}', '')) x(name, roles, unit)
       where s.email like 'odalys%'`,
    );
    const people = {
      C: 'odalys',
      A: 'tobias',
      T: 'marit',
      K: 'imani',
      U: 'piers',
      D: 'door',
      t: 'third',
      u: 'loose',
    };
    for (const [letter, name] of Object.entries(people))
      callers.set(letter as Letter, await world.as(name as 'odalys'));
    callers.set('N', world.anyone);
    // Something in every field of one record, and answers in the registration.
    const odalys = await world.as('odalys');
    const params = { id: objects.own.contact };
    await odalys.call('PATCH /api/contacts/:id', {
      params,
      body: { street: '9 Sluice Lane', postalCode: 'B0K 1A0', dietary: 'wasp stings' },
    });
    await odalys.call('POST /api/contacts/:id/notes', { params, body: { text: 'Allergic to wasp stings.' } });
    await odalys.call('POST /api/tags', { body: { tag: 'paddler', ids: [params.id] } });
    await odalys.call('POST /api/contacts/:id/consents', {
      params,
      body: { topic: 'newsletter', channel: 'email', granted: true },
    });
    await odalys.call('POST /api/orders/:id/payments', {
      params: { id: objects.own.order },
      body: { method: 'cash', amount: 500 },
    });
    // Every write is taken back at its end, so that each caller finds the same.
    takeWritesBack(world);
  });
  afterAll(() => world.close());

  for (const [key, row] of Object.entries(table) as [Key, Row][])
    test(key, async () => {
      const found = { own: '', other: '', far: '' };
      for (const where of ['own', 'other', 'far'] as const)
        for (const [letter, caller] of callers) {
          const o = objects[where];
          const reply = await caller.try(key, {
            params: row.of(o) as never,
            ...(key.startsWith('GET') ? {} : { body: (row.body?.(o) ?? {}) as never }),
            ...(row.query ? { query: row.query(o) as never } : {}),
          });
          expect(reply.status, JSON.stringify(reply.problem)).toBeLessThan(500);
          // What is refused says nothing of what is there: also “there is nothing” is a refusal.
          const refused = [401, 403, 404].includes(reply.status);
          if (!refused) found[where] += letter;
          if (!refused)
            // Asked as it should be: no refusal of what was written stands in for one of who wrote it.
            expect(
              ['invalid', 'unticked'].includes(reply.problem?.code) ? [] : [200, 201, 409, 418],
              `${letter} ${where} ${JSON.stringify(reply.problem)}`,
            ).toContain(reply.status);
        }
      expect(found).toEqual({ own: row.own, other: row.other, far: row.far });
    });

  /** Which of the fields hold something, for each who reaches it. */
  const fieldsSeen = async (look: (caller: Caller) => Promise<Record<string, unknown> | null>) => {
    const seen: Record<string, string> = {};
    for (const [letter, caller] of callers) {
      const record = await look(caller);
      if (record)
        seen[letter] = Object.entries(record)
          .filter(
            ([, v]) => v !== null && v !== '' && v !== 0 && v !== false && !(Array.isArray(v) && !v.length),
          )
          .map(([k]) => k)
          .join(' ');
    }
    return seen;
  };

  test('fields of a record', async () => {
    const seen = await fieldsSeen(async (caller) => {
      const { status, body: r } = await caller.try('GET /api/contacts/:id', {
        params: { id: objects.own.contact },
      });
      if (status !== 200) return null;
      const { emails, birthDate, age, street, postalCode, dietary, notes, tags, consents, totals, source } =
        r;
      const { coming, firstSeen } = totals;
      return {
        emails,
        birthDate,
        age,
        street,
        postalCode,
        dietary,
        notes,
        tags,
        consents,
        coming,
        firstSeen,
        source,
      };
    });
    expect(seen).toEqual({
      C: 'emails birthDate age street postalCode dietary notes tags consents coming source',
      T: 'emails street postalCode tags',
      K: 'emails age tags consents',
      U: 'emails age coming',
    });
  });

  test('fields of a line in the list and of a search', async () => {
    const line = (l: { email: string | null; postalCode: string | null; tags: string[] } | undefined) =>
      l ? { email: l.email, postalCode: l.postalCode, tags: l.tags } : null;
    expect(
      await fieldsSeen(async (caller) => {
        const { status, body } = await caller.try('GET /api/contacts', { query: { q: 'Sunniva Aldous' } });
        return status === 200 ? line(body.contacts[0]) : null;
      }),
    ).toEqual({ C: 'email postalCode tags', T: 'email postalCode tags', K: 'email tags' });
    expect(
      await fieldsSeen(async (caller) => {
        const { status, body } = await caller.try('GET /api/search', { query: { q: 'Sunniva Aldous' } });
        return status === 200 ? line(body.contacts[0]) : null;
      }),
    ).toEqual({ C: 'email postalCode tags', T: 'email postalCode tags', K: 'email tags', U: 'email' });
    expect(
      await fieldsSeen(async (caller) => {
        const { status, body } = await caller.try('GET /api/search', { query: { q: 'Torben Aldous' } });
        return status === 200 ? line(body.contacts[0]) : null;
      }),
    ).toEqual({ C: 'email', T: 'email', K: 'email' });
  });

  test('fields of a registration, and of a line at the door', async () => {
    expect(
      await fieldsSeen(async (caller) => {
        const { status, body } = await caller.try('GET /api/events/:id/registrations', {
          params: { id: objects.own.event },
        });
        if (status !== 200) return null;
        const { due, received, linkReasons, contactId, care } = body.rows[0]!;
        return { due, received, linkReasons, contactId, care };
      }),
    ).toEqual({
      C: 'due received linkReasons contactId care',
      T: 'due received contactId',
      U: 'due received linkReasons contactId care',
    });
    expect(
      await fieldsSeen(async (caller) => {
        const { status, body } = await caller.try('GET /api/events/:id/doors', {
          params: { id: objects.own.event },
        });
        if (status !== 200) return null;
        const said = JSON.stringify(body.rows);
        return {
          care: body.rows[0]!.care,
          health: said.includes('wasp'),
          email: said.includes('@'),
          birth: said.includes('1988'),
        };
      }),
    ).toEqual({ C: 'care', K: '', U: 'care', D: 'care' });
  });

  test('no answer to the door team or to another unit holds what is not theirs', async () => {
    const secrets = ['wasp', '1988-02-03', '9 Sluice Lane', 'sunniva.aldous@', '/m/', '/own/', '/crew/'];
    const reads = Object.entries(table).filter(([key]) => key.startsWith('GET'));
    for (const letter of ['D', 't', 'u', 'N'] as const)
      for (const [key, row] of reads) {
        // Reading about health is what the door does there, and it is written down.
        if (key === 'GET /api/registrations/:id/care' || key === 'GET /api/registrations/:id/signatures')
          continue;
        const { body } = await callers.get(letter)!.try(key as 'GET /api/events/:id', {
          params: row.of(objects.own) as never,
        });
        const said = JSON.stringify(body);
        expect(
          secrets.filter((s) => said.includes(s)),
          `${letter} ${key}`,
        ).toEqual([]);
      }
  });
});
