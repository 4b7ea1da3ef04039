import fc from 'fast-check';
import { expect, test } from 'vitest';
import { problemsWithAnswers, resultsOf, type SurveyAnswers, type SurveyQuestion } from './results.ts';

test('survey results count every point and reconcile with what was answered', () => {
  const questions: SurveyQuestion[] = [
    { id: 'liked', kind: 'scale', prompt: '', choices: [], required: true },
    { id: 'again', kind: 'one of', prompt: '', choices: ['yes', 'no'], required: false },
  ];
  const [liked, again] = resultsOf(questions, [
    { liked: 5, again: 'yes' },
    { liked: 3 },
    { liked: 4, again: 'no' },
  ]);
  expect(liked).toMatchObject({
    answered: 3,
    mean: 4,
    counts: [{ count: 0 }, { count: 0 }, { count: 1 }, { count: 1 }, { count: 1 }],
  });
  expect(again).toMatchObject({ answered: 2, mean: null });
  expect(problemsWithAnswers(questions, { liked: 6, other: 'x' }).map((p) => p.path)).toEqual([
    'answers.liked',
    'answers.other',
  ]);
  expect(problemsWithAnswers(questions, {}).map((p) => p.path)).toEqual(['answers.liked']);
});

test('whatever was answered, nothing is counted twice and nothing is lost', () => {
  const questions: SurveyQuestion[] = [
    { id: 'liked', kind: 'scale', prompt: '', choices: [], required: false },
    { id: 'again', kind: 'one of', prompt: '', choices: ['yes', 'no', 'perhaps'], required: false },
    { id: 'words', kind: 'text', prompt: '', choices: [], required: false },
  ];
  const answers: fc.Arbitrary<SurveyAnswers> = fc.record(
    {
      liked: fc.integer({ min: 1, max: 5 }),
      again: fc.constantFrom('yes', 'no', 'perhaps'),
      words: fc.string({ maxLength: 20 }),
    },
    { requiredKeys: [] },
  );
  fc.assert(
    fc.property(fc.array(answers, { maxLength: 30 }), (responses) => {
      for (const r of responses) expect(problemsWithAnswers(questions, r)).toEqual([]);
      const [liked, again, words] = resultsOf(questions, responses);
      for (const result of [liked!, again!])
        expect(result.counts.reduce((n, c) => n + c.count, 0)).toBe(result.answered);
      expect(words!.texts).toHaveLength(words!.answered);
      expect(words!.answered).toBe(responses.filter((r) => r.words).length);
      const points = responses.flatMap((r) => (r.liked === undefined ? [] : [Number(r.liked)]));
      if (!points.length) expect(liked!.mean).toBeNull();
      else
        expect(liked!.mean! * points.length).toBeCloseTo(
          points.reduce((a, b) => a + b, 0),
          9,
        );
    }),
  );
});

test('answers that are none are said by question', () => {
  const questions: SurveyQuestion[] = [
    { id: 'liked', kind: 'scale', prompt: '', choices: [], required: false },
    { id: 'again', kind: 'one of', prompt: '', choices: ['yes'], required: false },
    { id: 'words', kind: 'text', prompt: '', choices: [], required: true },
  ];
  const wrong = { liked: 2.5, again: 'maybe', words: 'x'.repeat(4001) };
  expect(problemsWithAnswers(questions, wrong).map((p) => p.code)).toEqual([
    'answer-on-the-scale',
    'answer-one',
    'too-long',
  ]);
  expect(problemsWithAnswers(questions, { words: '' })[0]!.code).toBe('answer-needed');
});
