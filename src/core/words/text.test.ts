import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { oneLine, textProblems } from './text.ts';

const paths = (value: unknown) => textProblems(value).map((p) => p.path);

describe('text from outside', () => {
  test('a field of one line takes no line end, tab or control', () => {
    for (const bad of ['a\nb', 'a\rb', 'a\tb', 'a\u0000b', 'a\u001bb', 'a\u007fb', 'a\u0085b', 'a\u2028b'])
      expect(paths({ given: bad }), JSON.stringify(bad)).toEqual(['given']);
    expect(paths({ given: 'Théo O’Neil-Nguyễn 😀' })).toEqual([]);
  });

  test('where people write several lines, line ends and tabs are theirs; controls are not', () => {
    expect(paths({ description: 'one\r\ntwo\n\tthree' })).toEqual([]);
    expect(paths({ change: { questions: [{ words: 'one\ntwo' }] } })).toEqual([]);
    expect(paths({ answers: { q1: 'one\ntwo', q2: 'a\u0000' } })).toEqual(['answers.q2']);
    expect(paths({ body: { en: 'one\ntwo' }, subject: { en: 'one\ntwo' } })).toEqual(['subject.en']);
  });

  test('half a character is refused everywhere, a whole one nowhere', () => {
    expect(paths({ given: 'a\ud800' })).toEqual(['given']);
    expect(paths({ description: '\udc00b' })).toEqual(['description']);
    expect(paths({ description: '\ud83d\ude00' })).toEqual([]);
  });

  test('it says where, also in lists and in names of fields', () => {
    expect(paths({ attendees: [{ given: 'x' }, { given: 'y\n' }] })).toEqual(['attendees.1.given']);
    expect(paths({ 'a\u0000b': 1 })).toEqual(['']);
    expect(textProblems(Array.from({ length: 100 }, () => '\u0000'))).toHaveLength(20);
  });

  test('as one line there is no line end left, whatever came', () => {
    expect(oneLine('Lantern\r\nBCC: all@elsewhere.example')).toBe('Lantern BCC: all@elsewhere.example');
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(oneLine(text)).not.toMatch(/[\p{Cc}\u2028\u2029]/u);
      }),
    );
  });
});
