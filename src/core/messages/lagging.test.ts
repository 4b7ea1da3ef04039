import { expect, test } from 'vitest';
import { docOf } from '#core/text/doc.ts';
import { englishOf, frenchLags, frenchOfNow } from './lagging.ts';

const said = (en: string, fr: string) => ({
  subject: { en: 'Soon', fr: 'Bientôt' },
  preview: { en: '' },
  body: { en, fr },
  formatted: { en: null, fr: null },
});

test('French lags once the English says something else, until it is written anew or said to fit', () => {
  const first = { ...said('Bring boots', 'Apportez des bottes'), frenchOf: '' };
  // Of a line from before, nobody knows.
  expect(frenchLags(first)).toBe(false);
  const changed = said('Bring boots and a hat', 'Apportez des bottes');
  const lagging = { ...changed, frenchOf: frenchOfNow(first, changed) };
  expect(frenchLags(lagging)).toBe(true);
  // Formatted, it says the same.
  const docs = { en: docOf('Bring boots and a hat'), fr: docOf('Apportez des bottes') };
  const formatted = { ...changed, body: { en: '', fr: '' }, formatted: docs };
  expect(frenchOfNow(first, formatted)).toBe(lagging.frenchOf);
  expect(englishOf(formatted)).toBe(englishOf(changed));
  // Opened and kept, it still does.
  expect(frenchOfNow(lagging, changed)).toBe(lagging.frenchOf);
  expect(frenchLags({ ...changed, frenchOf: frenchOfNow(lagging, changed, true) })).toBe(false);
  const caughtUp = said('Bring boots and a hat', 'Apportez des bottes et un chapeau');
  expect(frenchLags({ ...caughtUp, frenchOf: frenchOfNow(lagging, caughtUp) })).toBe(false);
  // Back to what it said, the French is right again.
  expect(frenchLags({ ...said('Bring boots', 'Apportez des bottes'), frenchOf: lagging.frenchOf })).toBe(
    false,
  );
  // Without French there is nothing to lag.
  expect(frenchOfNow(lagging, said('Bring boots', ''))).toBe('');
  expect(frenchOfNow(null, caughtUp)).toBe(englishOf(caughtUp));
});
