import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { inTransaction, systemActor } from '#server/app/app.ts';
import { takeAllOver } from '#server/contacts/own.ts';
import { type Caller, linkTo, makeWorld, type World } from './harness.ts';
import { bringIn, checked } from './scenes.ts';

describe('blanks of a record are filled in', () => {
  let world: World;
  let odalys: Caller;
  beforeAll(async () => {
    world = await makeWorld();
    odalys = await world.as('odalys');
  });
  afterAll(() => world.close());
  const add = (given: string, family: string, more: object = {}) =>
    odalys.call('POST /api/contacts', { body: { given, family, ...more } });
  const record = (id: string) => odalys.call('GET /api/contacts/:id', { params: { id } });

  test('added again by staff, a known person gets what was missing and keeps what was there', async () => {
    const phone = '902 555 0143';
    const { id } = await add('Ottilie', 'Sandpiper', { phone, birthDate: '1971-02-03' });
    const again = await add('Ottilie', 'Sandpiper', {
      phone,
      birthDate: '1971-02-03',
      email: 'ottilie@fenmail.example',
    });
    expect(again).toMatchObject({ id, existed: true });
    expect((await record(id)).emails).toMatchObject([{ email: 'ottilie@fenmail.example' }]);
    // Put in another order, the first is the one to call.
    const listed = [
      { phone: '902 555 0177', kind: 'work' as const, endedOn: null },
      { phone, kind: 'home' as const, endedOn: null },
    ];
    await odalys.call('PATCH /api/contacts/:id', { params: { id }, body: { phones: listed } });
    expect((await record(id)).phones.map((p) => [p.phone, p.kind])).toEqual([
      ['+19025550177', 'work'],
      ['+19025550143', 'home'],
    ]);
    const third = await add('Ottilie', 'Sandpiper', {
      phone,
      email: 'other@fenmail.example',
      birthDate: '1971-02-03',
    });
    expect(third.id).toBe(id);
    const { emails, phones, birthDate } = await record(id);
    expect(emails.map((e) => e.email)).toEqual(['ottilie@fenmail.example']);
    expect(phones.map((p) => p.phone)).toEqual(['+19025550177', '+19025550143']);
    expect(birthDate).toBe('1971-02-03');
  });

  test('an email is added by one’s own link, after those there are, and only once', async () => {
    const { id } = await add('Wilmer', 'Knot', { email: 'wilmer@fenmail.example' });
    const token = (await linkTo(world.app, 'own', id)).split('/').at(-1)!;
    const say = (addEmail: string) =>
      world.anyone.call('POST /api/public/own/:token/details', {
        params: { token },
        body: { contactId: id, addEmail },
      });
    expect(await say('wilmer.knot@harbourpost.example')).toEqual({ changed: 1, waiting: 0 });
    expect(await say('Wilmer.Knot@harbourpost.example')).toEqual({ changed: 0, waiting: 0 });
    expect((await record(id)).emails.map((e) => e.email)).toEqual([
      'wilmer@fenmail.example',
      'wilmer.knot@harbourpost.example',
    ]);
  });

  test('every wish about one field is taken over at once, and the others keep waiting', async () => {
    const people = [
      await add('Aud', 'Rail', { birthDate: '1990-01-01' }),
      await add('Bo', 'Rail', { birthDate: '1992-01-01' }),
    ];
    for (const [at, { id }] of people.entries()) {
      const token = (await linkTo(world.app, 'own', id)).split('/').at(-1)!;
      await world.anyone.call('POST /api/public/own/:token/details', {
        params: { token },
        body: { contactId: id, birthDate: `198${at}-05-05`, family: 'Rails' },
      });
    }
    expect(await inTransaction(world.app, systemActor, (w) => takeAllOver(w, 'birthDate'))).toBe(2);
    for (const [at, { id }] of people.entries())
      expect(await record(id)).toMatchObject({ birthDate: `198${at}-05-05`, family: 'Rail' });
    expect((await odalys.call('GET /api/proposals', {})).map((p) => p.field)).toEqual(['family', 'family']);
  });

  test('a list moves the end of a membership, names who is called in an emergency, says no to letters; all of it is taken back', async () => {
    const first = await bringIn(
      world,
      'Name,Email,Level,Member until\nTove Lark,tove.lark@fenmail.example,Household,2026-12-31\n',
    );
    await odalys.call('POST /api/imports/:id/apply', { params: { id: first.id } });
    const { id } = (await odalys.call('GET /api/search', { query: { q: 'tove lark' } })).contacts[0]!;
    const until = async () =>
      (await record(id)).ties.filter((t) => t.kind === 'membership').map((t) => t.until);
    const called = async () => (await record(id)).related.filter((r) => r.relation === 'in an emergency');
    expect(await until()).toEqual(['2026-12-31']);
    const list = await bringIn(
      world,
      'Name,Email,Level,Member until,Emergency contact,Emergency phone,Newsletter,Tags\n' +
        'Tove Lark,tove.lark@fenmail.example,Household,2027-12-31,Ebba Lark,902 555 0118,no,steward\n',
    );
    await odalys.call('PUT /api/imports/:id/mapping', {
      params: { id: list.id },
      body: { ...list.mapping, choices: { ...list.choices, policies: { 'member until': 'take theirs' } } },
    });
    await checked(world, list.id);
    await odalys.call('POST /api/imports/:id/apply', { params: { id: list.id } });
    expect(await until()).toEqual(['2027-12-31']);
    expect((await record(id)).tags).toEqual(['steward']);
    expect(await called()).toMatchObject([{ name: 'Ebba Lark' }]);
    expect((await record(id)).consents).toMatchObject([{ topic: 'newsletter', granted: false }]);
    const undone = await odalys.call('POST /api/imports/:id/undo', { params: { id: list.id } });
    expect(undone.kept).toEqual([]);
    expect(await until()).toEqual(['2026-12-31']);
    expect(await called()).toEqual([]);
    expect((await record(id)).tags).toEqual([]);
  });

  test('what was changed since an import is kept when it is taken back, and said', async () => {
    const field = await odalys.call('POST /api/fields', {
      body: { name: 'Locker', kind: 'text', choices: [] },
    });
    const { id } = await add('Runa', 'Teal', { email: 'runa.teal@fenmail.example' });
    const list = await bringIn(world, 'Name,Email,Locker\nRuna Teal,runa.teal@fenmail.example,14\n');
    await odalys.call('POST /api/imports/:id/apply', { params: { id: list.id } });
    const locker = async () => (await record(id)).fields.find((f) => f.id === field.id)!.value;
    expect(await locker()).toBe('14');
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id },
      body: { fields: { [field.id]: '15' } },
    });
    const undone = await odalys.call('POST /api/imports/:id/undo', { params: { id: list.id } });
    expect(undone.kept).toEqual(['Locker was changed since and stays']);
    expect(await locker()).toBe('15');
    // Not changed since, the field is empty again.
    const again = await bringIn(world, 'Name,Email,Locker\nSiv Teal,siv.teal@fenmail.example,\n');
    await odalys.call('POST /api/imports/:id/apply', { params: { id: again.id } });
    const siv = (await odalys.call('GET /api/search', { query: { q: 'siv teal' } })).contacts[0]!.id;
    const filled = await bringIn(world, 'Name,Email,Locker\nSiv Teal,siv.teal@fenmail.example,9\n');
    await odalys.call('POST /api/imports/:id/apply', { params: { id: filled.id } });
    await odalys.call('POST /api/imports/:id/undo', { params: { id: filled.id } });
    expect((await record(siv)).fields.find((f) => f.id === field.id)!.value).toBeNull();
  });
});
