import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type AnswerValue, isEmpty, problemWith, readNumber, sayAnswer } from './answering.ts';
import { problemsWithQuestions } from './checking.ts';
import { asking, details } from './details.ts';
import { plainQuestion, type Question, type QuestionKind, questionKinds } from './question.ts';
import { askedOfOrder, askedOfSeat, problemsWithShowing } from './showing.ts';

const at = { country: 'CA', today: '2026-07-09' };
const q = (id: string, of: Partial<Question> = {}): Question => ({
  ...plainQuestion,
  id,
  scope: 'order',
  kind: 'yes or no',
  prompt: id,
  choices: [],
  ...of,
});
const planned = (questions: readonly Question[]) =>
  questions.map((x) => ({ ...x, prompt: { en: x.prompt } }));
const hangsOn = (questionId: string, ...is: string[]) => ({ shownIf: { questionId, is } });
const ids = (of: readonly Question[]) => of.map((x) => x.id);

describe('one answer', () => {
  const of = (kind: QuestionKind, more: Partial<Question> = {}) =>
    q('q', { kind, choices: ['red', 'green'], ...more });
  const wrong = (question: Question, value: AnswerValue | undefined) =>
    problemWith(question, value, at)?.code ?? null;

  test.each<[QuestionKind, AnswerValue | undefined, string | null]>([
    ['text', 'marsh', null],
    ['text', true, 'answer-in-words'],
    ['text', 'x'.repeat(2000), null],
    ['text', 'x'.repeat(2001), 'too-long'],
    ['one of', 'red', null],
    ['one of', 'blue', 'answer-one'],
    ['several of', ['red', 'green'], null],
    ['several of', ['red', 'blue'], 'answer-among'],
    ['yes or no', false, null],
    ['yes or no', 'yes', 'answer-yes-or-no'],
    ['number', '12', null],
    ['number', '−12', 'answer-number'],
    ['number', '1e9', 'answer-number'],
    ['date', '2028-02-29', null],
    ['date', '2026-02-29', 'no-such-date'],
    ['consent', true, null],
    ['file', 'passwd', 'file-gone'],
    ['file', '019ecb27-2200-7016-9784-2f04fa2ff11d', null],
  ])('to a question of kind %s: %j', (kind, value, code) => {
    expect(wrong(of(kind), value)).toBe(code);
  });

  test('one that has to be answered is; a consent that has to be given is, and is not by being asked', () => {
    for (const kind of questionKinds)
      for (const value of [undefined, '', '  ', []] as (AnswerValue | undefined)[])
        expect(wrong(of(kind, { required: true }), value)).toBe(
          kind === 'consent' ? 'consent-needed' : 'answer-needed',
        );
    expect(wrong(of('consent', { required: true }), false)).toBe('consent-needed');
    expect(wrong(of('yes or no', { required: true }), false)).toBeNull();
    expect(isEmpty(of('consent'), false)).toBe(true);
  });

  test('numbers keep to their limits, the limits among them, and are read as people write them', () => {
    const between = of('number', { least: 2, most: 4.5 });
    expect(['1.9', '2', '4,5', '4.6'].map((n) => wrong(between, n))).toEqual([
      'answer-least',
      null,
      null,
      'answer-most',
    ]);
    expect(['1 200', '1’200', '3,5', '-7', '.5', '', '1.2.3'].map(readNumber)).toEqual([
      1200,
      1200,
      3.5,
      -7,
      null,
      null,
      null,
    ]);
  });

  test('details are what they are: a telephone, a birth date of the past, no longer than the record takes', () => {
    expect(wrong(of('text', { keeps: 'phone' }), '902 555 0123')).toBeNull();
    expect(wrong(of('text', { keeps: 'phone' }), 'after six')).toBe('not-a-telephone');
    expect(wrong(of('date', { keeps: 'birthDate' }), '2026-07-09')).toBeNull();
    expect(wrong(of('date', { keeps: 'birthDate' }), '2026-07-10')).toBe('in-the-future');
    expect(wrong(of('date'), '2026-07-10')).toBeNull();
    expect(wrong(of('text', { keeps: 'pronouns' }), 'x'.repeat(61))).toBe('too-long');
  });

  test('is said in one line, a file by its name', () => {
    expect([true, false, ['a', 'b'], 'x'].map((v) => sayAnswer(v))).toEqual(['yes', 'no', 'a, b', 'x']);
    expect(sayAnswer('019e', 'certificate.pdf')).toBe('certificate.pdf');
  });
});

describe('questions shown by earlier answers', () => {
  const order = (answers: Record<string, AnswerValue>, offerIds: string[] = []) => ({ answers, offerIds });

  test('are asked as long as the other answer stands, and what hangs on them as long as they are asked', () => {
    const all = [
      q('car'),
      q('seats', { kind: 'one of', choices: ['1', '2'], ...hangsOn('car', 'yes') }),
      q('dog', hangsOn('seats', '2')),
    ];
    const shown = (answers: Record<string, AnswerValue>) => ids(askedOfOrder(all, order(answers)));
    expect(shown({})).toEqual(['car']);
    expect(shown({ car: true })).toEqual(['car', 'seats']);
    expect(shown({ car: true, seats: '2' })).toEqual(['car', 'seats', 'dog']);
    // What was answered before it was hidden opens nothing.
    expect(shown({ car: false, seats: '2' })).toEqual(['car']);
  });

  test('one of several answers is enough', () => {
    const all = [
      q('bring', { kind: 'several of', choices: ['boat', 'tent', 'dog'] }),
      q('length', { kind: 'number', ...hangsOn('bring', 'boat', 'tent') }),
    ];
    const shown = (bring: string[]) => ids(askedOfOrder(all, order({ bring })));
    expect([shown(['dog']), shown(['dog', 'tent'])]).toEqual([['bring'], ['bring', 'length']]);
  });

  test('of somebody who comes they may hang on what the order answers, as far as that is asked', () => {
    const all = [
      q('lunch', { offerId: 'day' }),
      q('diet', { scope: 'attendee', kind: 'text', ...hangsOn('lunch', 'yes') }),
      q('size', { scope: 'attendee', kind: 'text', offerId: 'day' }),
    ];
    const shown = (offerId: string, of: ReturnType<typeof order>) =>
      ids(askedOfSeat(all, { offerId, answers: {} }, of));
    expect(shown('day', order({ lunch: true }, ['day']))).toEqual(['diet', 'size']);
    expect(shown('eve', order({ lunch: true }, ['day', 'eve']))).toEqual(['diet']);
    // Nobody has that ticket, so the order is not asked, and its answer counts for nothing.
    expect(shown('eve', order({ lunch: true }, ['eve']))).toEqual([]);
  });

  test('what hangs on itself is never asked, and says so while it is made; so does everything that could never be', () => {
    const codes = (questions: readonly Question[]) =>
      problemsWithShowing(questions).map((p) => [p.path, p.code]);
    const circle = [q('a', hangsOn('c', 'yes')), q('b', hangsOn('a', 'yes')), q('c', hangsOn('b', 'yes'))];
    expect(codes(circle)).toEqual([0, 1, 2].map((n) => [`questions.${n}.shownIf`, 'shown-in-circle']));
    expect(askedOfOrder(circle, order({ a: true, b: true, c: true }))).toEqual([]);
    expect(codes([q('a', hangsOn('a', 'yes'))])).toEqual([['questions.0.shownIf', 'shown-in-circle']]);
    expect(codes([q('a', hangsOn('gone', 'yes'))])).toEqual([['questions.0.shownIf', 'shown-by-nothing']]);
    expect(codes([q('a', hangsOn('b', 'yes')), q('b')])).toEqual([['questions.0.shownIf', 'shown-by-later']]);
    expect(codes([q('p', { scope: 'attendee' }), q('o', hangsOn('p', 'yes'))])).toEqual([
      ['questions.1.shownIf', 'shown-by-person'],
    ]);
    const choice = q('c', { kind: 'one of', choices: ['red', ' '] });
    expect(codes([choice, q('n', hangsOn('c', 'blue'))])).toEqual([['questions.1.shownIf', 'never-shown']]);
    expect(codes([choice, q('n', hangsOn('c'))])).toEqual([['questions.1.shownIf', 'never-shown']]);
    expect(codes([choice, q('n', hangsOn('c', 'blue', 'red'))])).toEqual([]);
    expect(codes([q('t', { kind: 'text' }), q('n', hangsOn('t', 'yes'))])).toEqual([
      ['questions.1.shownIf', 'never-shown'],
    ]);
    const apart = [
      q('x', { scope: 'attendee', offerId: '1' }),
      q('y', { scope: 'attendee', offerId: '2', ...hangsOn('x', 'yes') }),
    ];
    expect(codes(apart)).toEqual([['questions.1.shownIf', 'never-shown']]);
    // Of everybody, on what the order answers: where it stands does not matter.
    expect(codes([q('y', { scope: 'attendee', ...hangsOn('o', 'yes') }), q('o')])).toEqual([]);
  });

  test('where nothing is wrong with the conditions, everything can be asked by some answers; a hidden answer changes nothing', () => {
    const made = fc
      .array(fc.record({ parent: fc.nat(9), is: fc.constantFrom('yes', 'no') }), {
        minLength: 1,
        maxLength: 8,
      })
      .map((list) =>
        list.map(({ parent, is }, n) => q(`q${n}`, parent < n ? hangsOn(`q${parent}`, is) : {})),
      );
    fc.assert(
      fc.property(made, fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }), (all, given) => {
        expect(problemsWithShowing(all)).toEqual([]);
        for (const one of all) {
          // The answers that lead to it, followed upwards.
          const answers: Record<string, boolean> = {};
          for (
            let x: Question | undefined = one;
            x?.shownIf;
            x = all.find((p) => p.id === x!.shownIf!.questionId)
          )
            answers[x.shownIf.questionId] = x.shownIf.is[0] === 'yes';
          expect(ids(askedOfOrder(all, order(answers)))).toContain(one.id);
        }
        const answers = Object.fromEntries(all.map((x, n) => [x.id, given[n]!]));
        const shown = askedOfOrder(all, order(answers));
        const only = Object.fromEntries(shown.map((x) => [x.id, answers[x.id]!]));
        expect(askedOfOrder(all, order(only))).toEqual(shown);
      }),
    );
  });
});

describe('what is wrong with the questions of a plan', () => {
  const field = { id: 'f', kind: 'number' as const, choices: [] };
  const codes = (questions: readonly Question[]) =>
    problemsWithQuestions(planned(questions), [field]).map((p) => `${p.path} ${p.code}`);

  test('nothing asked, too few choices, limits the wrong way round', () => {
    expect(
      codes([
        q(' '),
        q('b', { kind: 'one of', choices: ['red', ' '] }),
        q('c', { kind: 'number', least: 3, most: 2 }),
        q('d', { kind: 'number', least: 3, most: 3 }),
      ]),
    ).toEqual([
      'questions.0.prompt.en question-empty',
      'questions.1.choices two-choices-needed',
      'questions.2.most most-below-least',
    ]);
  });

  test('what is kept on a record is asked as the record takes it, once of the same people', () => {
    const detail = (keeps: string, of: Partial<Question> = {}) =>
      q(`${keeps} ${of.scope ?? ''}`, { kind: 'text', keeps, ...of });
    expect(codes([detail('phone'), detail('phone', { scope: 'attendee' })])).toEqual([]);
    expect(codes([detail('phone'), detail('phone')])).toEqual(['questions.1.keeps kept-twice']);
    expect(codes([detail('birthDate', { kind: 'date' })])).toEqual(['questions.0.scope birth-date-of-each']);
    expect(codes([detail('f', { kind: 'number' })])).toEqual([]);
    expect(codes([detail('f')])).toEqual(['questions.0.kind kind-of-detail']);
    expect(codes([detail('gone')])).toEqual(['questions.0.keeps thing-gone']);
    for (const d of details)
      expect(
        codes([detail(d, { kind: asking[d].kind, scope: 'attendee', choices: asking[d].choices })]),
      ).toEqual([]);
  });
});
