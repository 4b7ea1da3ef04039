import { beforeAll, expect, test } from 'vitest';
import type { Caller } from './harness.ts';
import { Scene } from './messageLines.ts';

const scene = new Scene();
let imani: Caller;
beforeAll(async () => {
  imani = await scene.world.as('imani');
  for (const name of ['Ferry', 'Stove'])
    await imani.call('POST /api/roles', { body: { name, needs: [], anybody: true } });
});
const day = () => scene.begins.slice(0, 10);
const params = () => ({ id: scene.event.id });
const shift = async (role: string, from: string, to: string, more: object = {}) =>
  (
    await imani.call('POST /api/events/:id/shifts', {
      params: params(),
      body: { role, startsLocal: `${day()}T${from}`, endsLocal: `${day()}T${to}`, wished: 1, ...more },
    })
  ).id;
const mailOf = (given: string) => `${given.toLowerCase()}${scene.n}@step.example`;
const signUp = (id: string, given: string, how: 'sign-up' | 'wait' = 'sign-up') =>
  scene.world.anyone.try(`POST /api/public/shifts/:id/${how}`, {
    params: { id },
    body: { given, family: 'Stepper', email: mailOf(given) },
  });
const mailTo = async (given: string) => {
  await scene.world.runner.run();
  return scene.world.app.db.query<{ subject: string; body: string }>(
    'select subject, body from standin_mail where address = $1 order by accepted_at, key',
    [mailOf(given)],
  );
};
const last = async (given: string) => (await mailTo(given)).at(-1)!;
const page = async (given: string) => {
  const token = /\/crew\/([\w-]+)/u.exec((await last(given)).body)![1]!;
  return {
    token,
    ...(await scene.world.anyone.call('GET /api/public/crew/:token', { params: { token } })),
  };
};
const own = (given: string, what: string, body: object) =>
  page(given).then(({ token }) =>
    scene.world.anyone.try(
      `POST /api/public/crew/:token/${what}` as never,
      { params: { token }, body } as never,
    ),
  ) as Promise<{ status: number; problem: { code: string; title: string } }>;
const giveBack = async (given: string, words = '') =>
  own(given, 'drop', {
    assignmentId: (await page(given)).shifts.find((s) => s.state === 'agreed')!.assignmentId,
    words,
  });
const search = (id: string) => imani.call('GET /api/shifts/:id/step-in', { params: { id } });
const crew = () => imani.call('GET /api/events/:id/crew', { params: params() });
const on = async (id: string) =>
  (await crew()).shifts.find((s) => s.id === id)!.assignments.map((a) => a.name.split(' ')[0]);
const remarks = async () =>
  (await imani.call('GET /api/events/:id', { params: params() })).margin.map((n) => n.headline);

test('whoever waits is asked as soon as a place comes free, with a time to answer; then others who help here', async () => {
  const id = await shift('Ferry', '10:00', '12:00');
  await signUp(await shift('Stove', '13:00', '15:00'), 'Cleo');
  expect((await signUp(id, 'Wim', 'wait')).problem.code).toBe('shift-has-room');
  await signUp(id, 'Ada');
  expect((await signUp(id, 'Ada', 'wait')).status).toBe(201);
  expect(await mailTo('Ada')).toHaveLength(2);
  for (const given of ['Wim', 'Xena', 'Wim']) expect((await signUp(id, given, 'wait')).status).toBe(201);
  expect((await last('Wim')).subject).toBe(`You wait for a shift: Lines ${scene.n}`);
  expect(await mailTo('Wim')).toHaveLength(1);
  expect((await page('Xena')).waits).toMatchObject([{ shiftId: id, before: 1 }]);
  expect((await search(id)).waiting.map((w) => w.name)).toEqual(['Wim Stepper', 'Xena Stepper']);
  // She gives it back: the first in line is asked, and the place is kept for him.
  expect((await giveBack('Ada', 'My bike broke')).status).toBe(201);
  expect((await last('Wim')).subject).toMatch(/^Can you step in\? Ferry/u);
  expect((await last('Wim')).body).toMatch(/kept for you until .+; then somebody else is asked/u);
  expect(await search(id)).toMatchObject({
    search: { wide: true, endedAt: null },
    dropped: [{ name: 'Ada Stepper', words: 'My bike broke' }],
    next: [{ name: 'Xena Stepper' }, { name: 'Cleo Stepper' }],
  });
  expect(await remarks()).toContain('1 person is asked to step in.');
  expect((await signUp(id, 'Zed')).problem.code).toBe('shift-full');
  expect(
    (
      await scene.world.anyone.call('GET /api/public/events/:slug/shifts', {
        params: { slug: scene.event.slug },
      })
    ).shifts[0],
  ).toMatchObject({ role: 'Ferry', filled: 1, wished: 1 });
  // He does not answer in time, she says no, and Cleo, who helps here in the afternoon, takes it.
  const [ask] = (await page('Wim')).asks;
  await scene.world.moveTo(new Date(Date.parse(ask!.until) + 60_000).toISOString());
  expect((await own('Wim', 'step-in', { askId: ask!.askId, take: true })).problem.code).toBe('step-in-gone');
  expect((await page('Wim')).asks).toEqual([]);
  const [second] = (await page('Xena')).asks;
  expect((await own('Cleo', 'step-in', { askId: second!.askId, take: true })).status).toBe(404);
  expect((await own('Xena', 'step-in', { askId: second!.askId, take: false })).status).toBe(201);
  expect((await page('Xena')).waits).toEqual([]);
  const [third] = (await page('Cleo')).asks;
  expect((await own('Cleo', 'step-in', { askId: third!.askId, take: true })).status).toBe(201);
  expect(await on(id)).toEqual(['Cleo']);
  expect(await search(id)).toMatchObject({
    search: { endedHow: 'filled' },
    asks: [
      { name: 'Wim Stepper', waited: true, state: 'lapsed' },
      { name: 'Xena Stepper', waited: true, state: 'said no' },
      { name: 'Cleo Stepper', waited: false, state: 'took it' },
    ],
    next: [{ name: 'Wim Stepper' }],
  });
  // He still waits, and can wait no more.
  expect((await own('Wim', 'wait-no-more', { shiftId: id })).status).toBe(201);
  expect((await own('Wim', 'wait-no-more', { shiftId: id })).status).toBe(404);
});

test('whom something speaks against is passed over; when nobody is left the crew lead hears of it', async () => {
  const id = await shift('Ferry', '10:00', '12:00');
  await signUp(id, 'Ada');
  await signUp(await shift('Stove', '11:00', '15:00'), 'Busy');
  await signUp(id, 'Busy', 'wait');
  expect((await search(id)).waiting).toMatchObject([
    { name: 'Busy Stepper', against: [{ kind: 'overlap' }] },
  ]);
  await giveBack('Ada');
  expect(await search(id)).toMatchObject({ search: { endedHow: 'nobody left' }, asks: [], next: [] });
  expect(await remarks()).toContain('Nobody steps in on 1 shift.');
  // Nobody who gave it back is asked for it again.
  expect((await imani.try('POST /api/shifts/:id/step-in', { params: { id } })).status).toBe(201);
  expect((await search(id)).asks).toEqual([]);
});

test('whoever has taken something else meanwhile cannot say yes, and is told why; their question stays until they say no', async () => {
  const id = await shift('Ferry', '10:00', '12:00');
  await signUp(id, 'Ada');
  await signUp(id, 'Wim', 'wait');
  await giveBack('Ada');
  const [ask] = (await page('Wim')).asks;
  await signUp(await shift('Stove', '11:00', '15:00'), 'Wim');
  const yes = await own('Wim', 'step-in', { askId: ask!.askId, take: true });
  expect(yes.problem.code).toBe('step-in-clash');
  expect(yes.problem.title).toContain('Stove');
  expect(await on(id)).toEqual([]);
  expect((await page('Wim')).asks).toMatchObject([{ askId: ask!.askId }]);
  expect((await own('Wim', 'step-in', { askId: ask!.askId, take: false })).status).toBe(201);
  expect((await own('Wim', 'step-in', { askId: ask!.askId, take: true })).problem.code).toBe('step-in-gone');
});

test('what nobody is needed for any more is said to whoever was asked: filled by hand, stopped, or called off', async () => {
  const id = await shift('Ferry', '10:00', '12:00', { wished: 2 });
  const other = await shift('Stove', '14:00', '15:00', { wished: 9 });
  for (const given of ['Ann', 'Ben', 'Cy']) await signUp(other, given);
  expect((await imani.try('POST /api/shifts/:id/step-in', { params: { id } })).status).toBe(201);
  // Twice at once begins it once: as many are asked as places are free.
  await imani.try('POST /api/shifts/:id/step-in', { params: { id } });
  const asked = async () => (await search(id)).asks.filter((a) => a.state === 'asked').map((a) => a.name);
  expect(await asked()).toHaveLength(2);
  expect((await imani.try('DELETE /api/shifts/:id', { params: { id } })).problem.code).toBe(
    'shift-asked-for',
  );
  const [first, second] = (await search(id)).asks;
  const dee = (
    await imani.call('POST /api/contacts', {
      body: { given: 'Dee', family: 'Stepper', email: mailOf('Dee') },
    })
  ).id;
  await imani.call('POST /api/shifts/:id/assignments', { params: { id }, body: { contactId: dee } });
  // The last who was asked is the first who is not needed.
  expect(await asked()).toEqual([first!.name]);
  expect((await last(second!.name.split(' ')[0]!)).subject).toMatch(/^No longer needed/u);
  await imani.call('DELETE /api/shifts/:id/step-in', { params: { id } });
  expect(await search(id)).toMatchObject({ search: { endedHow: 'stopped' } });
  expect((await last(first!.name.split(' ')[0]!)).subject).toMatch(/^No longer needed/u);
  expect((await page(first!.name.split(' ')[0]!)).asks).toEqual([]);
  // Begun anew, whoever was told is asked again; when the event is called off, it ends.
  await imani.call('POST /api/shifts/:id/step-in', { params: { id } });
  expect(await asked()).toHaveLength(1);
  await scene.odalys.call('POST /api/events/:id/state', {
    params: params(),
    body: { move: 'call off', words: 'Storm' },
  });
  expect(await search(id)).toMatchObject({ search: { endedHow: 'too late' } });
});

test('whoever was erased is asked no more, and the next is; who keeps the automatic asking off begins it by hand', async () => {
  const id = await shift('Ferry', '10:00', '12:00');
  await signUp(id, 'Ada');
  for (const given of ['Wim', 'Xena']) await signUp(id, given, 'wait');
  const rules = (await imani.call('GET /api/roles')).rules;
  await scene.odalys.call('PUT /api/crew-rules', { body: { ...rules, asksToStepIn: false } });
  await giveBack('Ada');
  expect(await search(id)).toMatchObject({ search: { wide: false }, asks: [{ name: 'Wim Stepper' }] });
  const { asks } = await search(id);
  await scene.odalys.call('POST /api/contacts/:id/erase', {
    params: { id: asks[0]!.contactId },
    body: { name: asks[0]!.name },
  });
  expect((await search(id)).asks).toMatchObject([{ name: 'Xena Stepper', state: 'asked' }]);
  // By hand others than those who wait are asked as well; who was asked already stays so.
  await imani.call('POST /api/shifts/:id/step-in', { params: { id } });
  expect(await search(id)).toMatchObject({
    search: { wide: true, begunBy: 'Imani Okarro', endedAt: null },
    asks: [{ name: 'Xena Stepper', state: 'asked' }],
  });
  await scene.odalys.call('PUT /api/crew-rules', { body: { ...rules, asksToStepIn: true } });
});

test('people change places once the crew lead says so: two, three in a ring, or one to where there is room', async () => {
  const ids = {
    early: await shift('Ferry', '08:00', '10:00'),
    noon: await shift('Stove', '12:00', '13:00'),
    late: await shift('Ferry', '15:00', '17:00'),
    free: await shift('Stove', '18:00', '19:00', { wished: 1 }),
  };
  await signUp(ids.early, 'Ann');
  await signUp(ids.noon, 'Ben');
  await signUp(ids.late, 'Cy');
  const wish = async (given: string, wants: string[]) =>
    own(given, 'swap', { assignmentId: (await page(given)).shifts[0]!.assignmentId, wants });
  const swaps = () => imani.call('GET /api/events/:id/swaps', { params: params() });
  const let_ = async (n = 0, more: object = {}) => {
    const { moves } = (await swaps()).swaps[n]!;
    return imani.try('POST /api/events/:id/swaps', {
      params: params(),
      body: { moves: moves.map(({ assignmentId, to }) => ({ assignmentId, to })), ...more },
    });
  };
  expect((await wish('Ann', [ids.noon])).status).toBe(201);
  expect((await wish('Ann', ['00000000-0000-4000-8000-000000000000'])).problem.code).toBe('swap-other');
  // Ben is told without a name, once.
  const letter = await last('Ben');
  expect(letter.subject).toBe(`Would you swap a shift? Lines ${scene.n}`);
  expect(letter.body).not.toContain('Ann');
  await wish('Ann', []);
  await wish('Ann', [ids.noon]);
  expect((await mailTo('Ben')).filter((m) => m.subject.startsWith('Would you swap'))).toHaveLength(1);
  expect((await page('Ben')).wished).toMatchObject([{ shiftId: ids.early, role: 'Ferry' }]);
  expect(await swaps()).toMatchObject({ swaps: [], wishes: [{ name: 'Ann Stepper' }] });
  // Ben would rather have the late one, and Cy the early one: round they go.
  await wish('Ben', [ids.late]);
  await wish('Cy', [ids.early]);
  expect((await crew()).swaps).toBe(3);
  expect(await remarks()).toContain('3 people wish for another shift.');
  const stale = (await swaps()).swaps[0]!.moves.map(({ assignmentId, to }) => ({ assignmentId, to }));
  expect((await let_()).status).toBe(201);
  expect([await on(ids.early), await on(ids.noon), await on(ids.late)]).toEqual([['Cy'], ['Ann'], ['Ben']]);
  expect((await last('Cy')).subject).toBe(`Your shift has changed: Lines ${scene.n}`);
  expect(
    (await imani.try('POST /api/events/:id/swaps', { params: params(), body: { moves: stale } })).problem
      .code,
  ).toBe('changed-by-somebody');
  // One goes where there is room; what speaks against it needs a reason, and what they leave is said.
  const dee = await shift('Ferry', '19:30', '20:30');
  await signUp(dee, 'Dee');
  await wish('Dee', [ids.free]);
  expect((await swaps()).swaps).toMatchObject([{ moves: [{ to: ids.free, against: [] }] }]);
  expect((await swaps()).swaps[0]!.leaves).toMatch(/^Ferry/u);
  expect((await let_()).status).toBe(201);
  expect(await on(ids.free)).toEqual(['Dee']);
  expect(await on(dee)).toEqual([]);
  // Declined, it is gone and they are told why.
  await wish('Dee', [ids.noon]);
  const { wishes } = await swaps();
  await imani.call('POST /api/events/:id/swaps/decline', {
    params: params(),
    body: { assignmentIds: wishes.map((w) => w.assignmentId), words: 'We need you in the evening.' },
  });
  expect(await swaps()).toEqual({ swaps: [], wishes: [] });
  expect((await last('Dee')).body).toContain('We need you in the evening.');
});

test('a swap that brings two shifts together needs a reason, and goes through whole or not at all', async () => {
  const gate = await shift('Ferry', '08:00', '10:00');
  const boat = await shift('Stove', '12:00', '14:00');
  const near = await shift('Ferry', '13:00', '15:00');
  await signUp(gate, 'Ann');
  await signUp(near, 'Ann');
  await signUp(boat, 'Ben');
  const at = async (given: string, id: string) =>
    (await page(given)).shifts.find((s) => s.id === id)!.assignmentId;
  await own('Ann', 'swap', { assignmentId: await at('Ann', gate), wants: [boat] });
  await own('Ben', 'swap', { assignmentId: await at('Ben', boat), wants: [gate] });
  const { swaps } = await imani.call('GET /api/events/:id/swaps', { params: params() });
  expect(swaps[0]!.moves.flatMap((m) => m.against.map((x) => x.kind))).toEqual(['overlap']);
  const moves = swaps[0]!.moves.map(({ assignmentId, to }) => ({ assignmentId, to }));
  const send = (overrideReason?: string) =>
    imani.try('POST /api/events/:id/swaps', {
      params: params(),
      body: { moves, ...(overrideReason && { overrideReason }) },
    });
  expect((await send()).problem.code).toBe('swap-refused');
  expect([await on(gate), await on(boat)]).toEqual([['Ann'], ['Ben']]);
  expect((await send('Ann hurries over')).status).toBe(201);
  expect([await on(gate), await on(boat)]).toEqual([['Ben'], ['Ann']]);
});
