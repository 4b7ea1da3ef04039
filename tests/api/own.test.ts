import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { linkTo, makeWorld, type World } from './harness.ts';

describe('a person’s own page', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const odalys = () => world.as('odalys');
  const add = async (body: object) =>
    (await (await odalys()).call('POST /api/contacts', { body: body as never })).id;
  const linkOf = async (id: string) => (await linkTo(world.app, 'own', id)).split('/').at(-1)!;
  const change = (token: string, body: object) =>
    world.anyone.try('POST /api/public/own/:token/details', { params: { token }, body: body as never });

  test('blanks are filled at once, what contradicts the records waits for a decision', async () => {
    const caller = await odalys();
    const id = await add({
      given: 'Vera',
      family: 'Vane',
      email: 'vera@fenmail.example',
      street: '1 Chapel Hill',
    });
    const token = await linkOf(id);
    const page = () => world.anyone.call('GET /api/public/own/:token', { params: { token } });
    expect(await page()).toMatchObject({
      person: { id, street: '1 Chapel Hill', birthDate: null, waiting: [] },
      emails: ['vera@fenmail.example'],
      children: [],
    });
    const said = await change(token, {
      contactId: id,
      street: '9 Harbour St',
      birthDate: '1980-05-03',
      dietary: 'no nuts',
      addPhone: '902 555 0191',
    });
    expect(said.body).toEqual({ changed: 3, waiting: 1 });
    expect(await page()).toMatchObject({
      person: { street: '1 Chapel Hill', birthDate: '1980-05-03', dietary: 'no nuts', waiting: ['street'] },
      phones: ['+19025550191'],
    });
    expect((await caller.call('GET /api/desk')).entries.map((e) => e.subject)).toContain(
      'Changes people asked for',
    );

    // Asked again, the newest wish counts; taken over, it is in the record.
    await change(token, { contactId: id, street: '12 Sluice Lane' });
    const [proposal, ...more] = await caller.call('GET /api/proposals', {});
    expect(more).toEqual([]);
    expect(proposal).toMatchObject({
      name: 'Vera Vane',
      field: 'street',
      before: '1 Chapel Hill',
      after: '12 Sluice Lane',
    });
    await caller.call('POST /api/proposals/:id/decide', {
      params: { id: proposal!.id },
      body: { accept: true },
    });
    expect((await caller.call('GET /api/contacts/:id', { params: { id } })).street).toBe('12 Sluice Lane');
    const twice = await caller.try('POST /api/proposals/:id/decide', {
      params: { id: proposal!.id },
      body: { accept: false },
    });
    expect(twice.problem.code).toBe('decided');
    const lifeline = await caller.call('GET /api/contacts/:id/lifeline', {
      params: { id },
      query: { kind: 'record' },
    });
    expect(lifeline.entries.map((e) => e.detail)).toContain('by the person, by their own link');
  });

  test('a guardian puts a child’s details right, and nobody else’s', async () => {
    const id = await add({ given: 'Una', family: 'Cole', email: 'una.cole@fenmail.example' });
    const child = await add({ given: 'Wyn', family: 'Cole', birthDate: '2016-02-03' });
    await world.app.db.query(
      "insert into relationships (id, kind, from_contact, to_contact, created_at) values ($1, 'guardian', $2, $3, now())",
      [crypto.randomUUID(), id, child],
    );
    const token = await linkOf(id);
    const { children } = await world.anyone.call('GET /api/public/own/:token', { params: { token } });
    expect(children.map((c) => c.given)).toEqual(['Wyn']);
    const allergy = await change(token, { contactId: children[0]!.id, dietary: 'no milk' });
    expect(allergy.body).toEqual({ changed: 1, waiting: 0 });
    const stranger = await add({ given: 'Zeno', family: 'Alder' });
    expect((await change(token, { contactId: stranger, dietary: 'x' })).status).toBe(404);
  });

  test('consent is said there, a merged contact keeps its page, a wrong link leads nowhere', async () => {
    const caller = await odalys();
    const id = await add({ given: 'Tariq', family: 'Teal', email: 'tariq@fenmail.example' });
    const token = await linkOf(id);
    await world.anyone.call('POST /api/public/own/:token/consents', {
      params: { token },
      body: { topic: 'newsletter', channel: 'email', granted: false },
    });
    const { consents } = await caller.call('GET /api/contacts/:id', { params: { id } });
    expect(consents).toMatchObject([
      { topic: 'newsletter', granted: false, source: 'said on their own page' },
    ]);
    const other = await add({ given: 'Tarik', family: 'Teale' });
    await caller.call('POST /api/contacts/:id/merge', { params: { id: other }, body: { other: id } });
    expect((await world.anyone.call('GET /api/public/own/:token', { params: { token } })).person.id).toBe(
      other,
    );
    const altered = `${token.slice(0, -1)}${token.endsWith('A') ? 'B' : 'A'}`;
    expect(
      (await world.anyone.try('GET /api/public/own/:token', { params: { token: altered } })).status,
    ).toBe(404);
    const wrong = await change(token, {
      contactId: other,
      given: '',
      family: '',
      birthDate: '2027-01-01',
      addEmail: 'nonsense',
    });
    expect(wrong.problem.fields!.map((f) => f.path).sort()).toEqual(['addEmail', 'birthDate', 'given']);
  });

  test('the link is sent to the person, and to nobody who has no address', async () => {
    const caller = await odalys();
    const id = await add({ given: 'Orla', family: 'Oakes', email: 'orla.oakes@fenmail.example' });
    const sent = await caller.call('POST /api/contacts/:id/own-link', {
      params: { id },
    });
    expect(sent.sentTo).toBe('orla.oakes@fenmail.example');
    await world.runner.run();
    const [mail] = await world.app.db.query<{ body: string }>(
      'select body from standin_mail where address = $1',
      [sent.sentTo],
    );
    expect(mail!.body).toContain(await linkTo(world.app, 'own', id));
    const silent = await add({ given: 'Silent', family: 'Oakes' });
    const refused = await caller.try('POST /api/contacts/:id/own-link', {
      params: { id: silent },
    });
    expect(refused.problem.code).toBe('no-email');
  });

  test('a membership is asked to change or to end, by its member only, and staff decide', async () => {
    const caller = await odalys();
    const id = await add({ given: 'Rosalind', family: 'Teal', email: 'rosalind@fenmail.example' });
    const stranger = await add({ given: 'Odd', family: 'Teal' });
    const make = async (contact: string, level: string, until: string | null) =>
      (
        await caller.call('POST /api/contacts/:id/ties', {
          params: { id: contact },
          body: { kind: 'membership', level, from: '2020-01-01', until },
        })
      ).id;
    const own = await make(id, 'Household', '2026-12-31');
    const other = await make(stranger, 'Life', null);
    const token = await linkOf(id);
    const page = () => world.anyone.call('GET /api/public/own/:token', { params: { token } });
    const ask = (membership: string, body: object) =>
      world.anyone.try('POST /api/public/own/:token/memberships/:id', {
        params: { token, id: membership },
        body: body as never,
      });
    expect(await page()).toMatchObject({
      memberships: [{ id: own, level: 'Household', until: '2026-12-31', waiting: [] }],
      levels: ['Household', 'Life'],
      today: '2026-07-09',
    });
    expect((await ask(other, { level: 'Life' })).status).toBe(404);
    const wrong = await ask(own, { level: 'Emperor', endsOn: '2026-07-08' });
    expect(wrong.problem.fields!.map((f) => f.path)).toEqual(['level', 'endsOn']);
    expect((await ask(own, { endsOn: '2027-01-01' })).problem.fields![0]!.message).toContain('already');
    expect((await ask(own, { level: 'Household' })).body).toEqual({ waiting: 0 });
    await ask(own, { level: 'Life', endsOn: '2026-09-30' });
    // Asked again, the newest wish counts.
    expect((await ask(own, { endsOn: '2026-08-31' })).body).toEqual({ waiting: 1 });
    expect((await page()).memberships[0]).toMatchObject({
      level: 'Household',
      until: '2026-12-31',
      waiting: ['endsOn', 'level'],
    });
    const wishes = (await caller.call('GET /api/proposals')).filter((p) => p.contactId === id);
    expect(wishes.map((w) => [w.field, w.before, w.after])).toEqual([
      ['level', 'Household', 'Life'],
      ['endsOn', '2026-12-31', '2026-08-31'],
    ]);
    const decide = (field: string, accept: boolean) =>
      caller.call('POST /api/proposals/:id/decide', {
        params: { id: wishes.find((w) => w.field === field)!.id },
        body: { accept },
      });
    await decide('level', false);
    await decide('endsOn', true);
    expect((await page()).memberships[0]).toMatchObject({
      level: 'Household',
      until: '2026-08-31',
      waiting: [],
    });
    const lifeline = await caller.call('GET /api/contacts/:id/lifeline', { params: { id }, query: {} });
    expect(lifeline.entries.map((e) => e.text)).toContain(
      'took over the end of the membership they asked for',
    );
  });
});
