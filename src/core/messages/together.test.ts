import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { docOf, plainText } from '#core/text/doc.ts';
import type { Said } from './said.ts';
import { asOne, goTogether, type Joinable, togetherMinutes } from './together.ts';

const at = (minutes: number) => new Date(Date.UTC(2026, 7, 7, 9, minutes)).toISOString();
const message = (minutes: number, part: Partial<Joinable> = {}): Joinable => ({
  contactId: 'mai',
  address: 'mai@fenmail.example',
  language: 'en',
  at: at(minutes),
  line: { moment: 'start', channel: 'email', audience: 'attendees' },
  ...part,
});
const joined = (...messages: Joinable[]) => {
  const carriers = goTogether(messages);
  return messages.map((m) => (carriers.has(m) ? messages.indexOf(carriers.get(m)!) : null));
};

describe('what goes with what', () => {
  test('goes with the first within a quarter of an hour, not with the last of a chain', () => {
    expect(joined(message(0), message(10), message(15), message(16), message(30))).toEqual([
      null,
      0,
      0,
      null,
      3,
    ]);
    // At the same time, the one that stands first.
    expect(joined(message(20), message(0), message(0))).toEqual([null, null, 1]);
  });

  test.each<[string, Partial<Joinable>]>([
    ['somebody else at the same address', { contactId: 'jun' }],
    ['another address', { address: 'mai@elsewhere.example' }],
    ['another language', { language: 'fr' }],
    ['a text message', { line: { moment: 'start', channel: 'text message', audience: 'attendees' } }],
    ['what answers them', { line: { moment: 'registration made', channel: 'email', audience: 'orders' } }],
    ['what is for the crew', { line: { moment: 'shift start', channel: 'email', audience: 'crew' } }],
    ['nobody we know', { contactId: null }],
    ['no address', { address: null }],
  ])('%s stays by itself', (_, part) => {
    expect(joined(message(0), message(5, part))).toEqual([null, null]);
    expect(joined(message(0, part), message(5))).toEqual([null, null]);
  });

  test('an address is the same however it is written', () => {
    expect(joined(message(0), message(5, { address: 'Mai@fenmail.example' }))).toEqual([null, 0]);
  });

  test('whatever the list: carriers carry themselves, none goes more than a quarter of an hour before its time', () => {
    const one = fc.record({
      minutes: fc.nat(200),
      contactId: fc.constantFrom('mai', 'jun', null),
      crew: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 20 }), (parts) => {
        const messages = parts.map(({ minutes, contactId, crew }) =>
          message(minutes, {
            contactId,
            line: { moment: 'start', channel: 'email', audience: crew ? 'crew' : 'attendees' },
          }),
        );
        const carriers = goTogether(messages);
        for (const [from, carrier] of carriers) {
          expect(carriers.has(carrier)).toBe(false);
          const early = Date.parse(from.at) - Date.parse(carrier.at);
          expect(early >= 0 && early <= togetherMinutes * 60_000).toBe(true);
          expect(from.contactId).toBe(carrier.contactId);
        }
      }),
    );
  });
});

describe('several as one', () => {
  const said = (subject: string, ...paragraphs: string[]): Said => ({
    subject,
    preview: '',
    body: paragraphs.join('\n\n'),
    formatted: null,
  });
  const shift = (what: string) =>
    said('Your shift tomorrow', 'Hello Oar,', `You are down for ${what}.`, 'Your shifts: link', 'The Trust');

  test('of one line say once what they say alike', () => {
    expect(asOne(shift('the landing'), [shift('the boat'), shift('the boat')])).toEqual(
      said(
        'Your shift tomorrow',
        'Hello Oar,',
        'You are down for the landing.',
        'You are down for the boat.',
        'Your shifts: link',
        'The Trust',
      ),
    );
  });

  test('of two lines say the second under its subject, before what ends both', () => {
    const other = said('What to bring', 'Hello Oar,', 'A raincoat.', 'A lamp.', 'The Trust');
    expect(asOne(shift('the landing'), [other])).toEqual(
      said(
        'Your shift tomorrow · What to bring',
        'Hello Oar,',
        'You are down for the landing.',
        'Your shifts: link',
        'What to bring',
        'A raincoat.',
        'A lamp.',
        'The Trust',
      ),
    );
    // With nothing alike, one behind the other; a heading of nothing is not there.
    expect(asOne(said('A', 'a'), [said('B', 'b')]).body).toBe('a\n\nB\n\nb');
    expect(asOne(said('A', 'a', 'b'), [said('B', 'b')]).body).toBe('a\n\nb');
    // In another order it is not said once more either.
    expect(asOne(said('A', 'a', 'b', 'c'), [said('A', 'c', 'a', 'd')]).body).toBe('a\n\nb\n\nc\n\nd');
  });

  test('are formatted where one of them is', () => {
    const formatted = { ...shift('the landing'), formatted: docOf(shift('the landing').body) };
    for (const [first, second] of [
      [formatted, shift('the boat')],
      [shift('the landing'), { ...shift('the boat'), formatted: docOf(shift('the boat').body) }],
    ] as const) {
      const one = asOne(first, [second]);
      expect(plainText(one.formatted!)).toBe(one.body);
      expect(one.body).toContain('the landing.\n\nYou are down for the boat.');
    }
    const headed = asOne(formatted, [said('What to bring', 'A lamp.')]);
    expect(headed.formatted!.content).toContainEqual({
      type: 'heading',
      attrs: { level: 3 },
      content: [{ type: 'text', text: 'What to bring' }],
    });
  });

  test('that are too long to name are counted', () => {
    expect(asOne(said('x'.repeat(100), 'a'), [said('y'.repeat(30), 'b'), said('z', 'c')]).subject).toBe(
      `${'x'.repeat(100)} (+2)`,
    );
  });
});
