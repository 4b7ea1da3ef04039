import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { docOf, plainText } from '#core/text/doc.ts';
import type { Block, Doc } from '#core/text/types.ts';
import { audienceNames } from './audiences.ts';
import { firstLines, firstTextFor, firstTexts } from './firstTexts.ts';
import {
  fieldsOfLine,
  merge,
  mergeDoc,
  mergeFields,
  problemsAmong,
  problemsInDoc,
  problemsInLine,
} from './merge.ts';
import { momentRule, moments } from './moments.ts';
import { nextTry, spreadOf } from './retry.ts';
import { BrokenText, EmptyField } from './template.ts';
import { directTexts, ownFields } from './texts.ts';

const problemsInText = (text: string) => problemsAmong(text, Object.keys(mergeFields));
const codes = (text: string) => problemsInText(text).map((p) => [p.code, p.what, p.line]);

describe('a text with merge fields', () => {
  test('is filled; one of ours says nothing where a field is empty', () => {
    expect(merge('Hello {{name}}, {{ event }}{{place}}!', { name: 'Mai', event: 'Open Water Day' })).toBe(
      'Hello Mai, Open Water Day!',
    );
  });

  test('that somebody wrote is never filled with a gap: what is empty has something else said for it, or is refused', () => {
    const strict = (text: string, values = {}) => merge(text, values, { strict: true });
    expect(() => strict('Where: {{place}}', { place: '' })).toThrow(new EmptyField('place'));
    expect(strict('Where: {{ place | default: "told later" }}', { place: '' })).toBe('Where: told later');
    expect(strict('{% if place %}Where: {{place}}. {% endif %}Come!')).toBe('Come!');
    expect(strict('{% if place %}Where: {{place}}. {% endif %}Come!', { place: 'Town Hall' })).toBe(
      'Where: Town Hall. Come!',
    );
    expect(
      strict('{% unless owed %}All paid.{% else %}{{owed}} to pay.{% endunless %}', { owed: '$4' }),
    ).toBe('$4 to pay.');
    expect(strict('{{ event | upcase | truncate: 8 }}', { event: 'Open Water Day' })).toBe('OPEN ...');
    expect(() => strict('{{ name')).toThrow(BrokenText);
  });

  test('takes values as they are: what stands in a name is no template, and no link of ours', () => {
    expect(merge('Hello {{name}}', { name: '{{ event }} {% if x %}' })).toBe('Hello {{ event }} {% if x %}');
    expect(merge('Hello {{name}}', { name: '\uE000manage 1\uE001' })).toBe('Hello manage 1');
    expect(merge('\uE000manage 1\uE001', {})).toBe('manage 1');
  });

  test.each([
    ['Hello {{nmae}}', ['not-a-merge-field', 'nmae', 1]],
    ['Hello\n\n{% if owed %}pay', ['text-open', '{% if owed %}', 3]],
    ['Hello {{ name', ['text-open', '{{ name', 1]],
    ['{% for x in (1..9) %}{% endfor %}', ['text-tag', 'for', 1]],
    ['a\n{% include "other" %}', ['text-tag', 'include', 2]],
    ['{% render "itself" %}', ['text-tag', 'render', 1]],
    ['{% assign a = 1 %}', ['text-tag', 'assign', 1]],
    ['{% raw %}x{% endraw %}', ['text-tag', 'raw', 1]],
    ['{{ name | rot13 }}', ['text-filter', 'rot13', 1]],
    ['{{ name | raw }}', ['text-filter', 'raw', 1]],
    ['{{ }}', ['text-broken', '{{ }}', 1]],
  ])('%j is refused while it is written', (text, problem) => {
    expect(codes(text)).toEqual([problem]);
  });

  test('asks for no memory: a range without end fails at once', () => {
    expect(() => merge('{{ (1..1000000000) | default: "" }}', {})).toThrow(BrokenText);
  });

  test('reads nothing of another: fields of fields and of what objects have are none', () => {
    expect(() => merge('{{ name.constructor }}', { name: 'Mai' }, { strict: true })).toThrow(EmptyField);
    expect(codes('{{ constructor }} {{ __proto__ }}').map(([code]) => code)).toEqual([
      'not-a-merge-field',
      'not-a-merge-field',
    ]);
  });

  test('whatever is typed is either refused while it is written, or can be filled in', () => {
    const piece = fc.oneof(
      fc.string(),
      fc.constantFrom(
        '{{',
        '}}',
        '{%',
        '%}',
        '{{name}}',
        '{% if name %}',
        '{% endif %}',
        '{{ name | default: "x" }}',
        '|',
        '"',
      ),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
        const text = pieces.join('');
        if (problemsInText(text).length) return;
        const values = Object.fromEntries(Object.keys(mergeFields).map((f) => [f, 'x']));
        expect(() => merge(text, values, { strict: true })).not.toThrow();
      }),
    );
  });
});

const paragraph = (...texts: string[]): Block => ({
  type: 'paragraph',
  content: texts.map((text) => ({ type: 'text', text })),
});
const doc = (...content: Block[]): Doc => ({ type: 'doc', content });

describe('a formatted text', () => {
  const owing = doc(
    paragraph('Hello {{name}},'),
    paragraph('{% if owed %}'),
    { type: 'bulletList', content: [{ type: 'listItem', content: [paragraph('{{owed}} to pay')] }] },
    paragraph('{% endif %}'),
    paragraph('{{ seats }}'),
  );

  test('is filled across its blocks; what a condition leaves out goes, with the paragraphs that only held it', () => {
    expect(plainText(mergeDoc(owing, { name: 'Mai', owed: '$4', seats: 'Mai\nAri' }, { strict: true }))).toBe(
      'Hello Mai,\n\n– $4 to pay\n\nMai\nAri',
    );
    expect(mergeDoc(owing, { name: 'Mai', owed: '', seats: 'Mai' }, { strict: true })).toEqual(
      doc(paragraph('Hello Mai,'), paragraph('Mai')),
    );
  });

  test('keeps quotes, markup and line ends of a value as text', () => {
    const value = '<b>"A"</b>\\ & "}]}';
    expect(plainText(mergeDoc(doc(paragraph('Hi {{name}}')), { name: value }))).toBe(`Hi ${value}`);
    expect(plainText(mergeDoc(doc(paragraph('{{ name | default: "no <one>" }}')), { name: '' }))).toBe(
      'no <one>',
    );
  });

  test('with a condition that begins in one kind of block and ends in another is refused', () => {
    const across = doc(paragraph('{% if owed %}'), {
      type: 'bulletList',
      content: [{ type: 'listItem', content: [paragraph('{% endif %}')] }],
    });
    expect(problemsInDoc(across, problemsInText).map((p) => p.code)).toEqual(['text-broken']);
    expect(problemsInDoc(owing, problemsInText)).toEqual([]);
    expect(problemsInDoc(doc(paragraph('{{nmae}}')), problemsInText).map((p) => p.what)).toEqual(['nmae']);
  });

  test('that is plain says what the plain text says', () => {
    for (const { body } of Object.values(firstTexts)) {
      const values = Object.fromEntries(Object.keys(mergeFields).map((f) => [f, `<${f}>`]));
      expect(plainText(mergeDoc(docOf(body.en), values, { strict: true }))).toBe(
        merge(body.en, values, { strict: true }),
      );
    }
  });
});

describe('what is there to begin with', () => {
  test('uses no field that its people do not have', () => {
    for (const moment of moments)
      for (const audience of momentRule(moment).audiences) {
        const { subject, body, short } = firstTextFor(moment, audience);
        for (const part of [subject, body, short])
          for (const text of [part.en, part.fr])
            expect([moment, audience, problemsInLine(text, audience)]).toEqual([moment, audience, []]);
      }
    for (const { audience, subject, body } of firstLines)
      for (const part of [subject, body])
        for (const text of [part.en, part.fr]) expect(problemsInLine(text, audience)).toEqual([]);
    for (const [kind, text] of Object.entries(directTexts))
      for (const part of [text.subject, text.body])
        for (const said of [part.en, part.fr])
          expect([
            kind,
            problemsAmong(said, [
              ...Object.keys(mergeFields),
              ...(ownFields[kind as keyof typeof ownFields] ?? []),
            ]),
          ]).toEqual([kind, []]);
  });

  test('every audience has fields of its own people, and no other', () => {
    expect(audienceNames.filter((a) => fieldsOfLine(a).includes('shifts_link'))).toEqual(['crew']);
    expect(audienceNames.filter((a) => !fieldsOfLine(a).includes('manage_link'))).toEqual([
      'guardians',
      'sessions',
      'crew',
      'following',
    ]);
    expect(audienceNames.filter((a) => fieldsOfLine(a).includes('children'))).toEqual(['guardians']);
    expect(problemsInLine('{{shift}}', 'orders').map((p) => p.code)).toEqual(['field-elsewhere']);
  });
});

test('a failed message is tried again, later each time, then given up', () => {
  const now = '2026-07-09T12:00:00.000Z';
  expect([1, 2, 3, 4, 5].map((n) => nextTry(n, now))).toEqual([
    '2026-07-09T12:05:00.000Z',
    '2026-07-09T12:30:00.000Z',
    '2026-07-09T14:00:00.000Z',
    '2026-07-10T00:00:00.000Z',
    null,
  ]);
  // Not all at once: up to a fifth later, by their ids.
  expect(nextTry(4, now, 1)).toBe('2026-07-10T02:24:00.000Z');
  const spreads = Array.from({ length: 1000 }, (_, n) => spreadOf(`message ${n}`));
  expect(spreads.filter((s) => s < 0.5).length).toBeGreaterThan(400);
  expect(Math.min(...spreads)).toBeGreaterThanOrEqual(0);
  expect(Math.max(...spreads)).toBeLessThan(1);
});
