import { cleanup, render } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { phrases as en } from './en/index.ts';
import { Phrase } from './Phrase.tsx';
import { type Phrases, phrase, speak, term, termAlone } from './phrase.ts';

const sources = Object.values(
  import.meta.glob<string>(['../**/*.ts', '../**/*.tsx', '!./**', '!../public/**'], {
    query: '?raw',
    import: 'default',
    eager: true,
  }),
).join('\n');
const forms = (text: string | object): string[] => (typeof text === 'string' ? [text] : Object.values(text));

afterEach(() => {
  cleanup();
  speak('en', en);
});

test('numbers come with their noun in the form of the number', () => {
  expect(phrase('desk.inDays', { days: 1 })).toBe('in 1 day');
  expect(phrase('desk.inDays', { days: 2 })).toBe('in 2 days');
  expect(phrase('desk.thingsNeedSomebody', { count: 1 })).toBe('One thing needs somebody.');
  expect(phrase('contacts.nContacts', { n: 12408 })).toBe('12,408 contacts');
});

test('parts of the page stand within a phrase', () => {
  const { container } = render(<Phrase of="shell.itStandsAt" with={{ now: <b>noon</b>, dueText: 'So.' }} />);
  expect(container.innerHTML).toBe('It stands at <b>noon</b>. So.');
});

test('what is filled in is not looked through for more', () => {
  expect(phrase('contacts.theViewWasDeleted', { name: '{{name}}' })).toBe('The view “{{name}}” was deleted.');
});

test('a term is one of ours, or stays what it is', () => {
  expect(term('waived')).toBe('let off');
  expect(term('Boat Fund')).toBe('Boat Fund');
  expect(termAlone('called off')).toBe('Called off');
});

test('another language says everything, with its own plural forms', () => {
  const desk = { ...en.desk, inDays: 'dans {{days:jour|jours}}' };
  speak('fr', { ...en, desk, terms: { ...en.terms, open: 'ouvert' } } satisfies Phrases);
  expect(phrase('desk.inDays', { days: 0 })).toBe('dans 0 jour');
  expect(phrase('desk.inDays', { days: 2 })).toBe('dans 2 jours');
  expect(term('open')).toBe('ouvert');
});

test('every phrase is said somewhere', () => {
  const unsaid = Object.entries(en)
    .filter(([place]) => place !== 'terms')
    .flatMap(([place, texts]) => Object.keys(texts).map((name) => `${place}.${name}`))
    .filter((key) => !sources.includes(`'${key}'`) && !sources.includes(`"${key}"`));
  expect(unsaid).toEqual([]);
});

test('a phrase is whole: no piece of a sentence that code puts together', () => {
  const pieces = Object.entries(en).flatMap(([place, texts]) =>
    Object.entries(texts)
      .filter(([, text]) => forms(text).some((t) => t !== t.trim() || /^[,.;:·]|[,·]$/u.test(t)))
      .map(([name]) => `${place}.${name}`),
  );
  expect(pieces).toEqual([]);
});
