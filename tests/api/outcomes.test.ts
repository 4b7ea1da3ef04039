import sharp from 'sharp';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { z } from 'zod';
import type { measuresContract } from '#contract/measures.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { lineOn } from './messageLines.ts';
import { saveIt } from './plans.ts';
import { bookFor, type OpenEvent, openEvent, signedInAs } from './scenes.ts';
import { wordsOf } from './wordsOf.ts';

let world: World;
let odalys: Caller;
/** Measures by their names. */
const measures = new Map<string, string>();
type Body = z.input<(typeof measuresContract)['POST /api/measures']['body']>;
const litter: Body = {
  name: { en: 'Litter taken out', fr: 'Déchets retirés' },
  unit: { en: 'kg' },
  kind: 'sum',
  direction: 'more',
  decimals: 1,
  most: 300,
  enteredBy: 'people',
  lookedAt: false,
};
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  const all: Body[] = [
    litter,
    {
      ...litter,
      name: { en: 'Birds' },
      unit: { en: 'birds' },
      kind: 'count',
      decimals: 0,
      most: null,
      enteredBy: 'anyone',
    },
    {
      ...litter,
      name: { en: 'Kinds of birds' },
      unit: { en: '' },
      kind: 'distinct',
      decimals: 0,
      most: null,
      enteredBy: 'crew',
    },
    {
      ...litter,
      name: { en: 'Clarity' },
      unit: { en: 'cm' },
      kind: 'latest',
      decimals: 0,
      most: null,
      enteredBy: 'team',
    },
    { ...litter, name: { en: 'Path' }, unit: { en: 'm' }, lookedAt: true, enteredBy: 'anyone' },
  ];
  for (const body of all) {
    const { id } = await odalys.call('POST /api/measures', { body });
    measures.set(body.name.en, id);
  }
});
afterAll(() => world.close());

const bytesOf = (file: unknown) => file as Buffer;
const of = (name: string) => measures.get(name)!;

/** An event of today that counts some measures, with its page to count on. */
async function counting(title: string, names: readonly string[], outcomes: object = {}) {
  const event = await openEvent(world, {
    title,
    startsLocal: '2026-07-09T08:00',
    endsLocal: '2026-07-09T23:00',
  });
  const saved = await saveIt(odalys, event.id, {
    outcomes: {
      measures: names.map((name) => ({
        measureId: of(name),
        planned: name === 'Litter taken out' ? 200 : null,
      })),
      opensDays: 0,
      closesDays: 1,
      initiativeIds: [],
      ...outcomes,
    },
  });
  expect(saved.status).toBe(200);
  const { page } = await odalys.call('PUT /api/events/:id/counting', {
    params: { id: event.id },
    body: { on: true },
  });
  return { event, token: page!.split('/').at(-1)! };
}
const outcomesOf = (event: Pick<OpenEvent, 'id'>, who = odalys) =>
  who.call('GET /api/events/:id/outcomes', { params: { id: event.id } });
const enter = (event: OpenEvent, entries: object[], more: object = {}, who = odalys) =>
  who.try('POST /api/events/:id/tallies', {
    params: { id: event.id },
    body: { entries: entries as never, countedLocal: '2026-07-09T09:00', ...more },
  });
const count = (token: string, entries: object[], more: object = {}, who: Caller = world.anyone) =>
  who.try('POST /api/public/count/:token', {
    params: { token },
    body: { entries: entries as never, countedLocal: '2026-07-09T09:00', ...more },
  });
const arrive = async (event: OpenEvent, given: string) => {
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  await odalys.call('POST /api/registrations/:id/attendance', {
    params: { id: rows.find((r) => r.given === given)!.id },
    body: { eventId: event.id, state: 'arrived' },
  });
};
const sedge = (given: string) => ({ given, family: 'Sedge', known: `${given.toLowerCase()}@sedge.example` });
/** Books for people and ticks some of them off. */
const there = async (event: OpenEvent, came: readonly string[], absent: readonly string[] = []) => {
  for (const given of [...came, ...absent])
    await bookFor(world, event, [given], { email: `${given.toLowerCase()}@sedge.example` });
  for (const given of came) await arrive(event, given);
};

test('what the team enters counts at once, several measures together, and comes to totals by kind', async () => {
  const { event } = await counting('Counted By The Team', [
    'Litter taken out',
    'Birds',
    'Kinds of birds',
    'Clarity',
  ]);
  await there(event, ['Asta', 'Bror']);
  const first = await enter(event, [
    { measureId: of('Litter taken out'), said: '12,5 kg' },
    { measureId: of('Birds'), said: '40' },
    { measureId: of('Kinds of birds'), thing: 'Sora' },
    { measureId: of('Kinds of birds'), thing: 'Grey heron' },
    { measureId: of('Clarity'), said: '40 cm' },
  ]);
  expect(first.status).toBe(201);
  await enter(
    event,
    [
      { measureId: of('Litter taken out'), said: '26 lb' },
      { measureId: of('Kinds of birds'), thing: 'grey heron' },
      { measureId: of('Clarity'), said: '35' },
    ],
    { countedLocal: '2026-07-09T08:30', place: 'North sluice' },
  );
  const shown = await outcomesOf(event);
  expect(Object.fromEntries(shown.measures.map((m) => [m.name.en, m.total]))).toEqual({
    'Litter taken out': 24.3,
    Birds: 40,
    'Kinds of birds': 2,
    // The later time holds, whichever was entered last.
    Clarity: 40,
  });
  expect(shown.measures[0]).toMatchObject({
    planned: 200,
    tallies: 2,
    waiting: 0,
    people: 1,
    per: { head: 12.15 },
  });
  expect(shown.measures[3]!.per).toEqual({ head: null, hour: null, spent: null });
  expect(shown.took).toMatchObject({ heads: 2, spent: 0 });
  expect(shown.counting).toEqual({
    state: 'open',
    from: '2026-07-09T11:00:00.000Z',
    until: '2026-07-11T02:00:00.000Z',
  });
  const csv = String(await odalys.call('GET /api/events/:id/tallies.csv', { params: { id: event.id } }));
  expect(csv).toContain('Litter taken out,11.8,kg');
  expect(csv.trim().split('\n')).toHaveLength(9);
});

test('by hour of the crew and by money spent; beside the last time it was held', async () => {
  const { event } = await counting('Held Again', ['Litter taken out']);
  await enter(event, [{ measureId: of('Litter taken out'), said: '100' }]);
  await odalys.call('POST /api/events/:id/costs', {
    params: { id: event.id },
    body: { what: 'Bags', line: '', amount: 5000, on: '2026-07-09', paidFrom: 'cash' },
  });
  expect((await outcomesOf(event)).measures[0]!.per.spent).toBe(2);
  const { id } = await odalys.call('POST /api/events', {
    body: { publicTitle: 'Held Again', from: event.id, date: '2027-07-08' },
  });
  // The plan of what is counted, and when, came along with the copy.
  const again = await outcomesOf({ id });
  expect(again.measures[0]).toMatchObject({
    name: { en: 'Litter taken out' },
    planned: 200,
    total: 0,
    before: { title: 'Held Again', total: 100 },
  });
  expect(again.counting).toMatchObject({ state: 'not yet', until: '2027-07-10T02:00:00.000Z' });
});

test('what is wrong is said beside its field, and nothing of it is kept', async () => {
  const { event, token } = await counting('Wrongly Counted', ['Litter taken out', 'Birds', 'Kinds of birds']);
  const wrong = await enter(event, [
    { measureId: of('Litter taken out'), said: '3 m' },
    { measureId: of('Birds'), said: '2.5' },
    { measureId: of('Kinds of birds'), thing: '' },
    { measureId: of('Clarity'), said: '40' },
    { measureId: of('Litter taken out'), said: 'a lot' },
  ]);
  expect(wrong.problem.fields).toMatchObject([
    { path: 'entries.0.said', code: 'tally-other-unit' },
    { path: 'entries.1.said', code: 'not-whole' },
    { path: 'entries.2.thing', code: 'about-needed' },
    { path: 'entries.3.measureId', code: 'measure-not-counted' },
    { path: 'entries.4.said', code: 'tally-no-number' },
  ]);
  const at = async (countedLocal: string) =>
    (await enter(event, [{ measureId: of('Birds'), said: '2' }], { countedLocal })).problem?.fields?.[0];
  expect(await at('2026-07-09T09:40')).toMatchObject({ path: 'countedLocal', code: 'tally-ahead' });
  expect(await at('2026-07-09T07:59')).toMatchObject({ path: 'countedLocal', code: 'tally-outside' });
  const outside = await count(token, [{ measureId: of('Birds'), said: '2' }], {
    countedLocal: '2026-07-08T09:00',
  });
  expect(outside.problem.fields).toMatchObject([{ path: 'countedLocal', code: 'tally-outside' }]);
  expect((await count(token, [])).problem.fields).toMatchObject([{ code: 'tally-nothing' }]);
  expect(
    (await count(token, [{ measureId: of('Litter taken out'), said: '2' }])).problem.fields,
  ).toMatchObject([
    { path: 'given', code: 'first-name-needed' },
    { path: 'known', code: 'known-by-needed' },
  ]);
  expect((await outcomesOf(event)).tallies).toEqual([]);
});

test('people count by the code of the poster; who was not there waits, and the answer is the same', async () => {
  const { event, token } = await counting('By The Poster', ['Litter taken out', 'Kinds of birds', 'Clarity']);
  await there(event, ['Cilla'], ['Dag']);
  const kilos = (said: string) => [{ measureId: of('Litter taken out'), said }];
  const answers = [
    await count(token, kilos('5'), sedge('Cilla')),
    await count(token, kilos('6'), sedge('Dag')),
    await count(token, kilos('7'), sedge('Nobody')),
    await count(token, kilos('301'), { ...sedge('Cilla'), countedLocal: '2026-07-09T08:10' }),
    await count(token, kilos('5'), { ...sedge('Cilla'), countedLocal: '2026-07-09T09:05' }),
    await count(token, [{ measureId: of('Kinds of birds'), thing: 'Sora' }], sedge('Cilla')),
  ];
  for (const { status, body } of answers) expect([status, body]).toEqual([201, { done: true }]);
  const shown = await outcomesOf(event);
  const by = (value: number | null, at = 0) => shown.tallies.filter((t) => t.value === value)[at]!;
  expect(by(6)).toMatchObject({ state: 'waiting', doubts: ['not there'], by: 'Dag Sedge' });
  expect(by(7)).toMatchObject({ state: 'waiting', doubts: ['nobody'], by: 'Nobody Sedge', contactId: null });
  expect(by(301)).toMatchObject({ state: 'waiting', doubts: ['much'] });
  expect(
    shown.tallies
      .filter((t) => t.value === 5)
      .map((t) => t.doubts)
      .sort(),
  ).toEqual([[], ['twice']]);
  expect(by(null)).toMatchObject({ thing: 'Sora', state: 'waiting', doubts: ['not theirs'] });
  expect(shown.measures[0]).toMatchObject({ total: 5, tallies: 1, waiting: 4, people: 1 });
  // What only the team counts is not on the page, and not taken.
  const page = await world.anyone.call('GET /api/public/count/:token', { params: { token } });
  expect(page.measures.map((m) => m.name.en)).toEqual(['Litter taken out', 'Kinds of birds']);
  expect(page).toMatchObject({ event: 'By The Poster', me: null, named: true, counting: { state: 'open' } });
  expect(page.measures[0]!.total).toBe(5);
  expect(JSON.stringify(page)).not.toMatch(/Cilla|Dag|Sedge/u);
  const team = await count(token, [{ measureId: of('Clarity'), said: '4' }], sedge('Cilla'));
  expect(team.problem.fields).toMatchObject([{ code: 'measure-not-counted' }]);
  // It stands with Cilla, once: what waits is not hers yet.
  const { contactId } = shown.tallies.find((t) => t.state === 'counted')!;
  const { entries } = await odalys.call('GET /api/contacts/:id/lifeline', { params: { id: contactId! } });
  expect(entries.filter((e) => e.text === 'counted').map((e) => e.detail)).toEqual([
    'Litter taken out: 5 kg',
  ]);
});

test('somebody who is signed in counts under their own name; anybody where anybody may', async () => {
  const { event, token } = await counting('Signed In', ['Litter taken out', 'Birds', 'Path']);
  await there(event, ['Embla']);
  const embla = await signedInAs(world.origin, 'embla@sedge.example');
  const page = await embla.call('GET /api/public/count/:token', { params: { token } });
  expect(page.me).toBe('Embla Sedge');
  await count(token, [{ measureId: of('Litter taken out'), said: '4' }], {}, embla);
  await count(token, [{ measureId: of('Birds'), said: '9' }]);
  await count(token, [{ measureId: of('Path'), said: '9 ft' }]);
  const { tallies } = await outcomesOf(event);
  const byMeasure = (name: string) => tallies.find((t) => t.measureId === of(name));
  expect(byMeasure('Litter taken out')).toMatchObject({ state: 'counted', by: 'Embla Sedge' });
  expect(byMeasure('Birds')).toMatchObject({ state: 'counted', by: '', contactId: null });
  expect(byMeasure('Path')).toMatchObject({ state: 'waiting', doubts: ['looked at'], value: 2.7 });
});

test('what a stranger types is offered to nobody before somebody of the team has seen it', async () => {
  const { id } = await odalys.call('POST /api/measures', {
    body: {
      ...litter,
      name: { en: 'Plants' },
      unit: { en: '' },
      kind: 'distinct',
      enteredBy: 'anyone',
      most: null,
    },
  });
  measures.set('Plants', id);
  const { event, token } = await counting('By Strangers', ['Plants']);
  await count(token, [{ measureId: id, thing: 'Call 555-0100' }]);
  await enter(event, [{ measureId: id, thing: 'Sundew' }]);
  const things = async () =>
    (await world.anyone.call('GET /api/public/count/:token', { params: { token } })).things.map(
      (t) => t.thing,
    );
  expect(await things()).toEqual(['Sundew']);
  const stranger = (await outcomesOf(event)).tallies.find((t) => t.thing !== 'Sundew')!;
  expect(stranger.state).toBe('counted');
  for (const state of ['set aside', 'counted'] as const)
    await odalys.call('POST /api/events/:id/tallies/decided', {
      params: { id: event.id },
      body: { ids: [stranger.id], state },
    });
  expect(await things()).toEqual(['Call 555-0100', 'Sundew']);
});

test('tallies are counted, set aside and corrected; what they said stays, and two do not correct one over each other', async () => {
  const { event, token } = await counting('Looked At', ['Litter taken out', 'Path']);
  await count(token, [{ measureId: of('Path'), said: '9' }]);
  await count(token, [{ measureId: of('Path'), said: '900' }], { countedLocal: '2026-07-09T08:30' });
  const ids = (await outcomesOf(event)).tallies.map((t) => t.id);
  const decide = (state: 'counted' | 'set aside', of = ids) =>
    odalys.call('POST /api/events/:id/tallies/decided', {
      params: { id: event.id },
      body: { ids: of, state, why: 'Seen on the day' },
    });
  expect(await decide('counted')).toEqual({ changed: 2 });
  expect(await decide('counted')).toEqual({ changed: 0 });
  expect((await outcomesOf(event)).measures[1]).toMatchObject({ total: 909, waiting: 0 });
  const large = (await outcomesOf(event)).tallies.find((t) => t.value === 900)!;
  expect(await decide('set aside', [large.id])).toEqual({ changed: 1 });
  expect((await outcomesOf(event)).measures[1]).toMatchObject({ total: 9 });
  await decide('counted', [large.id]);
  const correct = (more: object) =>
    odalys.try('PATCH /api/events/:id/tallies/:tally', {
      params: { id: event.id, tally: large.id },
      body: {
        said: '90',
        thing: '',
        countedLocal: '2026-07-09T08:40',
        place: 'Long reach',
        note: '',
        why: 'A nought too many',
        version: 1,
        ...more,
      },
    });
  expect((await correct({ said: '90 kg' })).problem.fields).toMatchObject([
    { path: 'said', code: 'tally-other-unit' },
  ]);
  expect((await correct({ countedLocal: '2026-07-12T08:40' })).problem.fields).toMatchObject([
    { code: 'tally-ahead' },
  ]);
  expect((await correct({ why: ' ' })).problem.fields).toMatchObject([{ path: 'why', code: 'why-needed' }]);
  expect((await correct({})).status).toBe(200);
  expect((await correct({ said: '91' })).problem.code).toBe('tally-changed');
  const after = await outcomesOf(event);
  expect(after.measures[1]!.total).toBe(99);
  expect(after.tallies.find((t) => t.id === large.id)).toMatchObject({
    value: 90,
    said: '90',
    place: 'Long reach',
    version: 2,
    corrections: [{ said: '900', why: 'A nought too many', actor: 'Odalys Ferrant' }],
  });
  const missing = await odalys.try('POST /api/events/:id/tallies/decided', {
    params: { id: event.id },
    body: { ids: [crypto.randomUUID()], state: 'counted' },
  });
  expect(missing.status).toBe(404);
});

test('a picture that shows it: kept smaller, named once, seen by the team alone, let go when nobody names it', async () => {
  const { event, token } = await counting('With A Picture', ['Birds']);
  const picture = async () =>
    (
      await sharp({ create: { width: 1200, height: 900, channels: 3, background: '#336655' } })
        .jpeg()
        .withExif({ IFD0: { Artist: 'Somebody' } })
        .toBuffer()
    ).toString('base64');
  const keep = async (content: string) =>
    world.anyone.try('POST /api/public/count/:token/pictures', { params: { token }, body: { content } });
  const { id } = (await keep(await picture())).body;
  const { id: loose } = (await keep(await picture())).body;
  expect((await keep(Buffer.from('no picture').toString('base64'))).problem.fields).toMatchObject([
    { path: 'content', code: 'no-picture-kind' },
  ]);
  await count(token, [{ measureId: of('Birds'), said: '3' }], { pictureId: id });
  const again = await count(token, [{ measureId: of('Birds'), said: '4' }], { pictureId: id });
  expect(again.problem.fields).toMatchObject([{ path: 'pictureId', code: 'file-gone' }]);
  const { tallies } = await outcomesOf(event);
  expect(tallies.map((t) => [t.value, t.picture])).toEqual([[3, true]]);
  const reply = await odalys.try('GET /api/events/:id/tallies/:tally/picture', {
    params: { id: event.id, tally: tallies[0]!.id },
  });
  const { width, exif } = await sharp(bytesOf(reply.body)).metadata();
  expect([width, exif]).toEqual([800, undefined]);
  const other = await openEvent(world, { title: 'Another' });
  expect(
    (
      await odalys.try('GET /api/events/:id/tallies/:tally/picture', {
        params: { id: other.id, tally: tallies[0]!.id },
      })
    ).status,
  ).toBe(404);
  await enter(event, [{ measureId: of('Birds'), said: '2' }]);
  const own = await odalys.call('POST /api/events/:id/tallies/pictures', {
    params: { id: event.id },
    body: { content: await picture() },
  });
  await world.moveTo('2026-07-10T13:00:00.000Z');
  const left = await world.app.db.query<{ id: string }>('select id from tally_pictures where event_id = $1', [
    event.id,
  ]);
  expect(left).toEqual([{ id }]);
  expect([loose, own.id]).not.toContain(id);
});

test('a page that was stopped opens nothing; one that is over takes nothing; a shelved event has none', async () => {
  const event = await openEvent(world, {
    title: 'Stopped',
    startsLocal: '2026-07-10T08:00',
    endsLocal: '2026-07-10T20:00',
  });
  await saveIt(odalys, event.id, {
    outcomes: {
      measures: [{ measureId: of('Birds'), planned: null }],
      opensDays: 1,
      closesDays: 0,
      initiativeIds: [],
    },
  });
  const set = (on: boolean) =>
    odalys.call('PUT /api/events/:id/counting', { params: { id: event.id }, body: { on } });
  const token = (page: string | null) => page!.split('/').at(-1)!;
  const first = token((await set(true)).page);
  expect(token((await set(true)).page)).toBe(first);
  expect((await odalys.try('GET /api/events/:id/counting.pdf', { params: { id: event.id } })).status).toBe(
    200,
  );
  const poster = await odalys.try('GET /api/events/:id/counting.pdf', { params: { id: event.id } });
  expect((await wordsOf(bytesOf(poster.body))).join(' ')).toContain(`/count/${first}`);
  expect((await set(false)).page).toBeNull();
  const look = (of: string) => world.anyone.try('GET /api/public/count/:token', { params: { token: of } });
  expect((await look(first)).status).toBe(404);
  expect((await odalys.try('GET /api/events/:id/counting.pdf', { params: { id: event.id } })).status).toBe(
    404,
  );
  const second = token((await set(true)).page);
  expect(second).not.toBe(first);
  expect((await look(first)).status).toBe(404);
  expect((await count(second, [{ measureId: of('Birds'), said: '1' }], { countedLocal: null })).status).toBe(
    201,
  );
  await world.moveTo('2026-07-11T04:00:00.000Z');
  expect((await look(second)).body.counting.state).toBe('over');
  const late = await count(second, [{ measureId: of('Birds'), said: '1' }], {
    countedLocal: '2026-07-10T09:00',
  });
  expect(late.problem.code).toBe('counting-over');
  // The team can still enter what was counted in time.
  expect(
    (await enter(event, [{ measureId: of('Birds'), said: '1' }], { countedLocal: '2026-07-10T19:00' }))
      .status,
  ).toBe(201);
  const { id: draft } = await odalys.call('POST /api/events', { body: { publicTitle: 'Never held' } });
  const { page } = await odalys.call('PUT /api/events/:id/counting', {
    params: { id: draft },
    body: { on: true },
  });
  expect((await look(token(page))).body.counting.state).toBe('undated');
  await odalys.call('POST /api/events/:id/state', {
    params: { id: draft },
    body: { move: 'shelve', words: 'later' },
  });
  expect((await look(token(page))).status).toBe(404);
});

test('what was counted holds a measure in its unit and in its plan; it can be closed', async () => {
  const event = await openEvent(world, {
    title: 'Held Fast',
    startsLocal: '2026-07-11T00:00',
    endsLocal: '2026-07-11T20:00',
  });
  const plan = (ids: readonly string[], more: object = {}) =>
    saveIt(odalys, event.id, {
      outcomes: {
        measures: ids.map((measureId) => ({ measureId, planned: null })),
        opensDays: 1,
        closesDays: 0,
        initiativeIds: [],
        ...more,
      },
    });
  const { id } = await odalys.call('POST /api/measures', { body: { ...litter, name: { en: 'Held' } } });
  const change = (more: Partial<Body>) =>
    odalys.try('PUT /api/measures/:id', {
      params: { id },
      body: { ...litter, name: { en: 'Held' }, ...more },
    });
  expect((await change({ unit: { en: 'm' } })).status).toBe(200);
  expect((await change({})).status).toBe(200);
  await plan([id]);
  expect((await enter(event, [{ measureId: id, said: '2' }], { countedLocal: null })).status).toBe(201);
  expect((await change({ unit: { en: 'm' } })).problem.code).toBe('measure-counted');
  expect((await change({ kind: 'count' })).problem.code).toBe('measure-counted');
  expect((await change({ name: { en: 'Held fast' }, unit: { en: 'KG' }, most: 9 })).status).toBe(200);
  expect((await change({ name: { en: 'birds' } })).problem.fields).toMatchObject([
    { path: 'name.en', code: 'register-exists' },
  ]);
  expect((await plan([])).problem.fields).toMatchObject([
    { path: 'outcomes.measures', code: 'measure-tallied' },
  ]);
  expect((await plan([id, of('Birds'), of('Birds')])).problem.fields).toMatchObject([
    { code: 'measure-twice' },
  ]);
  expect((await plan([id, crypto.randomUUID()])).problem.fields).toMatchObject([{ code: 'thing-gone' }]);
  expect((await plan([id], { initiativeIds: [crypto.randomUUID()] })).problem.fields).toMatchObject([
    { code: 'thing-gone' },
  ]);
  await odalys.call('PUT /api/measures/:id/closed', { params: { id }, body: { closed: true } });
  await odalys.call('PUT /api/measures/:id/closed', { params: { id }, body: { closed: true } });
  // Who counts it already goes on; nobody begins.
  expect((await plan([id, of('Birds')])).status).toBe(200);
  expect(
    (
      await saveIt(odalys, (await openEvent(world, { title: 'Too late' })).id, {
        outcomes: {
          measures: [{ measureId: id, planned: null }],
          opensDays: 0,
          closesDays: 0,
          initiativeIds: [],
        },
      })
    ).problem.fields,
  ).toMatchObject([{ code: 'measure-is-closed' }]);
  const all = await odalys.call('GET /api/measures');
  expect(all.at(-1)).toMatchObject({ name: { en: 'Held fast' }, closed: true, tallies: 1, events: 1 });
  const unknown = await odalys.try('PUT /api/measures/:id', {
    params: { id: crypto.randomUUID() },
    body: litter,
  });
  expect(unknown.status).toBe(404);
});

test('whoever is erased is gone from what they counted, and the count stays', async () => {
  await world.app.db.query("delete from tallies where by_name = 'Fenna Sedge'");
  const event = await openEvent(world, {
    title: 'Erased',
    startsLocal: '2026-07-11T00:00',
    endsLocal: '2026-07-11T20:00',
  });
  await saveIt(odalys, event.id, {
    outcomes: {
      measures: [{ measureId: of('Birds'), planned: null }],
      opensDays: 1,
      closesDays: 1,
      initiativeIds: [],
    },
  });
  const { page } = await odalys.call('PUT /api/events/:id/counting', {
    params: { id: event.id },
    body: { on: true },
  });
  await there(event, ['Fenna']);
  await count(page!.split('/').at(-1)!, [{ measureId: of('Birds'), said: '8' }], {
    ...sedge('Fenna'),
    countedLocal: null,
    note: 'By my house',
    place: 'Mill Lane 4',
  });
  const [tally] = (await outcomesOf(event)).tallies;
  await odalys.call('POST /api/contacts/:id/erase', {
    params: { id: tally!.contactId! },
    body: { name: 'Fenna Sedge' } as never,
  });
  const after = await outcomesOf(event);
  expect(after.tallies[0]).toMatchObject({ by: 'Erased', contactId: null, note: '', place: '', value: 8 });
  expect(after.measures[0]!.total).toBe(8);
});

test('the page to count on stands in a mail and on one’s own page, as long as there is one and it is open', async () => {
  const event = await openEvent(world, {
    title: 'Told By Mail',
    startsLocal: '2026-07-12T09:00',
    endsLocal: '2026-07-12T12:00',
  });
  const said = (name: string, body: string) =>
    lineOn('start', { name, subject: { en: name }, body: { en: body }, offsetMinutes: -30 });
  await saveIt(odalys, event.id, {
    outcomes: {
      measures: [{ measureId: of('Birds'), planned: null }],
      opensDays: 0,
      closesDays: 1,
      initiativeIds: [],
    },
    messages: [said('Count with us', 'Count here: {{count_link}}')],
  });
  await bookFor(world, event, ['Gry'], { email: 'gry@sedge.example' });
  const set = (on: boolean) =>
    odalys.call('PUT /api/events/:id/counting', { params: { id: event.id }, body: { on } });
  const { page } = await set(true);
  await world.moveTo('2026-07-12T12:30:00.000Z');
  const mails = await world.app.db.query<{ body: string }>(
    "select body from messages where event_id = $1 and subject = 'Count with us' and state = 'sent'",
    [event.id],
  );
  expect(mails.map((m) => m.body)).toEqual([expect.stringContaining(`Count here: ${page}`)]);
  const gry = await signedInAs(world.origin, 'gry@sedge.example');
  const mine = async () => (await gry.call('GET /api/public/mine'))!.counts;
  expect(await mine()).toEqual([{ title: 'Told By Mail', token: page!.split('/').at(-1) }]);
  await set(false);
  expect(await mine()).toEqual([]);
  await set(true);
  await world.moveTo('2026-07-14T12:30:00.000Z');
  expect(await mine()).toEqual([]);
});
