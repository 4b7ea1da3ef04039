import { describe, expect, test } from 'vitest';
import { fieldsOfLetter, letterKinds, neededIn, problemsInLetter, sayLetter } from './letters.ts';
import { fillSaid, saidIn, wrongInSaid } from './said.ts';
import { directTexts } from './texts.ts';

const of = (en: string, fr?: string) => ({ en, ...(fr !== undefined && { fr }) });
const said = (body: string, french?: string) => ({
  subject: of('Hello', french === undefined ? undefined : 'Bonjour'),
  preview: of(''),
  body: of(body, french),
  formatted: { en: null, fr: null },
});

describe('letters that an organization can write its own way', () => {
  test('are those to the people of its events, and not those to the team nor codes', () => {
    for (const kind of ['sign in', 'reset', 'invitation', 'notice', 'to decide', 'question'] as const)
      expect(letterKinds).not.toContain(kind);
    expect(letterKinds).toContain('waitlisted');
    for (const kind of letterKinds) expect(sayLetter(kind)).toMatch(/^[A-Z]/u);
  });

  test('can say what their first text says, and nothing else; their first texts are right', () => {
    expect(fieldsOfLetter('waitlisted')).toEqual(['event', 'name', 'when', 'manage_link', 'organization']);
    const wrong = (text: string) => problemsInLetter(text, 'waitlisted').map((p) => [p.code, p.what]);
    expect(wrong('Hello {{name}}')).toEqual([]);
    expect(wrong('{{survey_link}} {{amount}} {{nonsense}}')).toEqual([
      ['field-elsewhere', 'survey_link'],
      ['field-elsewhere', 'amount'],
      ['not-a-merge-field', 'nonsense'],
    ]);
    for (const kind of letterKinds) {
      const { subject, body } = directTexts[kind];
      for (const text of [subject.en, subject.fr, body.en, body.fr])
        expect(problemsInLetter(text, kind)).toEqual([]);
    }
  });

  test('keep the link without which nobody can do what they are about', () => {
    expect(neededIn('offered')).toEqual(['manage_link']);
    expect(neededIn('you are invited')).toEqual(['invitation_link']);
    expect(neededIn('follow')).toEqual(['follow_link']);
    expect(neededIn('lapsed')).toEqual([]);
  });
});

describe('what is said', () => {
  test('is French where there is French, else English; of a French subject alone, the text is English', () => {
    expect(saidIn(said('Hello', 'Bonjour'), 'fr')).toMatchObject({ subject: 'Bonjour', body: 'Bonjour' });
    expect(saidIn(said('Hello'), 'fr')).toMatchObject({ subject: 'Hello', body: 'Hello' });
    expect(saidIn(said('Hello', ' '), 'fr')).toMatchObject({ subject: 'Bonjour', body: 'Hello' });
    expect(saidIn(said('Hello', 'Bonjour'), 'en').body).toBe('Hello');
  });

  test('has a plain text of its own, or one made from the formatted', () => {
    const doc = {
      type: 'doc' as const,
      content: [{ type: 'paragraph' as const, content: [{ type: 'text' as const, text: 'Hello {{name}}' }] }],
    };
    const both = { subject: '{{name}}', preview: '', body: '', formatted: doc };
    expect(fillSaid(both, { name: 'Jun' }, {})).toMatchObject({ subject: 'Jun', body: 'Hello Jun' });
    expect(fillSaid({ ...both, body: 'By hand, {{name}}' }, { name: 'Jun' }, {}).body).toBe('By hand, Jun');
  });

  test('is wrong where nothing is written, and a text message needs no subject', () => {
    const none = { ...said(' '), subject: of('') };
    const paths = (mail: boolean) => wrongInSaid(none, 'said.', mail, () => []).map((w) => w.path);
    expect(paths(true)).toEqual(['said.subject.en', 'said.body.en']);
    expect(paths(false)).toEqual(['said.body.en']);
  });
});
