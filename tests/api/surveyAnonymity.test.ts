import { describe, expect, test } from 'vitest';
import { fewest } from '#core/surveys/anonymous.ts';
import { makeWorld } from './harness.ts';
import { type SurveyScene, surveyOf } from './scenes.ts';
import { Surveying } from './surveying.ts';

const names = 'Asa Bo Cai Dov Eli Fin Gus Hal Ira Jun Kit Lou Mav Nia'.split(' ');

/** What each of them says: the one who is looked for, Gus, alone says the worst. */
const saysOf = (at: number) => ({
  liked: names[at] === 'Gus' ? 1 : 3 + (at % 3),
  side: at < 5 ? 'fen' : at === 5 ? 'sea' : 'hill',
  ...(names[at] === 'Gus' ? { why: 'Gus was here and cold' } : {}),
  words: `word${at}`,
});

const questions: SurveyScene[] = [
  { id: 'liked', kind: 'scale' },
  { id: 'why', kind: 'text', shownIf: { questionId: 'liked', is: [], least: null, most: 2 } },
  { id: 'side', kind: 'one of', choices: ['fen', 'sea', 'hill'] },
  { id: 'words', kind: 'text' },
];

describe('somebody who answered without their name is looked for', () => {
  test('by looking after every single answer: nothing that is shown changes by fewer than five', async () => {
    const world = await makeWorld();
    const asking = new Surveying(world);
    const { tokens, ...of } = await asking.held(
      [surveyOf(questions, { anonymous: true, groupBy: 'side', closesDays: 4 })],
      {
        came: names,
      },
    );
    const odalys = await world.as('odalys');
    const params = { id: of.event.id, survey: of.surveys[0]!.id };
    const csv = async () =>
      String(await odalys.call('GET /api/events/:id/surveys/:survey/answers.csv', { params })).split('\n')
        .length;
    let before = await asking.results(of, { by: 'question' });
    let rows = await csv();
    for (const [at, name] of names.entries()) {
      expect((await asking.answer(tokens.get(name)!, saysOf(at))).status).toBe(200);
      const after = await asking.results(of, { by: 'question' });
      const now = await csv();
      // Which questions there is anything of to be seen is the same before and after, but where five or more came.
      for (const [n, r] of after.results.entries()) {
        const was = before.results[n]!;
        const more = r.answered - was.answered;
        expect([r.key, more === 0 || more >= fewest]).toEqual([r.key, true]);
        if (more === 0) expect(r).toEqual(was);
        expect(r.groups).toEqual([]);
      }
      expect(now - rows === 0 || now - rows >= fewest).toBe(true);
      [before, rows] = [after, now];
    }
    // Fourteen answered; ten are shown, four wait. Of the one who was asked why, nothing is ever shown.
    expect(before.results.map((r) => [r.key, r.answered])).toEqual([
      ['liked', 10],
      ['why', 0],
      ['side', 10],
      ['words', 10],
    ]);
    expect(before.results[1]!.sentence).toBe('Shown once five have answered.');
    expect(JSON.stringify(before)).not.toContain('cold');
    expect(before.answered).toBe(14);
    // Once it is over groups are told apart, none smaller than five, and what is left neither.
    const { endsAt } = (
      await world.app.db.query<{ endsAt: string }>('select ends_at from events where id = $1', [of.event.id])
    )[0]!;
    await world.moveTo(new Date(Date.parse(endsAt) + 4 * 86_400_000 + 60_000).toISOString());
    const over = await asking.results(of, { by: 'question' });
    for (const r of over.results) {
      const sizes = r.groups.map((g) => g.n);
      expect(sizes.every((n) => n >= fewest)).toBe(true);
      if (sizes.length) expect(sizes.reduce((a, b) => a + b, 0)).toBe(r.answered);
    }
    expect(over.results[0]!.groups.length).toBeGreaterThan(1);
    expect((await asking.answer(tokens.get('Asa')!, {})).problem.code).toBe('survey-closed');
  });

  test('in the database: no row has a person, a time, or anything that joins two answers of one person', async () => {
    const world = await makeWorld();
    const asking = new Surveying(world);
    const { tokens, contacts } = await asking.held([surveyOf(questions, { anonymous: true })], {
      came: names,
    });
    const dump = async () =>
      world.app.db.query<{ row: string; xmin: string }>(
        'select s::text as row, s.xmin::text as xmin from survey_slips s order by ctid',
      );
    const marks = () =>
      world.app.db.query<{ answered: boolean; xmin: string }>(
        'select answered, xmin::text as xmin from survey_asks',
      );
    for (const [at, name] of names.entries()) {
      await asking.answer(tokens.get(name)!, saysOf(at));
      const [slips, asks] = [await dump(), await marks()];
      // Everything was written anew with this answer: the transaction it was written in points at nobody.
      expect(new Set(slips.map((s) => s.xmin)).size).toBe(1);
      expect(new Set(asks.filter((a) => a.answered).map((a) => a.xmin)).size).toBe(1);
    }
    const slips = await dump();
    const all = slips.map((s) => s.row).join('\n');
    for (const [name, contactId] of contacts) {
      expect(all).not.toContain(contactId);
      expect(all).not.toContain(tokens.get(name)!);
    }
    // Their order is not that in which they came.
    const words = slips.flatMap((s) => /word(\d+)/u.exec(s.row)?.[1] ?? []).map(Number);
    expect(words).toHaveLength(names.length);
    expect(words).not.toEqual(words.toSorted((a, b) => a - b));
    // Neither what is kept of what happened, nor what answers a repeated request, says more than that somebody answered.
    const trail = await world.app.db.query<{ row: string }>(
      "select a::text as row from audit a where a.action ilike '%survey%' or a::text ilike '%word1%'",
    );
    expect(trail.map((t) => t.row).join()).not.toMatch(/word1/u);
    expect(await world.app.db.query("select 1 from idempotency where scope like '%surveys%'")).toEqual([]);
  });

  test('who agrees to be written to gives their name, and nothing of what they said', async () => {
    const world = await makeWorld();
    const asking = new Surveying(world);
    const { tokens, contacts } = await asking.held([surveyOf(questions, { anonymous: true })], {
      came: names,
    });
    await asking.answer(tokens.get('Gus')!, saysOf(6), true);
    const notes = await world.app.db.query<{ text: string; contactId: string }>(
      'select text, contact_id from contact_notes',
    );
    expect(notes).toMatchObject([{ contactId: contacts.get('Gus') }]);
    expect(notes[0]!.text).not.toMatch(/cold|hill|fen|liked|“1”/u);
    // Tapped in the mail, nothing is kept before it is sent.
    expect(
      (
        await world.anyone.try('POST /api/public/surveys/:token/first', {
          params: { token: tokens.get('Asa')! },
          body: { answer: '4' },
        })
      ).problem.fields,
    ).toMatchObject([{ code: 'answer-one' }]);
  });

  test('by changing the plan: what of it was answered is not told', async () => {
    const world = await makeWorld();
    const asking = new Surveying(world);
    const { tokens, event } = await asking.held([surveyOf(questions, { anonymous: true })], { came: names });
    await asking.answer(tokens.get('Asa')!, saysOf(0));
    const odalys = await world.as('odalys');
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const [survey] = page.plan.surveys;
    const without = survey!.pages[0]!.questions.map((q) =>
      q.id === 'side'
        ? { ...q, choices: [...q.choices.slice(0, 1), { id: 'moon', text: { en: 'moon' } }] }
        : q,
    );
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: {
        version: page.version,
        change: { surveys: [{ ...survey!, pages: [{ ...survey!.pages[0]!, questions: without }] }] },
      },
    });
    // Every choice there was stays, given or not: which one comes back would tell what somebody said.
    const after = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    expect(
      after.plan.surveys[0]!.pages[0]!.questions.find((q) => q.id === 'side')!.choices.map((c) => c.id),
    ).toEqual(['fen', 'moon', 'sea', 'hill']);
  });

  test('ten thousand answers: each is written with a bounded number of others', async () => {
    const world = await makeWorld();
    const asking = new Surveying(world);
    const { tokens, surveys } = await asking.held([surveyOf(questions, { anonymous: true })], {
      came: names.slice(0, 2),
    });
    const { app } = world;
    await app.db.query(
      `insert into survey_slips (survey_id, question, value, shown) select $1, 'words', to_jsonb('said ' || n), true from generate_series(1, 30000) n`,
      [surveys[0]!.id],
    );
    const oldest = (
      await app.db.query<{ x: string }>('select max(xmin::text::bigint)::text as x from survey_slips')
    )[0]!.x;
    expect((await asking.answer(tokens.get('Asa')!, saysOf(0))).status).toBe(200);
    const [{ rewritten }] = (await app.db.query<{ rewritten: number }>(
      'select count(*)::int as rewritten from survey_slips where xmin::text::bigint > $1::bigint',
      [oldest],
    )) as [{ rewritten: number }];
    expect(rewritten).toBeGreaterThan(100);
    expect(rewritten).toBeLessThan(260);
  });
});
