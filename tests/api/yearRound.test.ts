import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';
import type { YearLinePlan } from '#contract/yearRound.ts';
import { firstTextFor } from '#core/messages/firstTexts.ts';
import { plainLine } from '#core/messages/lines.ts';
import type { YearMoment } from '#core/messages/moments.ts';
import { audienceOn } from '#core/messages/yearRound.ts';
import { shiftDate } from '#core/time/dates.ts';
import { dateOf, instantOf } from '#core/time/wallTime.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { bringIn } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

type Said = Omit<YearLinePlan, 'id'>;
const lineOn = (moment: YearMoment, part: Partial<Said> = {}): Said => {
  const { subject, body } = firstTextFor(moment, audienceOn(moment));
  const { narrowed: _, ...plain } = plainLine;
  return {
    ...plain,
    name: `On ${moment}`,
    moment,
    offsetDays: 0,
    offsetMinutes: 0,
    topic: 'notice',
    subject,
    body,
    ...part,
  };
};
const put = (id: string, line: Said, version = 0) =>
  odalys.try('PUT /api/year-round/:id', { params: { id }, body: { line, version } });
const add = async (line: Said): Promise<string> => {
  const id = crypto.randomUUID();
  expect((await put(id, line)).status).toBe(200);
  return id;
};
const remove = (id: string, version: number) =>
  odalys.try('POST /api/year-round/:id/remove', { params: { id }, body: { version } });
const shown = async (id: string) => {
  const lines = await odalys.call('GET /api/year-round');
  return lines.find((l) => l.line.id === id)!.shown;
};
const mailTo = (email: string) =>
  world.app.db.query<{ subject: string; body: string }>(
    'select subject, body from standin_mail where address = $1 order by accepted_at, key',
    [email],
  );
const zone = 'America/Halifax';
const today = () => dateOf(world.app.clock.now(), zone);
const inDays = (days: number) => shiftDate(today(), days);
const later = (days: number) =>
  world.moveTo(new Date(Date.parse(world.app.clock.now()) + days * 86_400_000).toISOString());

// Each test has its own lines.
afterEach(async () => {
  for (const { line, version } of await odalys.call('GET /api/year-round'))
    expect((await remove(line.id, version)).body).toEqual({ version: version + 1 });
});

let n = 0;
/** Somebody with an email, and how they are called. */
const somebody = async (part: { email?: string | undefined; language?: 'en' | 'fr' } = {}) => {
  n += 1;
  const [given, email] = [`Mab${n}`, `mab${n}@fenmail.example`];
  const { id } = await odalys.call('POST /api/contacts', {
    body: { given, family: 'Quillfeather', email, ...part },
  });
  return { id, given, email };
};
const joins = async (contactId: string, until: string | null) =>
  (
    await odalys.call('POST /api/contacts/:id/ties', {
      params: { id: contactId },
      body: { kind: 'membership', level: 'household', number: null, from: null, until },
    })
  ).id;

describe('a membership that ends', () => {
  test('is told of a month before, once, to whom it concerns; and everybody else reads why not', async () => {
    const id = await add(lineOn('membership ends', { offsetDays: -30 }));
    const [ends, renewed, quiet, soon] = [
      await somebody({ language: 'fr' }),
      await somebody(),
      await somebody({ email: undefined }),
      await somebody(),
    ];
    await joins(ends.id, inDays(40));
    await joins(renewed.id, inDays(40));
    await joins(renewed.id, inDays(400));
    await joins(quiet.id, inDays(40));
    await joins(soon.id, inDays(5));
    // One without a last day goes on.
    const forever = await somebody();
    await joins(forever.id, inDays(40));
    await joins(forever.id, null);
    await world.runner.run();

    const plan = await shown(id);
    expect(plan.when).toBe('30 days before the last day of a membership');
    expect(plan.rows.map((r) => [r.name.split(' ')[0], r.plannedFor])).toEqual([
      [ends.given, instantOf(`${inDays(10)}T09:00`, zone)],
      // The one that goes on is told of in its own time.
      [renewed.given, instantOf(`${inDays(370)}T09:00`, zone)],
    ]);
    expect(Object.fromEntries(plan.leftOut.map((r) => [r.name.split(' ')[0], r.whyNot]))).toEqual({
      [renewed.given]: 'has a membership that goes on',
      [forever.given]: 'has a membership that goes on',
      [quiet.given]: 'no email address',
      [soon.given]: 'became a member after the moment had passed',
    });

    // Whoever can be reached by now gets it too.
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id: quiet.id },
      body: { emails: [{ email: quiet.email }] },
    });
    await world.runner.run();
    expect((await shown(id)).planned).toBe(3);

    const last = inDays(40);
    await later(11);
    const [told, ...more] = await mailTo(ends.email);
    expect(more).toEqual([]);
    expect(told!.subject).toContain('Votre adhésion');
    expect(told!.body).toContain(`Bonjour ${ends.given}`);
    expect(told!.body).toContain(String(Number(last.slice(8))));
    expect(told!.body).toContain('/own/');
    expect(told!.body).toContain('Vous recevez ce courriel parce que vous êtes, ou étiez, membre.');
    expect(await mailTo(renewed.email)).toEqual([]);
    expect((await shown(id)).sent).toBe(2);
    await later(60);
    expect(await mailTo(ends.email)).toHaveLength(1);
  });

  test('made longer before its word goes out, it is told of later; ended at once, not at all', async () => {
    const id = await add(lineOn('membership ends', { offsetDays: -30 }));
    const [stays, leaves] = [await somebody(), await somebody()];
    const of = await joins(stays.id, inDays(60));
    const gone = await joins(leaves.id, inDays(60));
    await world.runner.run();
    expect((await shown(id)).rows.filter((r) => r.contactId === stays.id)).toHaveLength(1);
    const extend = (tie: string, until: string) =>
      odalys.call('PATCH /api/ties/:kind/:id', { params: { kind: 'membership', id: tie }, body: { until } });
    await extend(of, inDays(425));
    await odalys.call('DELETE /api/ties/:kind/:id', { params: { kind: 'membership', id: gone } });
    await world.runner.run();
    const rows = (await shown(id)).rows.filter((r) => r.contactId === stays.id);
    expect(rows.map((r) => [r.state, r.plannedFor])).toEqual([
      ['planned', instantOf(`${inDays(395)}T09:00`, zone)],
    ]);
    await later(40);
    expect(await mailTo(stays.email)).toEqual([]);
    expect(await mailTo(leaves.email)).toEqual([]);
  });

  test('what came back is not written to again; to another address it goes', async () => {
    const id = await add(lineOn('membership ends', { offsetDays: -30 }));
    const who = await somebody();
    await joins(who.id, inDays(60));
    await world.runner.run();
    await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'bounces', remaining: 1 } });
    await add(lineOn('membership ends', { offsetDays: -59, late: 'now' }));
    await later(2);
    const whyNot = async () =>
      (
        await world.app.db.query<{ code: string | null; state: string }>(
          "select state, why_not ->> 'code' as code from messages where line_id = $1 and contact_id = $2",
          [id, who.id],
        )
      )[0];
    expect(await whyNot()).toEqual({ state: 'held back', code: 'address bounced' });
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id: who.id },
      body: { emails: [{ email: `other.${who.email}` }] },
    });
    await world.runner.run();
    expect(await whyNot()).toEqual({ state: 'planned', code: null });
  });

  test('one copy serves a household, also where only one of them is planned anew', async () => {
    const id = await add(lineOn('membership ends', { offsetDays: -30, household: true }));
    const both = [await somebody(), await somebody()];
    // The first by name gets it.
    const [first, second] = both.sort((a, b) => (a.given < b.given ? -1 : 1)) as [
      (typeof both)[0],
      (typeof both)[0],
    ];
    await world.app.db.query("insert into households (id, name, created_at) values ($1, 'Both', $2)", [
      first.id,
      world.app.clock.now(),
    ]);
    await world.app.db.query('update contacts set household_id = $1 where id = any($2)', [
      first.id,
      [first.id, second.id],
    ]);
    await joins(first.id, inDays(60));
    await joins(second.id, inDays(60));
    await world.runner.run();
    const gets = async () =>
      (await shown(id)).rows
        .filter((r) => [first.id, second.id].includes(r.contactId!))
        .map((r) => r.contactId);
    expect(await gets()).toEqual([first.id]);
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id: second.id },
      body: { emails: [{ email: `new.${second.email}` }] },
    });
    await world.runner.run();
    expect(await gets()).toEqual([first.id]);
    await later(31);
    expect([...(await mailTo(first.email)), ...(await mailTo(`new.${second.email}`))]).toHaveLength(1);
    // Where the first of them is not written to, the other is.
    const other = await add(lineOn('membership ends', { offsetDays: -5, household: true }));
    await odalys.call('PATCH /api/contacts/:id', { params: { id: first.id }, body: { doNotContact: true } });
    await world.runner.run();
    expect((await shown(other)).rows.map((r) => r.contactId)).toContain(second.id);
  });

  test('of a list brought in and taken back nothing is left that was planned', async () => {
    const id = await add(lineOn('membership ends', { offsetDays: -30 }));
    const list = await bringIn(
      world,
      `Name,Email,Member until\nZora Fern,zora.fern@fenmail.example,${inDays(50)}\nHao Fern,hao.fern@fenmail.example,${inDays(50)}\n`,
      'ferns.csv',
    );
    await odalys.call('POST /api/imports/:id/apply', { params: { id: list.id } });
    await world.runner.run();
    const ferns = async () =>
      (await shown(id)).rows.filter((r) => r.name.endsWith('Fern')).map((r) => r.name);
    expect((await ferns()).sort()).toEqual(['Hao Fern', 'Zora Fern']);
    const undone = await odalys.call('POST /api/imports/:id/undo', { params: { id: list.id } });
    expect(undone).toMatchObject({ removed: 2, kept: [] });
    await world.runner.run();
    expect(await ferns()).toEqual([]);
    expect((await odalys.call('GET /api/search', { query: { q: 'zora fern' } })).contacts).toEqual([]);
  });

  test('two records that are made one get one word', async () => {
    await add(lineOn('membership ends', { offsetDays: -30 }));
    const [one, other] = [await somebody(), await somebody()];
    await joins(other.id, inDays(50));
    await world.runner.run();
    await odalys.call('POST /api/contacts/:id/merge', { params: { id: one.id }, body: { other: other.id } });
    await later(21);
    const told = [...(await mailTo(one.email)), ...(await mailTo(other.email))];
    expect(told).toHaveLength(1);
    expect(told[0]!.body).toContain(`Hello ${one.given}`);
  });
});

describe('a gift', () => {
  const pay = (token: string) =>
    world.anyone.call('POST /api/public/gifts/:token/pay', {
      params: { token },
      body: { card: '9000 0000 0000 0001', expiry: '08/29' },
    });
  let slug: string;
  let general: string;
  beforeAll(async () => {
    const marit = await world.as('marit');
    general = (await marit.call('GET /api/giving/choices')).funds.find((f) => f.name === 'General')!.id;
    ({ slug } = await marit.call('POST /api/giving/pages', {
      body: {
        title: { en: 'Nest boxes' },
        words: { en: 'Forty of them.' },
        thanks: { en: 'Thank you.' },
        fundId: general,
        initiativeId: null,
        eventId: null,
        goal: null,
        untilOn: null,
        suggested: [2500],
        monthly: true,
        showsGivers: true,
        open: true,
      },
    }));
  });
  const gives = async (monthly = false) => {
    n += 1;
    const email = `mab${n}@fenmail.example`;
    const { token } = await world.anyone.call('POST /api/public/giving/:slug/gifts', {
      params: { slug },
      body: { amount: 2500, giver: { given: `Mab${n}`, family: 'Quillfeather', email }, monthly },
    });
    await pay(token);
    await world.runner.run();
    const [gift] = await world.app.db.query<{ id: string; contactId: string }>(
      'select id, contact_id from gifts where lower(email) = $1 order by given_at desc limit 1',
      [email],
    );
    return { email, ...gift! };
  };
  const said = (subject: string) => ({
    subject: { en: subject },
    body: { en: 'Hello {{name}}, on {{given_on}} you gave {{gift}} for {{purpose}}.' },
  });

  test('is spoken of a week later, of monthly ones the first; what went back is not', async () => {
    const id = await add(lineOn('gift made', { offsetDays: 7, ...said('A week on') }));
    const [once, monthly, back] = [await gives(), await gives(true), await gives()];
    const marit = await world.as('marit');
    await marit.call('POST /api/gifts/:id/refunds', {
      params: { id: back.id },
      body: { amount: 2500, reason: 'a slip', by: null },
    });
    await later(45);
    const weekOn = async (email: string) =>
      (await mailTo(email)).filter((m) => m.subject === 'A week on').map((m) => m.body);
    expect(await weekOn(once.email)).toEqual([
      expect.stringMatching(/, on \w+ \d+ \w+ \d{4} you gave \$25 for General/u),
    ]);
    expect(await weekOn(monthly.email)).toHaveLength(1);
    expect(await weekOn(back.email)).toEqual([]);
    expect(
      (await shown(id)).leftOut.filter((r) => r.contactId === back.contactId).map((r) => r.whyNot),
    ).toEqual(['the gift went back']);
  });

  test('what asks for another goes to those who said yes, with the way out, and not to who took it', async () => {
    const ask = { topic: 'appeals' as const, ...said('Would you again?') };
    const id = await add(lineOn('gift made', { offsetDays: 7, ...ask }));
    const [yes, never, leaves] = [await gives(), await gives(), await gives()];
    const says = (contactId: string, granted: boolean) =>
      odalys.call('POST /api/contacts/:id/consents', {
        params: { id: contactId },
        body: { topic: 'appeals', channel: 'email', granted },
      });
    await says(yes.contactId, true);
    await says(leaves.contactId, true);
    await world.runner.run();
    expect((await shown(id)).leftOut.find((r) => r.contactId === never.contactId)!.whyNot).toBe(
      'never said yes to appeals',
    );
    await says(leaves.contactId, false);
    await later(8);
    const [asked] = (await mailTo(yes.email)).filter((m) => m.subject === 'Would you again?');
    expect(asked!.body).toContain('You get this because you said yes to hearing what gifts are needed for.');
    expect((await mailTo(leaves.email)).filter((m) => m.subject === 'Would you again?')).toEqual([]);
    const out = /\/out\/(\S+)/u.exec(asked!.body)![1]!;
    await world.anyone.call('POST /api/public/out/:token', { params: { token: out }, body: {} });
    const [last] = await world.app.db.query<{ granted: boolean }>(
      "select granted from consents where contact_id = $1 and topic = 'appeals' order by at desc, id desc limit 1",
      [yes.contactId],
    );
    expect(last!.granted).toBe(false);
  });
});

describe('writing a line', () => {
  test('what somebody else changed meanwhile is not written over; sent twice, it is there once', async () => {
    const id = crypto.randomUUID();
    const line = lineOn('membership ends', { offsetDays: -30 });
    expect((await put(id, line)).body).toEqual({ version: 1 });
    expect((await put(id, line)).body).toEqual({ version: 1 });
    const lines = await odalys.call('GET /api/year-round');
    expect(lines.filter((l) => l.line.id === id)).toHaveLength(1);
    expect((await put(id, { ...line, name: 'Mine' }, 1)).body).toEqual({ version: 2 });
    expect((await put(id, { ...line, name: 'Yours' }, 1)).problem.code).toBe('letter-changed');
    expect((await remove(id, 1)).problem.code).toBe('letter-changed');
    const who = await somebody();
    await joins(who.id, inDays(60));
    await world.runner.run();
    // Removed, nothing of it goes; put back, it does.
    expect((await remove(id, 2)).body).toEqual({ version: 3 });
    const states = () =>
      world.app.db.query<{ state: string }>(
        'select state from messages where line_id = $1 and contact_id = $2',
        [id, who.id],
      );
    expect(await states()).toEqual([{ state: 'held back' }]);
    expect((await put(id, { ...line, name: 'Mine' }, 3)).body).toEqual({ version: 4 });
    expect(await states()).toEqual([{ state: 'planned' }]);
    // Switched off, it is said so.
    await put(id, { ...line, off: true }, 4);
    expect(await states()).toEqual([{ state: 'held back' }]);
    expect((await shown(id)).off).toBe(true);
  });

  test('what it cannot say or mean is said beside it', async () => {
    const line = lineOn('membership ends', { offsetDays: -30 });
    const wrong = async (part: Partial<Said>) =>
      (await put(crypto.randomUUID(), { ...line, ...part })).problem.fields?.map((f) => [f.path, f.code]);
    expect(await wrong({ body: { en: 'Come to {{event}}' } })).toEqual([['line.body.en', 'field-elsewhere']]);
    expect(await wrong({ body: { en: '{{gift}}' } })).toEqual([['line.body.en', 'field-elsewhere']]);
    expect(await wrong({ name: '' })).toEqual([['line.name', 'line-unnamed']]);
    expect(await wrong({ offsetDays: -400 })).toEqual([['line.offsetDays', 'offset-too-far']]);
    expect(await wrong({ offsetDays: -1, offsetMinutes: 5 })).toEqual([
      ['line.offsetMinutes', 'offset-both-ways'],
    ]);
  });

  test('before it is kept, it is said to whom it goes, and to how many at once', async () => {
    const [past, soon] = [await somebody(), await somebody()];
    await joins(past.id, inDays(20));
    await joins(soon.id, inDays(50));
    const id = crypto.randomUUID();
    const count = (part: Partial<Said>) =>
      odalys.call('POST /api/year-round/count', {
        body: { line: { ...lineOn('membership ends', { offsetDays: -30, ...part }), id } },
      });
    const skips = await count({});
    expect(skips.atOnce).toBe(0);
    const late = await count({ late: 'now' });
    expect(late.atOnce).toBeGreaterThan(0);
    expect(late.planned).toBe(skips.planned + late.atOnce);
    // What went is not counted again.
    await put(id, lineOn('membership ends', { offsetDays: -30, late: 'now' }));
    await world.runner.run();
    expect(await count({ late: 'now' })).toMatchObject({ planned: skips.planned, atOnce: 0 });
  });

  test('whoever asks not to be written to gets nothing that was planned', async () => {
    const id = await add(lineOn('membership ends', { offsetDays: -30 }));
    const who = await somebody();
    await joins(who.id, inDays(60));
    await world.runner.run();
    await odalys.call('PATCH /api/contacts/:id', { params: { id: who.id }, body: { doNotContact: true } });
    await world.runner.run();
    const [row] = await world.app.db.query<{ state: string; code: string }>(
      "select state, why_not ->> 'code' as code from messages where line_id = $1 and contact_id = $2",
      [id, who.id],
    );
    expect(row).toEqual({ state: 'held back', code: 'asked' });
  });

  test('it is seen as one of its people gets it, and sent to oneself', async () => {
    const line = lineOn('membership ends', { offsetDays: -30 });
    const drawn = await odalys.call('POST /api/year-round/preview', {
      body: { line: { ...lineOn('gift made'), id: crypto.randomUUID() }, key: `gift ${crypto.randomUUID()}` },
    });
    expect(drawn.people.length).toBeGreaterThan(0);
    const who = await somebody({ language: 'fr' });
    const tie = await joins(who.id, inDays(90));
    const id = await add(line);
    const key = `membership ${tie} ${inDays(90)}`;
    const seen = await odalys.call('GET /api/year-round/:id/preview', { params: { id }, query: { key } });
    expect(seen).toMatchObject({ name: `${who.given} Quillfeather`, address: who.email, language: 'fr' });
    expect(seen.text).toContain(`Bonjour ${who.given}`);
    expect(seen.html).not.toContain('/own/');
    await world.runner.run();
    // The same is read in the Tray before it goes.
    const { rows } = await odalys.call('GET /api/tray', { query: { q: who.given } });
    const inTray = await odalys.call('GET /api/messages/:id', { params: { id: rows[0]!.id } });
    expect(inTray).toMatchObject({ event: null, line: line.name, subject: seen.subject, body: seen.text });
    await odalys.call('POST /api/year-round/:id/test', { params: { id }, body: { key } });
    await world.runner.run();
    const [test] = await world.app.db.query<{ subject: string }>(
      "select subject from standin_mail where subject like 'Test: Votre adh%'",
    );
    expect(test!.subject).toContain(seen.subject);
    const nobody = `membership ${crypto.randomUUID()} ${inDays(1)}`;
    expect(
      (await odalys.try('GET /api/year-round/:id/preview', { params: { id }, query: { key: nobody } }))
        .status,
    ).toBe(404);
  });

  test('one whose messages cannot be planned holds up nobody', async () => {
    await odalys.call('PUT /api/organization/quiet-hours', {
      body: { quietHours: { from: '20:00', until: '10:30' } },
    });
    const id = await add(lineOn('membership ends', { offsetDays: -30 }));
    const [broken, fine] = [await somebody(), await somebody()];
    const zoned = (zone: string | null) =>
      world.app.db.query('update contacts set zone = $2 where id = $1', [broken.id, zone]);
    await zoned('Nowhere/Atall');
    for (const one of [broken, fine]) await joins(one.id, inDays(90));
    await world.runner.run();
    const planned = () =>
      world.app.db.query<{ contactId: string }>(
        'select contact_id from messages where line_id = $1 and contact_id = any($2)',
        [id, [broken.id, fine.id]],
      );
    expect(await planned()).toEqual([{ contactId: fine.id }]);
    expect(await world.app.db.query('select 1 from year_round_stale')).toEqual([]);
    // Put right, they are planned as the others.
    await zoned(null);
    await world.runner.run();
    expect(await planned()).toHaveLength(2);
    await odalys.call('PUT /api/organization/quiet-hours', { body: { quietHours: null } });
  });

  test('whoever has a certificate hears before it runs out, and again of the next one', async () => {
    const id = await add(lineOn('certificate ends', { offsetDays: -30 }));
    const { id: skillId } = await odalys.call('POST /api/skills', {
      body: { name: 'Brushcutter ticket', certificate: true },
    });
    const [one, forGood] = [await somebody(), await somebody({ language: 'fr' })];
    const has = (contactId: string, until: string | null) =>
      odalys.call('PUT /api/contacts/:id/skills/:skill', {
        params: { id: contactId, skill: skillId },
        body: { number: '4711', until, seen: true },
      });
    await has(one.id, inDays(60));
    await has(forGood.id, null);
    await world.runner.run();
    const { rows } = await shown(id);
    expect(rows.map((r) => [r.name, r.state])).toEqual([[`${one.given} Quillfeather`, 'planned']]);
    const key = `certificate ${skillId} ${one.id} ${inDays(60)}`;
    const seen = await odalys.call('GET /api/year-round/:id/preview', { params: { id }, query: { key } });
    expect(seen.subject).toContain('(Brushcutter ticket) runs out on');
    await later(31);
    expect((await mailTo(one.email)).map((m) => m.subject)).toEqual([seen.subject]);
    // Written down once more as it was, nothing goes out again; one that holds longer is told of before it ends.
    await has(one.id, inDays(29));
    await world.runner.run();
    expect(await mailTo(one.email)).toHaveLength(1);
    await has(one.id, inDays(90));
    await later(59);
    expect(await mailTo(one.email)).toHaveLength(1);
    await later(2);
    expect(await mailTo(one.email)).toHaveLength(2);
    // Taken off the record, what was planned goes no more.
    await has(forGood.id, inDays(90));
    await world.runner.run();
    await odalys.call('DELETE /api/contacts/:id/skills/:skill', {
      params: { id: forGood.id, skill: skillId },
    });
    await later(61);
    expect(await mailTo(forGood.email)).toEqual([]);
  });

  test('quiet hours move it by the clock of whoever is written to', async () => {
    await odalys.call('PUT /api/organization/quiet-hours', {
      body: { quietHours: { from: '20:00', until: '10:30' } },
    });
    const id = await add(lineOn('membership ends', { offsetDays: -30 }));
    const who = await somebody();
    await joins(who.id, inDays(90));
    await world.runner.run();
    const at = async () => (await shown(id)).rows.find((r) => r.contactId === who.id)!.plannedFor;
    expect(await at()).toBe(instantOf(`${inDays(60)}T10:30`, zone));
    await odalys.call('PUT /api/organization/quiet-hours', { body: { quietHours: null } });
    expect(await at()).toBe(instantOf(`${inDays(60)}T09:00`, zone));
  });
});
