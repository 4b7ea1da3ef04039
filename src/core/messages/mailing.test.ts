import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { quietReasons } from '#core/contacts/quiet.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { sayReason } from '#core/words/reasons.ts';
import {
  fieldsOfMailing,
  type MailingRecipient,
  mailingTopics,
  planMailing,
  problemsInMailing,
} from './mailing.ts';

const person = (name: string, more: Partial<MailingRecipient> = {}): MailingRecipient => ({
  contactId: name,
  name,
  email: `${name.toLowerCase()}@fenmail.example`,
  quiet: null,
  said: null,
  ...more,
});
const why = (topic: (typeof mailingTopics)[number], recipients: MailingRecipient[]) => {
  const { planned, leftOut } = planMailing(topic, recipients);
  return [planned.map((p) => p.name), leftOut.map((l) => `${l.recipient.name}: ${sayReason(l.why)}`)];
};

test('a mailing says of an event only what everybody may know, and only where it is about one', () => {
  for (const field of fieldsOfMailing(true)) expect(problemsInMailing(`{{${field}}}`, true)).toEqual([]);
  const without = (text: string) => problemsInMailing(text, false).map((p) => p.code);
  expect(without('{{name}} {{own_link}}')).toEqual([]);
  expect(without('{{event}}')).toEqual(['field-elsewhere']);
  expect(problemsInMailing('{{manage_link}}', true).map((p) => p.code)).toEqual(['field-elsewhere']);
});

describe('a mailing', () => {
  const people = [
    person('Ines', { said: true }),
    person('Keoni', { said: false }),
    person('Thad'),
    person('Amara', { said: true, quiet: 'died' }),
    person('Pascal', { said: true, email: null }),
    person('Una', { said: true, email: 'INES@fenmail.example' }),
  ];
  test('goes to those who said yes where a yes is needed', () =>
    expect(why('newsletter', people)).toEqual([
      ['Ines'],
      [
        'Keoni: said no to the newsletter',
        'Thad: never said yes to the newsletter',
        'Amara: died',
        'Pascal: no email address',
        'Una: one copy to this address is enough; it goes to Ines',
      ],
    ]));
  test('an invitation goes to whoever did not say no', () =>
    expect(why('invitations', people)[0]).toEqual(['Ines', 'Thad']));
  test('a notice needs no consent, but nobody quiet gets one', () =>
    expect(why('notice', people)[0]).toEqual(['Ines', 'Keoni', 'Thad']));

  test('whatever the list: everybody once, nobody quiet, no address twice', () => {
    const recipient = fc.record({
      contactId: fc.uuid(),
      name: fc.constantFrom('A', 'B', 'C'),
      email: fc.option(fc.constantFrom('a@x.example', 'A@X.example', 'b@x.example', 'odd')),
      quiet: fc.option(fc.constantFrom(...quietReasons)),
      said: fc.option(fc.boolean()),
    });
    fc.assert(
      fc.property(fc.constantFrom(...mailingTopics), fc.array(recipient), (topic, list) => {
        const { planned, leftOut } = planMailing(topic, list);
        expect(planned.length + leftOut.length).toBe(list.length);
        expect(planned.every((p) => p.quiet === null)).toBe(true);
        expect(topic === 'notice' || planned.every((p) => p.said !== false)).toBe(true);
        const addresses = planned.map((p) => emailKey(p.email!));
        expect(new Set(addresses).size).toBe(addresses.length);
      }),
    );
  });
});
