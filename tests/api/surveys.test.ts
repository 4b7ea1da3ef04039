import { beforeEach, describe, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { lineOn } from './messageLines.ts';
import { saveIt } from './plans.ts';
import { openEvent, orderFor, type SurveyScene, sessionOf, surveyOf } from './scenes.ts';
import { Surveying } from './surveying.ts';

let world: World;
let asking: Surveying;
beforeEach(async () => {
  world = await makeWorld();
  asking = new Surveying(world);
});

const liked: SurveyScene = {
  id: 'liked',
  kind: 'scale',
  required: true,
  follows: { is: [], least: null, most: 2 },
};
const why: SurveyScene = {
  id: 'why',
  kind: 'text',
  shownIf: { questionId: 'liked', is: [], least: null, most: 2 },
};
const best: SurveyScene = { id: 'best', kind: 'one of', choices: ['soup', 'walk'] };

const responses = () =>
  world.app.db.query<{ answers: object; begun: boolean; said: object[] }>(
    'select answers, begun, said from survey_responses order by answered_on, id',
  );

describe('a survey under names', () => {
  test('its first question is answered with one tap in the mail, and the rest on the page, once', async () => {
    const { tokens, ...of } = await asking.held([surveyOf([liked, why, best])], { came: ['Ada', 'Bo'] });
    const [mail] = await world.app.db.query<{ body: string; html: string }>(
      "select body, html from standin_mail where address = 'ada@fenmail.example' and subject like 'How was%'",
    );
    const token = tokens.get('Ada')!;
    expect(mail!.body).toContain(`liked?\n1: ${world.app.origin}/s/${token}?a=1\n2: `);
    // Beside each other, each as wide as a thumb.
    expect(mail!.html).toMatch(
      new RegExp(`liked\\?<br><a [^>]*href="[^"]*/s/${token}\\?a=1"[^>]*>1</a> <a `, 'u'),
    );
    const tap = (answer: string) =>
      world.anyone.try('POST /api/public/surveys/:token/first', { params: { token }, body: { answer } });
    expect((await tap('9')).problem.fields).toMatchObject([{ path: 'answer', code: 'answer-one' }]);
    expect((await tap('2')).status).toBe(200);
    expect((await tap('4')).status).toBe(200);
    expect(await responses()).toMatchObject([{ answers: { liked: 4 }, begun: true }]);
    const page = (await asking.look(token)).body;
    expect(page).toMatchObject({ state: 'open', begun: true, anonymous: false });
    // What was said is not told to whoever opens the link.
    expect(JSON.stringify(page)).not.toContain('"liked":4');
    expect((await asking.answer(token, { best: 'walk' })).problem.fields).toMatchObject([
      { path: 'answers.liked', code: 'answer-needed' },
    ]);
    expect((await asking.answer(token, { liked: 5, best: 'walk', why: 'Not asked any more' })).status).toBe(
      200,
    );
    expect(await responses()).toMatchObject([
      {
        answers: { liked: 5, best: 'walk' },
        begun: false,
        said: [
          { question: 'liked?', said: '5' },
          { question: 'best?', said: 'walk' },
        ],
      },
    ]);
    for (const again of [await asking.answer(token, { liked: 1 }), await tap('1')])
      expect(again.problem.code).toBe('survey-answered');
    expect((await asking.look(token)).body).toMatchObject({ state: 'answered', pages: [] });
    expect(await asking.results(of)).toMatchObject({
      asked: 2,
      answered: 1,
      sentence: '1 of 2 asked have answered: 50% (between 9% and 91%).',
    });
  });

  test('a low score is a task for whoever made the event, only where the person agreed', async () => {
    const { tokens, contacts, ...of } = await asking.held([surveyOf([liked, why])], {
      came: ['Ada', 'Bo', 'Cai'],
    });
    await asking.answer(tokens.get('Ada')!, { liked: 2, why: 'Cold.' }, true);
    await asking.answer(tokens.get('Bo')!, { liked: 1 }, false);
    // Nothing of what was said asks for it.
    await asking.answer(tokens.get('Cai')!, { liked: 4 }, true);
    const notes = await world.app.db.query(
      'select contact_id, text, author, due_on::text from contact_notes where survey_id is not null',
    );
    expect(notes).toMatchObject([
      {
        contactId: contacts.get('Ada'),
        text: expect.stringContaining('“2” to “liked?”. They agreed to be written to about it.'),
        author: 'Odalys Ferrant',
      },
    ]);
    expect((await asking.results(of)).tasks).toEqual({ open: 1, done: 0 });
  });

  test('closed, hidden or erased, a link takes nothing; whoever has another’s link learns nothing', async () => {
    const { tokens, contacts, event } = await asking.held([surveyOf([best], { closesDays: 3 })], {
      came: ['Ada', 'Bo', 'Cai'],
    });
    const odalys = await world.as('odalys');
    await asking.answer(tokens.get('Ada')!, { best: 'walk' });
    const second = await asking.look(tokens.get('Ada')!);
    expect(JSON.stringify(second.body)).not.toMatch(/walk|Ada/u);
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: contacts.get('Cai')! },
      body: { name: 'Cai Reed', reason: 'asked' } as never,
    });
    expect((await asking.look(tokens.get('Cai')!)).status).toBe(404);
    const state = async () => (await asking.look(tokens.get('Bo')!)).body!.state;
    expect(await state()).toBe('open');
    await world.app.db.query("update events set state = 'shelved' where id = $1", [event.id]);
    expect(await state()).toBe('closed');
    expect((await asking.answer(tokens.get('Bo')!, { best: 'soup' })).problem.code).toBe('survey-closed');
    await world.app.db.query("update events set state = 'closed' where id = $1", [event.id]);
    const { endsAt } = (
      await world.app.db.query<{ endsAt: string }>('select ends_at from events where id = $1', [event.id])
    )[0]!;
    await world.moveTo(new Date(Date.parse(endsAt) + 3 * 86_400_000 + 60_000).toISOString());
    expect(await state()).toBe('closed');
    expect((await asking.answer(tokens.get('Bo')!, { best: 'soup' })).problem.code).toBe('survey-closed');
  });

  test('a text of a megabyte, and answers to what was never asked, are refused and nothing is kept', async () => {
    const { tokens } = await asking.held([surveyOf([{ id: 'words', kind: 'text' }])], {
      came: ['Ada'],
    });
    const token = tokens.get('Ada')!;
    expect((await asking.answer(token, { words: 'x'.repeat(1_000_000) })).status).toBeGreaterThanOrEqual(413);
    expect((await asking.answer(token, { words: 'x'.repeat(4001) })).status).toBe(422);
    expect((await asking.answer(token, { other: 'x' })).problem.fields).toMatchObject([
      { path: 'answers.other', code: 'question-not-asked' },
    ]);
    expect(await responses()).toEqual([]);
    expect((await asking.answer(token, { words: 'Fine.' })).status).toBe(200);
  });

  test('each answers for the sessions they were at', async () => {
    const { tokens, ...of } = await asking.held(
      [
        surveyOf([], {
          pages: [
            { id: 'all', questions: [{ id: 'liked', kind: 'scale', prompt: { en: 'All in all?' } }] },
            {
              id: 'each',
              per: 'session',
              questions: [{ id: 'useful', kind: 'scale', prompt: { en: 'Useful?' } }],
            },
          ],
        }),
      ],
      { came: ['Ada', 'Bo'] },
      {},
      { sessions: [sessionOf('Otters', [1, '09:00', '10:00']), sessionOf('Reeds', [1, '10:00', '11:00'])] },
    );
    const sessions = await world.app.db.query<{ id: string; registrationId: string | null }>(
      `select s.id, (select r.id from registrations r where r.event_id = s.event_id and r.given_name = 'Ada') as registration_id
       from agenda_sessions s where s.event_id = $1 order by s.position`,
      [of.event.id],
    );
    await world.app.db.query(
      'insert into session_seats (session_id, registration_id, at) values ($1, $2, now())',
      [sessions[0]!.id, sessions[0]!.registrationId],
    );
    const pages = async (who: string) =>
      (await asking.look(tokens.get(who)!)).body!.pages.map((p) => p.session?.title.en ?? 'all');
    expect(await pages('Ada')).toEqual(['all', 'Otters']);
    // Sessions are chosen here, and he chose none.
    expect(await pages('Bo')).toEqual(['all']);
    await asking.answer(tokens.get('Ada')!, { liked: 4, [`useful@${sessions[0]!.id}`]: 5 });
    expect(
      (await asking.answer(tokens.get('Bo')!, { [`useful@${sessions[1]!.id}`]: 5 })).problem.fields,
    ).toMatchObject([{ code: 'question-not-asked' }]);
    expect((await asking.results(of)).results.map((r) => [r.session?.title.en ?? '', r.answered])).toEqual([
      ['', 1],
      ['Otters', 1],
    ]);
    // Once both were spoken of they stand beside each other, each against the other.
    await world.app.db.query(
      `insert into session_seats (session_id, registration_id, at)
       select $1, id, now() from registrations where event_id = $2 and given_name = 'Bo'`,
      [sessions[1]!.id, of.event.id],
    );
    await asking.answer(tokens.get('Bo')!, { [`useful@${sessions[1]!.id}`]: 2 });
    const { results } = await asking.results(of);
    expect(results.map((r) => [r.session?.title.en ?? '', r.sessions, r.answered])).toEqual([
      ['', 0, 1],
      ['', 2, 2],
      ['Otters', 0, 1],
      ['Reeds', 0, 1],
    ]);
    expect(results[1]!.groups.map((g) => [g.name, g.n, g.figure])).toEqual([
      ['Otters', 1, 5],
      ['Reeds', 1, 2],
    ]);
  });

  test('changed after answers came: what was answered is kept and told, and its kind stays', async () => {
    const { tokens, ...of } = await asking.held([surveyOf([liked, best])], { came: ['Ada', 'Bo'] });
    await asking.answer(tokens.get('Ada')!, { liked: 4, best: 'walk' });
    const odalys = await world.as('odalys');
    const page = async () => odalys.call('GET /api/events/:id', { params: { id: of.event.id } });
    const [survey] = (await page()).plan.surveys;
    const change = async (questions: unknown[]) =>
      odalys.try('PATCH /api/events/:id', {
        params: { id: of.event.id },
        body: {
          version: (await page()).version,
          change: { surveys: [{ ...survey!, pages: [{ ...survey!.pages[0]!, questions }] }] as never },
        },
      });
    const [first, second] = survey!.pages[0]!.questions;
    expect((await change([{ ...first, kind: 'recommend' }, second])).problem.fields).toMatchObject([
      { path: 'surveys.0.pages.0.questions.0.kind', code: 'question-answered' },
    ]);
    expect((await change([{ ...first, prompt: { en: 'And how was it?' } }])).status).toBe(200);
    const { results } = await asking.results(of);
    expect(results.map((r) => [r.question.prompt.en, r.retired, r.answered])).toEqual([
      ['And how was it?', false, 1],
      ['best?', true, 1],
    ]);
    expect(results[0]!.reworded).toMatchObject([{ was: 'liked?', answered: 1 }]);
    // Who answers now is asked what is asked now.
    expect((await asking.answer(tokens.get('Bo')!, { liked: 3, best: 'walk' })).problem.fields).toMatchObject(
      [{ code: 'question-not-asked' }],
    );
    expect((await asking.answer(tokens.get('Bo')!, { liked: 3 })).status).toBe(200);
  });

  test('answers as CSV, a row for each who answered', async () => {
    const { tokens, event, surveys } = await asking.held([surveyOf([liked, best])], { came: ['Ada', 'Bo'] });
    await asking.answer(tokens.get('Ada')!, { liked: 4, best: 'walk' });
    const odalys = await world.as('odalys');
    const csv = String(
      await odalys.call('GET /api/events/:id/surveys/:survey/answers.csv', {
        params: { id: event.id, survey: surveys[0]!.id },
      }),
    );
    expect(csv.split(/\r?\n/u).slice(0, 2)).toEqual([
      'Name,Answered on,First question only,liked?,best?',
      expect.stringMatching(/^Ada Reed,2026-08-\d\d,,4,walk$/u),
    ]);
  });
});

describe('whose survey', () => {
  test('those who came, those who did not, and again later: each is asked their own, and reminded of it until they answer', async () => {
    const { event, surveys } = await asking.held(
      [
        surveyOf([{ id: 'liked', kind: 'scale' }]),
        surveyOf([{ id: 'kept', kind: 'text' }], { audience: 'absent' }),
        surveyOf([{ id: 'since', kind: 'text' }], { wave: 2, closesDays: 200 }),
      ],
      { came: ['Ada', 'Bo'], absent: ['Cai'] },
    );
    const odalys = await world.as('odalys');
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    const body = { en: 'Say: {{survey_link}}' };
    await saveIt(odalys, event.id, {
      messages: [
        ...page.plan.messages,
        lineOn('absent unanswered', { name: 'Absent', offsetDays: 3, body }),
        lineOn('survey again', { name: 'Later', offsetDays: 90, body }),
        lineOn('survey again unanswered', { name: 'Later, again', offsetDays: 100, body }),
      ],
    });
    const { endsAt } = (
      await world.app.db.query<{ endsAt: string }>('select ends_at from events where id = $1', [event.id])
    )[0]!;
    const days = (n: number) => new Date(Date.parse(endsAt) + n * 86_400_000 + 3_600_000).toISOString();
    const asked = () =>
      world.app.db.query<{ audience: string; wave: number; given: string }>(
        `select v.audience, v.wave, c.given_name as given from survey_asks k join surveys v on v.id = k.survey_id
           join contacts c on c.id = k.contact_id order by v.position, given`,
      );
    await world.moveTo(days(4));
    expect((await asked()).map((a) => `${a.audience} ${a.wave} ${a.given}`)).toEqual([
      'attendees 1 Ada',
      'attendees 1 Bo',
      'absent 1 Cai',
    ]);
    await world.moveTo(days(91));
    const later = await asking.askedOf({ ...event });
    expect((await asked()).map((a) => `${a.audience} ${a.wave} ${a.given}`).slice(3)).toEqual([
      'attendees 2 Ada',
      'attendees 2 Bo',
    ]);
    expect((await asking.answer(later.tokens.get('Ada')!, { since: 'Rowed twice.' })).status).toBe(200);
    await world.moveTo(days(101));
    const reminded = await world.app.db.query<{ address: string }>(
      `select m.address from messages m join message_lines l on l.id = m.line_id where l.name = 'Later, again' and m.state = 'sent'`,
    );
    expect(reminded.map((r) => r.address)).toEqual(['bo@fenmail.example']);
    expect(surveys.map((s) => `${s.audience} ${s.wave}`)).toEqual(['attendees 1', 'absent 1', 'attendees 2']);
  });

  test('the crew once however many shifts, and whoever looks after a child, are asked by their own', async () => {
    const odalys = await world.as('odalys');
    const event = await openEvent(world, {
      startsLocal: '2026-08-08T09:00',
      endsLocal: '2026-08-08T12:00',
      surveys: [
        surveyOf([{ id: 'shift', kind: 'scale' }], { audience: 'crew', title: { en: 'Helping?' } }),
        surveyOf([{ id: 'child', kind: 'scale' }], { audience: 'guardians', title: { en: 'Your child?' } }),
      ],
    });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Kit', family: 'Reed', birthDate: '2018-01-01' }], {
        buyer: { given: 'Ada', family: 'Reed', email: 'ada@fenmail.example', phone: '' },
      }),
    });
    const helper = await odalys.call('POST /api/contacts', {
      body: { given: 'Bo', family: 'Helper', email: 'bo@fenmail.example' },
    });
    for (const [from, to] of [
      ['08', '09'],
      ['10', '11'],
    ]) {
      const shift = await odalys.call('POST /api/events/:id/shifts', {
        params: { id: event.id },
        body: {
          role: 'Landing',
          place: '',
          startsLocal: `2026-08-08T${from}:00`,
          endsLocal: `2026-08-08T${to}:00`,
          wished: 1,
        },
      });
      await odalys.call('POST /api/shifts/:id/assignments', {
        params: { id: shift.id },
        body: { contactId: helper.id },
      });
    }
    const body = { en: '{{survey_first_link}}' };
    await saveIt(odalys, event.id, {
      messages: [
        lineOn('survey', { name: 'Crew', audience: 'crew', offsetMinutes: 60, body }),
        lineOn('survey', { name: 'Guardians', audience: 'guardians', offsetMinutes: 60, body }),
      ],
    });
    await world.moveTo('2026-08-09T15:00:00Z');
    const mails = await world.app.db.query<{ address: string; body: string }>(
      "select address, body from standin_mail where body like '%?a=%' order by address",
    );
    expect(mails.map((m) => [m.address, m.body.split('\n')[0]])).toEqual([
      ['ada@fenmail.example', 'child?'],
      ['bo@fenmail.example', 'shift?'],
    ]);
    const [crew] = await odalys.call('GET /api/events/:id/surveys', { params: { id: event.id } });
    expect(crew).toMatchObject({ audience: 'crew', asked: 1 });
  });

  test('two for the same people, and what does not go together, are refused beside their fields', async () => {
    const odalys = await world.as('odalys');
    const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Asked' } });
    const save = async (surveys: object[]) => {
      const page = await odalys.call('GET /api/events/:id', { params: { id } });
      return odalys.try('PATCH /api/events/:id', {
        params: { id },
        body: { version: page.version, change: { surveys } as never },
      });
    };
    const one = surveyOf([best]);
    expect((await save([one, surveyOf([best])])).problem.fields).toMatchObject([
      { path: 'surveys.1.audience', code: 'survey-twice' },
    ]);
    expect((await save([surveyOf([{ ...why, id: 'alone' }])])).problem.fields).toMatchObject([
      { path: 'surveys.0.pages.0.questions.0.shownIf', code: 'shown-by-nothing' },
    ]);
    expect((await save([one, surveyOf([liked], { audience: 'crew' })])).status).toBe(200);
    // Two that change places.
    const swapped = await save([{ ...one, audience: 'crew' }, surveyOf([liked])]);
    expect(swapped.status).toBe(200);
  });
});

describe('compared', () => {
  test('with last year’s same question, however it is worded; with what is gone; and with what may be the same', async () => {
    const questions: SurveyScene[] = [
      liked,
      { id: 'day', kind: 'scale', prompt: 'How useful was the day?' },
      best,
    ];
    const names = ['Ada', 'Bo', 'Cai', 'Dov', 'Eli', 'Fin'];
    const first = await asking.held([surveyOf(questions)], { came: names });
    for (const name of names)
      await asking.answer(first.tokens.get(name)!, { liked: 3, day: 4, best: 'soup' });
    const odalys = await world.as('odalys');
    const { id } = await odalys.call('POST /api/events', {
      body: { publicTitle: 'Next year', from: first.event.id, date: '2027-08-07' },
    });
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id } });
    const [survey] = plan.surveys;
    const [q] = survey!.pages[0]!.questions;
    await saveIt(odalys, id, {
      surveys: [
        {
          ...survey!,
          pages: [
            {
              ...survey!.pages[0]!,
              questions: [
                { ...q!, prompt: { en: 'All in all, did you like it?' } },
                {
                  ...survey!.pages[0]!.questions[1]!,
                  id: 'new',
                  prompt: { en: 'How useful was the day for you?' },
                },
              ],
            },
          ],
        },
      ],
    });
    const [now] = await odalys.call('GET /api/events/:id/surveys', { params: { id } });
    await world.app.db.query('update surveys set event_id = event_id where id = $1', [now!.id]);
    // What was said is put in by hand, as a year goes by too slowly.
    for (const contact of first.contacts.values()) {
      await world.app.db.query(
        'insert into survey_asks (id, survey_id, contact_id, answered) values (gen_random_uuid(), $1, $2, true)',
        [now!.id, contact],
      );
      await world.app.db.query(
        `insert into survey_responses (id, survey_id, contact_id, answers, answered_on) values (gen_random_uuid(), $1, $2, '{"liked": 5, "new": 4}', '2027-08-08')`,
        [now!.id, contact],
      );
    }
    const of = { event: { ...first.event, id }, surveys: [{ ...first.surveys[0]!, id: now!.id }] };
    const r = await asking.results(of);
    expect(r.beside).toBe(first.event.id);
    expect(r.results[0]!.earlier).toMatchObject({
      n: 6,
      figure: 3,
      was: 'liked?',
      sentence: expect.stringContaining('2 higher than'),
    });
    expect(r.results[1]!.earlier).toBeNull();
    expect(r.gone).toEqual(['How useful was the day?', 'best?']);
    expect(r.perhaps).toEqual([
      {
        now: 'new',
        prompt: 'How useful was the day for you?',
        was: 'day',
        wasPrompt: 'How useful was the day?',
      },
    ]);
    const page = await odalys.call('GET /api/events/:id', { params: { id } });
    await saveIt(odalys, id, {
      surveys: page.plan.surveys.map((s) => ({
        ...s,
        pages: s.pages.map((p) => ({
          ...p,
          questions: p.questions.map((x) => (x.id === 'new' ? { ...x, goesOn: 'day' } : x)),
        })),
      })),
    });
    const said = await asking.results(of);
    expect(said.results[1]!.earlier).toMatchObject({ n: 6, figure: 4 });
    expect(said.gone).toEqual(['best?']);
  });

  test('by group, and weighted as those who came', async () => {
    const names = ['Ada', 'Bo', 'Cai', 'Dov', 'Eli', 'Fin', 'Gus', 'Hal'];
    const { tokens, contacts, ...of } = await asking.held([surveyOf([liked])], { came: names });
    // Two of them are members, and both answer; of the others every second does.
    for (const name of ['Ada', 'Bo'])
      await world.app.db.query(
        "insert into memberships (id, contact_id, level, starts_on, created_at) values (gen_random_uuid(), $1, 'Friend', '2026-01-01', now())",
        [contacts.get(name)],
      );
    for (const [name, n] of [
      ['Ada', 2],
      ['Bo', 2],
      ['Cai', 5],
      ['Dov', 5],
      ['Eli', 4],
    ] as const)
      await asking.answer(tokens.get(name)!, { liked: n });
    const grouped = await asking.results(of, { by: 'member' });
    expect(grouped.results[0]!.groups.map((g) => [g.name, g.n, g.figure])).toEqual([
      ['members', 2, 2],
      ['no members', 3, 14 / 3],
    ]);
    expect(grouped.results[0]!.mean!.value).toBeCloseTo(3.6, 8);
    // Two of eight are members, and two of five who answered: (2·2 + 6·4.67) / 8.
    const weighted = await asking.results(of, { weigh: 'member' });
    expect(weighted.results[0]!.mean!.value).toBeCloseTo((2 * 2 + 6 * (14 / 3)) / 8, 8);
    expect(weighted.weighted).toContain('5 answers say as much as');
  });
});

test('surveys are kept as templates by name, replaced, and taken away; some are there to begin with', async () => {
  const odalys = await world.as('odalys');
  const { id: _, ...survey } = surveyOf([best]);
  const keep = (replace: boolean) =>
    odalys.try('POST /api/survey-templates', { body: { name: 'Ours', survey: survey as never, replace } });
  const kept = (await keep(false)).body!;
  expect((await keep(false)).problem.fields).toMatchObject([{ path: 'name', code: 'template-taken' }]);
  expect((await keep(true)).body).toEqual(kept);
  const names = async () => (await odalys.call('GET /api/survey-templates')).map((t) => t.name);
  expect((await names())[0]).toBe('Ours');
  expect(await names()).toContain('Those who did not come');
  await odalys.call('DELETE /api/survey-templates/:id', { params: { id: kept.id } });
  expect(await names()).not.toContain('Ours');
});
