import { beforeEach, describe, expect, test } from 'vitest';
import type { Caller, World } from './harness.ts';
import { Scene } from './messageLines.ts';
import { type OpenEvent, openEvent } from './scenes.ts';

const scene = new Scene();
let world: World;
let odalys: Caller;
let event: OpenEvent;
beforeEach(() => {
  ({ world, odalys, event } = scene);
});

const set = (shown: 'at once' | 'once looked at', more: object = {}) =>
  odalys.try('PUT /api/events/:id/board', { params: { id: event.id }, body: { on: true, shown, ...more } });
const ask = (name: string, words: string, more: object = {}) =>
  world.anyone.try('POST /api/public/events/:slug/board', {
    params: { slug: event.slug },
    body: { name, email: `${name.split(' ')[0]!.toLowerCase()}.asks@fenmail.example`, words, ...more },
  });
const seen = async () =>
  (await world.anyone.call('GET /api/public/events/:slug/board', { params: { slug: event.slug } })).questions;
const all = async () =>
  (await odalys.call('GET /api/events/:id/board', { params: { id: event.id } })).questions;
const act = (question: string, body: { answer?: string; state?: 'shown' | 'hidden' }) =>
  odalys.try('POST /api/events/:id/board/:question', { params: { id: event.id, question }, body });
const mails = async (name: string) => {
  await world.runner.run();
  return world.app.db.query<{ subject: string; body: string }>(
    'select subject, body from standin_mail where address = $1 order by accepted_at, key',
    [`${name.toLowerCase()}.asks@fenmail.example`],
  );
};

describe('a board of questions', () => {
  test('is there where somebody put it, and nowhere else', async () => {
    expect((await ask('Nils Sedge', 'Anybody there?')).status).toBe(404);
    expect(
      await world.anyone.call('GET /api/public/events/:slug/board', { params: { slug: event.slug } }),
    ).toMatchObject({ on: false, questions: [] });
    const page = async () =>
      (await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } })).board;
    expect(await page()).toBe(false);
    await set('at once');
    expect(await page()).toBe(true);
    expect((await ask('Nils Sedge', 'Anybody there?')).status).toBe(201);
    await odalys.call('PUT /api/events/:id/board', {
      params: { id: event.id },
      body: { on: false, shown: 'at once' },
    });
    expect((await ask('Nils Sedge', 'Still?')).status).toBe(404);
    // What was asked stays with the team.
    expect((await all()).map((q) => q.words)).toEqual(['Anybody there?']);
  });

  test('shows at once, or once somebody has looked; never a whole name or an address', async () => {
    await set('once looked at');
    await ask('Oda Sedge', 'Is there parking?');
    expect(await seen()).toEqual([]);
    const [question] = await all();
    expect(question).toMatchObject({ name: 'Oda Sedge', email: 'oda.asks@fenmail.example', state: 'waits' });
    await act(question!.id, { state: 'shown' });
    expect(await seen()).toEqual([
      {
        id: question!.id,
        name: 'Oda S.',
        words: 'Is there parking?',
        askedAt: question!.askedAt,
        answer: '',
        answeredAt: null,
      },
    ]);
    expect(JSON.stringify(await seen())).not.toMatch(/Sedge|fenmail/u);
    await act(question!.id, { state: 'hidden' });
    expect(await seen()).toEqual([]);
    await set('at once');
    await ask('Per Sedge', 'And boots?');
    expect((await seen()).map((q) => q.words)).toEqual(['And boots?']);
  });

  test('mails an answer to whoever asked, and to those who follow the event, once; put right, it is mailed again', async () => {
    await set('at once');
    await ask('Quin Sedge', 'First?', { follows: true });
    await ask('Rut Sedge', 'Second?', { language: 'fr' });
    await ask('Siv Sedge', 'Third?');
    // Nobody is mailed the answers of others because somebody typed their address: they say so themselves.
    const [confirm] = await mails('Quin');
    const token = /\/follow\/([\w-]+)/u.exec(confirm!.body)![1]!;
    await world.anyone.call('POST /api/public/follow/:token', { params: { token }, body: { follows: true } });
    const second = (await all()).find((q) => q.words === 'Second?')!;
    await act(second.id, { answer: 'Yes, at nine.' });
    await act(second.id, { answer: 'Yes, at nine.' });
    const heard = await mails('Quin');
    expect(heard.map((m) => m.subject)).toEqual([
      `Shall we tell you about Lines ${scene.n}?`,
      `Answered: Lines ${scene.n}`,
    ]);
    expect(heard[1]!.body).toMatch(
      /because you asked to hear of Lines \d+\.[\s\S]*No more of these: \S+\/out\//u,
    );
    const [own] = await mails('Rut');
    expect(own!.subject).toBe(`Une réponse\u00A0: Lines ${scene.n}`);
    expect(own!.body).toMatch(/Second\?[\s\S]*Yes, at nine\./u);
    expect(await mails('Siv')).toEqual([]);
    expect((await seen()).find((q) => q.id === second.id)).toMatchObject({ answer: 'Yes, at nine.' });
    await world.moveTo(scene.later(5));
    await act(second.id, { answer: 'Yes, at ten.' });
    expect(await mails('Rut')).toHaveLength(2);
    // Of one that was put away nobody else hears.
    const third = (await all()).find((q) => q.words === 'Third?')!;
    await act(third.id, { state: 'hidden' });
    await act(third.id, { answer: 'Between us.' });
    expect(await mails('Siv')).toHaveLength(1);
    expect(await mails('Quin')).toHaveLength(3);
  });

  test('stands on the Desk until it is answered or put away, with who answers', async () => {
    const desk = async () =>
      (await odalys.call('GET /api/desk')).entries.filter(
        (e) => e.subject === `Lines ${scene.n}` && e.action.href.endsWith('show=questions'),
      );
    const { team } = await odalys.call('GET /api/events/:id/board', { params: { id: event.id } });
    const marit = team.find((s) => s.name === 'Odalys Ferrant')!;
    await set('at once', { answersBy: marit.id });
    await ask('Tor Sedge', 'One?');
    await ask('Ulf Sedge', 'Two?');
    expect(await desk()).toMatchObject([
      {
        text: '2 questions wait for an answer. Odalys Ferrant answers.',
        tone: 'need',
        action: { label: 'Answer' },
      },
    ]);
    await world.moveTo(scene.later(4 * 24 * 60));
    expect((await desk())[0]!.tone).toBe('stop');
    const [one, two] = await all();
    await act(one!.id, { answer: 'Yes.' });
    await act(two!.id, { state: 'hidden' });
    expect(await desk()).toEqual([]);
    expect((await set('at once', { answersBy: crypto.randomUUID() })).problem.fields?.[0]).toMatchObject({
      path: 'answersBy',
    });
  });

  test.each([
    [{ words: ' ' }, 'words'],
    [{ email: 'nowhere' }, 'email'],
    [{ name: '' }, 'name'],
    [{ words: 'x'.repeat(2001) }, 'words'],
  ])('%j is refused beside its field', async (wrong, path) => {
    await set('at once');
    const { status, problem } = await ask('Vig Sedge', 'Well?', wrong);
    expect(status).toBe(422);
    expect(problem.fields?.[0]?.path).toBe(path);
  });

  test('one of another event is not found', async () => {
    await set('at once');
    await ask('Wim Sedge', 'Mine?');
    const [question] = await all();
    const other = await openEvent(world, { title: 'Elsewhere' });
    const body = { answer: 'Yes' };
    expect(
      (
        await odalys.try('POST /api/events/:id/board/:question', {
          params: { id: other.id, question: question!.id },
          body,
        })
      ).status,
    ).toBe(404);
  });
});
