import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { askedNow, followedUp, keptOf, problemsWithAnswers, sayAnswer } from './answering.ts';
import { changedAfter, problemsWithSurvey } from './checking.ts';
import { closesAt, isClosed } from './closing.ts';
import { groupOf } from './grouping.ts';
import { answersInMail, tapped } from './inMail.ts';
import { sameQuestions } from './sameQuestion.ts';
import { pagesFor, plainQuestion, type Survey, type SurveyKind, type SurveyQuestion } from './survey.ts';

const q = (id: string, kind: SurveyKind, more: Partial<SurveyQuestion> = {}): SurveyQuestion => ({
  ...plainQuestion,
  id,
  kind,
  prompt: { en: `${id}?` },
  choices:
    kind === 'one of' || kind === 'several of' || kind === 'order'
      ? ['soup', 'walk', 'talk'].map((c) => ({ id: c, text: { en: c } }))
      : [],
  ...more,
});
const survey = (questions: SurveyQuestion[], more: Partial<Survey> = {}): Survey => ({
  audience: 'attendees',
  wave: 1,
  title: { en: 'How was it?' },
  intro: { en: '' },
  anonymous: false,
  groupBy: null,
  closesDays: 60,
  pages: [{ id: 'p', title: { en: '' }, per: 'survey', questions }],
  ...more,
});
const wrongIn = (questions: SurveyQuestion[], answers: Record<string, string | number | string[]>) =>
  problemsWithAnswers(pagesFor(survey(questions), []), answers).map((w) => [w.path, w.code]);

describe('answers', () => {
  test('each kind takes what it asks for, and nothing else', () => {
    const all = [
      q('one', 'one of'),
      q('some', 'several of'),
      q('scale', 'scale', { most: 7 }),
      q('ten', 'recommend'),
      q('order', 'order'),
      q('text', 'text'),
      q('number', 'number', { least: 0, most: 100 }),
      q('date', 'date'),
    ];
    expect(
      wrongIn(all, {
        one: 'walk',
        some: ['soup', 'talk'],
        scale: 7,
        ten: 0,
        order: ['talk', 'soup', 'walk'],
        text: 'Lovely.',
        number: 12.5,
        date: '2026-07-09',
      }),
    ).toEqual([]);
    expect(
      wrongIn(all, {
        one: 'rain',
        some: ['soup', 'soup'],
        scale: 8,
        ten: 10.5,
        order: ['talk', 'soup'],
        text: 'x'.repeat(4001),
        number: 101,
        date: '2026-02-30',
        other: 'never asked',
      }),
    ).toEqual([
      ['answers.one', 'answer-one'],
      ['answers.some', 'answer-among'],
      ['answers.scale', 'answer-on-the-scale'],
      ['answers.ten', 'answer-on-the-scale'],
      ['answers.order', 'order-all'],
      ['answers.text', 'too-long'],
      ['answers.number', 'answer-most'],
      ['answers.date', 'no-such-date'],
      ['answers.other', 'question-not-asked'],
    ]);
    expect(wrongIn([q('one', 'one of', { required: true })], { one: '  ' })).toEqual([
      ['answers.one', 'answer-needed'],
    ]);
  });

  test('what hangs on an answer is asked as long as it holds, on pages for each session of the same session', () => {
    const asks = survey([q('liked', 'scale')], {
      pages: [
        { id: 'all', title: { en: '' }, per: 'survey', questions: [q('liked', 'scale')] },
        {
          id: 'each',
          title: { en: '' },
          per: 'session',
          questions: [
            q('useful', 'scale'),
            q('why', 'text', {
              required: true,
              shownIf: { questionId: 'useful', is: [], least: null, most: 2 },
            }),
            q('so', 'text', { shownIf: { questionId: 'liked', is: [], least: 5, most: 5 } }),
          ],
        },
      ],
    });
    const pages = pagesFor(asks, [
      { id: 's1', title: { en: 'Otters' } },
      { id: 's2', title: { en: 'Reeds' } },
    ]);
    const keys = (answers: Record<string, number>) =>
      askedNow(pages, answers).flatMap((p) => p.asked.map((a) => a.key));
    expect(keys({})).toEqual(['liked', 'useful@s1', 'useful@s2']);
    expect(keys({ liked: 5, 'useful@s2': 1 })).toEqual([
      'liked',
      'useful@s1',
      'so@s1',
      'useful@s2',
      'why@s2',
      'so@s2',
    ]);
    expect(problemsWithAnswers(pages, { 'useful@s2': 1 }).map((w) => w.path)).toEqual(['answers.why@s2']);
    // Somebody who was not at a session says nothing of it.
    expect(problemsWithAnswers(pages, { 'useful@s3': 1 }).map((w) => w.code)).toEqual(['question-not-asked']);
    // What is not asked any more is not kept.
    expect(
      keptOf(pages, { 'useful@s1': 4, 'why@s1': 'Too long' }).map(({ asked, value }) => [asked.key, value]),
    ).toEqual([['useful@s1', 4]]);
  });

  test('never is anything kept that was not asked, whatever hangs on whatever', () => {
    const ids = ['a', 'b', 'c', 'd'];
    fc.assert(
      fc.property(
        fc.array(fc.option(fc.nat(3)), { minLength: 4, maxLength: 4 }),
        fc.dictionary(fc.constantFrom(...ids), fc.integer({ min: 1, max: 5 })),
        (on, answers) => {
          const questions = ids.map((id, at) =>
            q(id, 'scale', {
              shownIf: on[at] === null ? null : { questionId: ids[on[at]!]!, is: [], least: 3, most: null },
            }),
          );
          const pages = pagesFor(survey(questions), []);
          const asked = new Set(askedNow(pages, answers).flatMap((p) => p.asked.map((a) => a.key)));
          for (const { asked: one } of keptOf(pages, answers)) {
            expect(asked.has(one.key)).toBe(true);
            const { shownIf } = one.question;
            if (shownIf) expect(asked.has(shownIf.questionId)).toBe(true);
          }
        },
      ),
    );
  });

  test('a low score and a wish to help ask whether one may come back', () => {
    const questions = [
      q('liked', 'scale', { follows: { is: [], least: null, most: 2 } }),
      q('help', 'several of', { follows: { is: ['talk'], least: null, most: null } }),
    ];
    const pages = pagesFor(survey(questions), []);
    const follow = (answers: Record<string, number | string[]>) =>
      followedUp(pages, answers).map((a) => a.key);
    expect(follow({ liked: 3, help: ['soup'] })).toEqual([]);
    expect(follow({ liked: 2, help: ['soup', 'talk'] })).toEqual(['liked', 'help']);
  });

  test('answers in words', () => {
    expect(sayAnswer(q('o', 'order'), ['talk', 'soup', 'walk'])).toBe('1 talk, 2 soup, 3 walk');
    expect(sayAnswer(q('s', 'several of'), ['talk', 'gone'])).toBe('talk, gone');
    expect(
      sayAnswer(q('s', 'one of', { choices: [{ id: 'y', text: { en: 'yes', fr: 'oui' } }] }), 'y', 'fr'),
    ).toBe('oui');
    expect(sayAnswer(q('n', 'number'), 3)).toBe('3');
  });
});

describe('a survey as it is planned', () => {
  const wrong = (of: Survey) => problemsWithSurvey(of, 's').map((w) => [w.path, w.code]);
  test('what does not go together is said, beside its field', () => {
    expect(wrong(survey([]))).toEqual([['s.pages', 'survey-empty']]);
    expect(
      wrong(
        survey([
          q('a', 'one of', { choices: [{ id: 'x', text: { en: 'x' } }] }),
          q('b', 'scale', { least: 1, most: 20 }),
          q('c', 'number', { least: 5, most: 1 }),
          q('d', 'text', { shownIf: { questionId: 'e', is: [], least: 1, most: null } }),
          q('e', 'scale', { shownIf: { questionId: 'a', is: ['nothing'], least: null, most: null } }),
          q('f', 'scale', { follows: { is: [], least: 7, most: null } }),
        ]),
      ),
    ).toEqual([
      ['s.pages.0.questions.0.choices', 'two-choices-needed'],
      ['s.pages.0.questions.1.most', 'scale-length'],
      ['s.pages.0.questions.2.most', 'most-below-least'],
      ['s.pages.0.questions.3.shownIf', 'shown-by-nothing'],
      ['s.pages.0.questions.4.shownIf', 'never-shown'],
      ['s.pages.0.questions.5.follows', 'never-shown'],
    ]);
    expect(wrong(survey([q('a', 'text')], { groupBy: 'a' }))).toEqual([['s.groupBy', 'group-by-choice']]);
    expect(wrong(survey([q('a', 'one of')], { groupBy: 'a', anonymous: true }))).toEqual([]);
    expect(wrong(survey([q('a', 'text'), q('a', 'text')]))).toEqual([['s.pages', 'question-twice']]);
  });

  test('once answered, words are free and what was answered is kept; its kind is not changed any more', () => {
    const was = { ...survey([q('liked', 'scale'), q('best', 'one of'), q('more', 'text')]), retired: [] };
    const answered = new Map([
      ['liked', { n: 7, given: new Set<string>() }],
      ['best', { n: 5, given: new Set(['walk']) }],
    ]);
    const change = (wanted: Survey, closed = false) =>
      changedAfter(was, wanted, answered, { now: '2026-07-09T12:00:00.000Z', path: 's', closed });
    const reworded = change(
      survey([
        q('liked', 'scale', { prompt: { en: 'And how was it?' } }),
        q('best', 'one of', { choices: [{ id: 'soup', text: { en: 'the soup' } }] }),
      ]),
    );
    expect(reworded.problems).toEqual([]);
    expect(reworded.reworded).toMatchObject([{ questionId: 'liked', was: { en: 'liked?' }, answered: 7 }]);
    // Somebody said “walk”.
    expect(reworded.survey.pages[0]!.questions[1]!.choices.map((c) => c.id)).toEqual(['soup', 'walk']);
    // Nobody answered “more”, so nothing of it is kept.
    expect(reworded.retired).toEqual([]);
    expect(change(survey([q('best', 'one of')])).retired.map((x) => x.id)).toEqual(['liked']);
    const codes = (wanted: Survey, closed = false) =>
      change(wanted, closed).problems.map((w) => [w.path, w.code]);
    expect(codes(survey([q('liked', 'recommend')]))).toEqual([
      ['s.pages.0.questions.0.kind', 'question-answered'],
    ]);
    expect(codes(survey([q('liked', 'scale', { most: 10 })]))).toEqual([
      ['s.pages.0.questions.0.most', 'question-answered'],
    ]);
    expect(codes(survey([], { anonymous: true }))).toEqual([['s.anonymous', 'survey-in-use']]);
    // One that was taken out comes back as it was.
    const back = changedAfter(
      { ...survey([q('best', 'one of')]), retired: [q('liked', 'scale')] },
      survey([q('liked', 'recommend')]),
      answered,
      { now: '', path: 's', closed: false },
    );
    expect(back.problems.map((w) => w.code)).toEqual(['question-answered']);
    expect(back.retired.map((x) => x.id)).toEqual(['best']);
  });

  test('an anonymous one that is over is not opened again, nor told apart by something else', () => {
    const was = { ...survey([q('best', 'one of')], { anonymous: true }), retired: [] };
    const answered = new Map([['best', { n: 9, given: new Set<string>() }]]);
    const codes = (more: Partial<Survey>, closed: boolean) =>
      changedAfter(was, survey([q('best', 'one of')], { anonymous: true, ...more }), answered, {
        now: '',
        path: 's',
        closed,
      }).problems.map((w) => w.path);
    expect(codes({ closesDays: 90 }, true)).toEqual(['s.closesDays']);
    expect(codes({ closesDays: 90 }, false)).toEqual([]);
    expect(codes({ groupBy: 'best' }, false)).toEqual(['s.groupBy']);
  });
});

describe('the same question of another year', () => {
  test('copied, said to be, or in the same words; what is only alike is asked about', () => {
    const { pairs, perhaps, fresh, gone } = sameQuestions(
      [
        q('liked', 'scale', { prompt: { en: 'All in all, how did you like it?' } }),
        q('n2', 'one of', { goesOn: 'o2' }),
        q('n3', 'text', { prompt: { en: 'What was best?' } }),
        q('n4', 'scale', { prompt: { en: 'How useful was the day for you?' } }),
        q('n5', 'date'),
      ],
      [
        q('liked', 'scale', { prompt: { en: 'How did you like it?' } }),
        q('o2', 'one of'),
        q('o3', 'text', { prompt: { en: 'What was best ?' } }),
        q('o4', 'scale', { prompt: { en: 'How useful was the day?' } }),
        q('o6', 'number'),
      ],
    );
    expect(pairs.map((p) => [p.now.id, p.was.id, p.by, p.reworded])).toEqual([
      ['liked', 'liked', 'copied', true],
      ['n2', 'o2', 'said so', true],
      ['n3', 'o3', 'same words', false],
    ]);
    expect(perhaps.map((p) => [p.now.id, p.was.id])).toEqual([['n4', 'o4']]);
    expect(fresh.map((x) => x.id)).toEqual(['n4', 'n5']);
    expect(gone.map((x) => x.id)).toEqual(['o4', 'o6']);
  });

  test('another kind, scale or other choices cannot be set against each other, or only as far as they go', () => {
    const two = (ids: string[]) => ids.map((id) => ({ id, text: { en: id } }));
    const comparable = (now: SurveyQuestion, was: SurveyQuestion) =>
      sameQuestions([now], [was]).pairs[0]!.comparable;
    expect(comparable(q('a', 'scale'), q('a', 'recommend'))).toBe('other kind');
    expect(comparable(q('a', 'scale', { most: 7 }), q('a', 'scale'))).toBe('other scale');
    expect(comparable(q('a', 'one of'), q('a', 'one of', { choices: two(['x', 'y']) }))).toBe(
      'no choice shared',
    );
    expect(comparable(q('a', 'one of'), q('a', 'one of', { choices: two(['walk', 'y']) }))).toBe(
      'shared choices',
    );
    expect(comparable(q('a', 'one of'), q('a', 'one of'))).toBe('all');
    expect(comparable(q('a', 'text'), q('a', 'text'))).toBe('all');
  });
});

describe('when, and by what', () => {
  test('answers are taken so many days of the calendar after the end, by the clock there, also across a clock change', () => {
    const event = {
      startsAt: '2026-10-20T12:00:00.000Z',
      endsAt: '2026-10-20T15:00:00.000Z',
      zone: 'America/Halifax',
    };
    // Noon in summer, noon in winter: an hour later in the count of the world.
    expect(closesAt(event, 30)).toBe('2026-11-19T16:00:00.000Z');
    expect(isClosed(event, 30, '2026-11-19T15:59:59.000Z')).toBe(false);
    expect(isClosed(event, 30, '2026-11-19T16:00:00.000Z')).toBe(true);
    expect(closesAt({ ...event, startsAt: null, endsAt: null }, 30)).toBeNull();
  });

  test('groups by age on the day, by ticket, by having been there', () => {
    const known = { firstTime: true, member: false, birthDate: '1996-07-10', ticket: 'Adult' };
    expect(groupOf(known, 'age', '2026-07-09')).toBe('18–29');
    expect(groupOf(known, 'age', '2026-07-10')).toBe('30–44');
    expect(groupOf({ ...known, birthDate: '1940-01-01' }, 'age', '2026-07-10')).toBe('75+');
    expect(groupOf({ ...known, birthDate: null }, 'age', '2026-07-10')).toBe('unknown');
    expect(groupOf(known, 'first time', '2026-07-10')).toBe('first time');
    expect(groupOf(known, 'member', '2026-07-10')).toBe('no member');
    expect(groupOf({ ...known, ticket: null }, 'ticket', '2026-07-10')).toBe('unknown');
  });

  test('the first question is answered from the mail where one tap is an answer, and it is not of a session', () => {
    const liked = q('liked', 'scale', { low: { en: 'bad', fr: 'mal' }, high: { en: 'good', fr: 'bien' } });
    expect(answersInMail(survey([liked]), 'fr')).toMatchObject({
      prompt: 'liked? (1 mal, 5 bien)',
      answers: [1, 2, 3, 4, 5].map((n) => ({ label: String(n), value: String(n) })),
    });
    const odd = q('one', 'one of', { choices: [{ id: 'a & b?', text: { en: 'Yes: both' } }] });
    expect(answersInMail(survey([odd]), 'en').answers).toEqual([
      { label: 'Yes both', value: 'a%20%26%20b%3F' },
    ]);
    expect(answersInMail(survey([q('words', 'text'), liked]), 'en').answers).toEqual([]);
    const each = survey([], { pages: [{ id: 'p', title: { en: '' }, per: 'session', questions: [liked] }] });
    expect(answersInMail(each, 'en').answers).toEqual([]);
    expect([
      tapped(survey([liked]), '4'),
      tapped(survey([liked]), '9'),
      tapped(survey([odd]), 'a & b?'),
    ]).toEqual([4, null, 'a & b?']);
  });
});
