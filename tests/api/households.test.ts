import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { bringIn, checked } from './scenes.ts';

describe('rows of a file that name several people', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const odalys = () => world.as('odalys');
  const apply = async (id: string) =>
    (await odalys()).call('POST /api/imports/:id/apply', { params: { id } });
  const rowsOf = async (id: string) =>
    (await (await odalys()).call('GET /api/imports/:id/rows', { params: { id }, query: {} as never })).rows;
  const find = async (q: string) =>
    (await (await odalys()).call('GET /api/search', { query: { q } })).contacts.find((c) => c.id)!;
  const read = async (q: string) =>
    (await odalys()).call('GET /api/contacts/:id', { params: { id: (await find(q)).id } });
  /** How many households some contacts live in; those without one count as one each. */
  const homes = async (...ids: string[]) =>
    (
      await world.app.db.query<{ n: number }>(
        'select count(distinct coalesce(household_id, id))::int as n from contacts where id = any($1)',
        [ids],
      )
    )[0]!.n;

  const register = [
    'Child,Birth date,Parent,Parent email,Parent phone,Address',
    'Léo Marchbank,2016-04-03,Camille Marchbank,camille@marchbank.example,902 555 0144,3 Sedge Way',
    'Mai Marchbank,2018-06-05,Camille Marchbank,camille@marchbank.example,902 555 0144,3 Sedge Way',
    'Total,,,,,2',
    '',
  ].join('\n');

  test('a children’s register makes the parent a person of their own, once, and their guardian', async () => {
    const summary = await bringIn(world, register, 'mudlarks.csv');
    expect(summary.allRows).toBe(5);
    expect((await rowsOf(summary.id)).map((r) => [r.ofLine ?? r.line, r.part, r.name, r.verdict])).toEqual([
      [2, 'own', 'Léo Marchbank', 'new'],
      [2, 'guardian', 'Camille Marchbank', 'new'],
      [3, 'own', 'Mai Marchbank', 'new'],
      [3, 'guardian', 'Camille Marchbank', 'same'],
      [4, 'own', 'Total · 2', 'rejected'],
    ]);
    expect((await rowsOf(summary.id))[3]!.reasons).toEqual([
      'the same person as in line 2',
      'guardian of Mai Marchbank',
    ]);
    await apply(summary.id);
    const camille = await read('camille marchbank');
    expect(camille.emails.map((e) => e.email)).toEqual(['camille@marchbank.example']);
    expect(camille.birthDate).toBeNull();
    expect(camille.related.map((r) => [r.relation, r.name]).sort()).toEqual([
      ['guardian of', 'Léo Marchbank'],
      ['guardian of', 'Mai Marchbank'],
    ]);
    const leo = await read('leo marchbank');
    expect([leo.emails, leo.phones, leo.birthDate]).toEqual([[], [], '2016-04-03']);
    // They live together, which the address says.
    expect(await homes(leo.id, camille.id)).toBe(1);
  });

  test('the same register again changes nothing; a third child is added to the parent there is', async () => {
    const again = await bringIn(world, register, 'mudlarks.csv');
    expect(again.counts).toMatchObject({ new: 0, changes: 0, look: 0 });
    await apply(again.id);
    const more = await bringIn(
      world,
      register.replace('Léo', 'Nina').replace('2016-04-03', '2014-01-09'),
      'mudlarks-2.csv',
    );
    const rows = await rowsOf(more.id);
    expect(rows.find((r) => r.name === 'Nina Marchbank')!.verdict).toBe('new');
    expect(rows[1]).toMatchObject({ part: 'guardian', contactName: 'Camille Marchbank', verdict: 'changes' });
    expect(rows[1]!.changes).toEqual([
      {
        field: 'guardian of',
        before: 'Léo Marchbank; Mai Marchbank',
        after: 'Nina Marchbank',
        applied: true,
        why: null,
      },
    ]);
    await apply(more.id);
    expect((await read('camille marchbank')).related).toHaveLength(3);
    // Taken back, the child goes and so does the tie; the parent stays with the two of before.
    const undone = await (await odalys()).call('POST /api/imports/:id/undo', { params: { id: more.id } });
    expect(undone).toMatchObject({ removed: 1, kept: [] });
    expect((await read('camille marchbank')).related.map((r) => r.name).sort()).toEqual([
      'Léo Marchbank',
      'Mai Marchbank',
    ]);
  });

  test('a register taken back takes the parents along whom it brought', async () => {
    const { id } = await bringIn(
      world,
      'Child,Parent,Parent email\nOtis Bellweather,Rhea Bellweather,rhea@bellweather.example\n',
      'one.csv',
    );
    await apply(id);
    expect((await read('otis bellweather')).related[0]).toMatchObject({ name: 'Rhea Bellweather' });
    const undone = await (await odalys()).call('POST /api/imports/:id/undo', { params: { id } });
    expect(undone).toEqual({ removed: 2, restored: 0, kept: [] });
    expect(await find('bellweather')).toBeUndefined();
  });

  test('two people in one cell become two contacts of one household, with what each has', async () => {
    const { id } = await bringIn(
      world,
      'Household,Home phone,Email 1,Email 2,Level\n"Quayle, Ansel & Brigid",902 555 0171,ansel@quayle.example,bq@quayle.example,Life\n',
      'households.csv',
    );
    expect((await rowsOf(id)).map((r) => [r.part, r.name])).toEqual([
      ['own', 'Ansel Quayle'],
      ['partner', 'Brigid Quayle'],
    ]);
    await apply(id);
    const [ansel, brigid] = [await read('ansel quayle'), await read('brigid quayle')];
    expect(await homes(ansel.id, brigid.id)).toBe(1);
    expect([ansel, brigid].map((p) => p.emails.map((e) => e.email))).toEqual([
      ['ansel@quayle.example'],
      ['bq@quayle.example'],
    ]);
    expect(ansel.phones[0]).toMatchObject({ phone: '+19025550171', kind: 'home' });
    expect([ansel, brigid].map((p) => p.ties.length)).toEqual([1, 0]);
  });

  test('a name put right in place brings the second person, or takes them out again', async () => {
    const person = await odalys();
    const { id } = await bringIn(
      world,
      'Name,Email\nOona Tarn,tarn@fenmail.example\nPia Reed,pia@fenmail.example\n',
    );
    const put = (line: number, name: string) =>
      person.call('PATCH /api/imports/:id/rows/:line', {
        params: { id, line } as never,
        body: { cells: { 0: name } },
      });
    await put(2, 'Oona & Piers Tarn');
    let rows = await rowsOf(id);
    expect(rows.map((r) => r.name)).toEqual(['Oona Tarn', 'Piers Tarn', 'Pia Reed']);
    // Left out by themselves, without touching the first.
    await person.call('PATCH /api/imports/:id/rows/:line', {
      params: { id, line: rows[1]!.line } as never,
      body: { excluded: true },
    });
    rows = await rowsOf(id);
    expect(rows.map((r) => [r.name, r.excluded])).toEqual([
      ['Oona Tarn', false],
      ['Piers Tarn', true],
      ['Pia Reed', false],
    ]);
    // Written on the second one's sheet, the cell is the line's.
    const answered = await put(rows[1]!.line, 'Oona Tarn');
    expect(answered).toMatchObject({ name: 'Oona Tarn', part: 'own' });
    expect((await rowsOf(id)).map((r) => r.name)).toEqual(['Oona Tarn', 'Pia Reed']);
    expect((await person.call('GET /api/imports/:id', { params: { id } })).counts).toMatchObject({ new: 2 });
    // What was put right by hand is there after everything is checked again.
    await put(2, 'Oona & Piers Tarn');
    const { mapping } = await person.call('GET /api/imports/:id', { params: { id } });
    await person.call('PUT /api/imports/:id/mapping', { params: { id }, body: mapping });
    await checked(world, id);
    expect((await rowsOf(id)).map((r) => r.name)).toEqual(['Oona Tarn', 'Piers Tarn', 'Pia Reed']);
  });

  test('emails alone: known where one contact has it, given back where several or nobody have', async () => {
    const person = await odalys();
    for (const [given, email] of [
      ['Vera', 'vera@lone.example'],
      ['Ada', 'both@lone.example'],
      ['Abe', 'both@lone.example'],
    ] as const)
      await person.call('POST /api/contacts', { body: { given, family: 'Lone', email } });
    const { id, mapping } = await bringIn(
      world,
      'Email,Status\nVERA@lone.example,unsubscribed\nboth@lone.example,subscribed\nnobody@lone.example,subscribed\n',
      'list.csv',
    );
    expect(mapping.columns).toEqual(['email', 'newsletter']);
    const rows = await rowsOf(id);
    expect(rows.map((r) => [r.verdict, r.contactName, r.reasons[0]])).toEqual([
      ['changes', 'Vera Lone', 'known by the email alone'],
      ['rejected', null, 'There is no name in this row, and 2 contacts have this email.'],
      ['rejected', null, 'There is no name in this row, and nobody has this email.'],
    ]);
    expect(rows[0]!.changes.map((c) => [c.field, c.after])).toEqual([['newsletter', 'no']]);
    await apply(id);
    const vera = await read('vera lone');
    expect([vera.given, vera.consents.find((c) => c.topic === 'newsletter')?.granted]).toEqual([
      'Vera',
      false,
    ]);
  });
});
