import { describe, expect, test } from 'vitest';
import { noTexts } from '#core/contacts/attributes.ts';
import { type Candidate, prepare } from '#core/contacts/comparing.ts';
import { usualThresholds } from '#core/contacts/match.ts';
import { firstModel } from '#core/contacts/weights.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { contactOf, makeChecker } from './checking.ts';
import { type CurrentContact, changesOf, type ImportChoices, usualChoices } from './importing.ts';
import type { Mapping } from './mapping.ts';
import { readRow } from './reading.ts';
import type { PersonRow } from './rows.ts';

const mapping: Mapping = {
  columns: ['whole name', 'email', 'phone', 'birth date', 'street', 'newsletter', 'tags'],
  dateOrders: [null, null, null, 'day first', null, null, null],
};
const row = (...cells: string[]): PersonRow => {
  const read = readRow(cells, mapping, 'CA', '2026-07-09');
  if (!('person' in read)) throw new Error(sayReason(read.rejected));
  return read.person;
};
const mai: CurrentContact = {
  id: 'mai',
  given: 'Mai',
  family: 'Wren',
  emails: ['mai@fenmail.example'],
  phones: [],
  birthDate: null,
  street: '2 Causeway Rd',
  postalCode: null,
  movedOn: null,
  language: 'en',
  ...noTexts,
  tags: ['canoe leader'],
  notes: [],
  newsletter: false,
  doNotContact: false,
  memberships: [],
  organizations: [],
  deceasedOn: null,
  fields: [],
  emergencies: [],
  wards: [],
};
const theirs = row(
  'Mai Wren',
  'mai.wren@postbox.example',
  '902 555 0111',
  '3/5/1980',
  '9 Harbour St',
  'yes',
  'first aid, canoe leader',
);
const applied = (choices: ImportChoices = usualChoices) =>
  Object.fromEntries(changesOf(theirs, mai, choices).map((c) => [`${c.field}: ${c.after}`, c.applied]));

describe('what an import changes of somebody who is known', () => {
  test('blanks are filled, what can stand beside is added, nothing that is there is overwritten', () => {
    expect(applied()).toEqual({
      'email: mai.wren@postbox.example': true,
      'phone: +19025550111': true,
      'birth date: 1980-05-03': true,
      'address: 9 Harbour St': false,
      'tags: first aid': true,
      'newsletter: yes': false,
    });
  });
  test('the choices by field decide', () => {
    expect(
      applied({
        policies: { address: 'take theirs', email: 'keep ours', tags: 'fill blanks' },
        widenConsent: false,
      }),
    ).toMatchObject({
      'address: 9 Harbour St': true,
      'email: mai.wren@postbox.example': false,
      'tags: first aid': false,
    });
  });
  test('consent never gets wider unless somebody says so; a no always counts', () => {
    expect(applied()['newsletter: yes']).toBe(false);
    expect(applied({ policies: {}, widenConsent: true })['newsletter: yes']).toBe(true);
    const never = changesOf(
      row('Mai Wren', '', '', '', '', 'unsubscribed', ''),
      { ...mai, newsletter: true },
      usualChoices,
    );
    expect(never).toEqual([{ field: 'newsletter', before: 'yes', after: 'no', applied: true, why: null }]);
  });
  test('the same again changes nothing', () => {
    const same = row('Mai Wren', 'MAI@fenmail.example', '', '', '2 causeway rd.', 'no', 'canoe leader');
    expect(changesOf(same, mai, usualChoices)).toEqual([]);
  });
});

describe('somebody who moved away', () => {
  const moved: CurrentContact = { ...mai, postalCode: 'B2X 1A1', movedOn: '2026-01-01' };
  const at = (street: string, postal = '') => {
    const read = readRow(
      ['Mai Wren', street, postal],
      { columns: ['whole name', 'street', 'postal code'], dateOrders: [null, null, null] },
      'CA',
      '2026-07-09',
    );
    if (!('person' in read)) throw new Error(sayReason(read.rejected));
    return changesOf(read.person, moved, usualChoices).map((c) => [c.field, c.after, c.applied]);
  };
  test('does not get the old address back from a list that does not know', () => {
    expect(at('2 Causeway Road')).toEqual([['address', '2 Causeway Road', true]]);
    expect(at('2 causeway rd.')).toEqual([]);
    expect(at('2 Causeway Rd', 'B2X 1A1')).toEqual([]);
    expect(at('', 'b2x1a1')).toEqual([]);
  });
  test('gets a new one as where there was none, without a part of the old', () => {
    expect(at('9 Harbour St')).toEqual([['address', '9 Harbour St', true]]);
    expect(at('9 Harbour St', 'B9Z 9Z9')).toEqual([['address', '9 Harbour St, B9Z 9Z9', true]]);
  });
});

describe('memberships, organizations and deaths in a file', () => {
  const more: Mapping = {
    columns: ['whole name', 'member level', 'member until', 'organization', 'died on', 'kind'],
    dateOrders: [null, null, 'day first', null, 'day first', null],
  };
  const read = (...cells: string[]) => {
    const result = readRow(cells, more, 'CA', '2026-07-09');
    if (!('person' in result)) throw new Error(sayReason(result.rejected));
    return result;
  };
  const ours: CurrentContact = {
    ...mai,
    memberships: [{ number: null, since: null, level: 'Life', until: '2026-12-31' }],
    organizations: ['Ansley College'],
  };
  const fields = (cells: string[], choices = usualChoices) =>
    changesOf(read(...cells).person, ours, choices).map((c) => [c.field, c.before, c.after, c.applied]);

  test('the same membership with another end is a renewal, not a second membership', () => {
    expect(fields(['Mai Wren', 'Life', '31/12/2027', '', '', ''])).toEqual([
      ['member until', '2026-12-31', '2027-12-31', false],
    ]);
    expect(
      fields(['Mai Wren', 'Life', '31/12/2027', '', '', ''], {
        policies: { 'member until': 'take theirs' },
        widenConsent: false,
      }),
    ).toEqual([['member until', '2026-12-31', '2027-12-31', true]]);
    expect(fields(['Mai Wren', 'Student', '', '', '', ''])).toEqual([
      ['membership', 'Life', 'Student', true],
    ]);
  });
  test('an organization written a little differently is the one there is', () => {
    expect(fields(['Mai Wren', '', '', 'ANSLEY  college', '', ''])).toEqual([]);
    expect(fields(['Mai Wren', '', '', 'Causeway Veterinary', '', ''])).toEqual([
      ['organization', 'Ansley College', 'Causeway Veterinary', true],
    ]);
  });
  test('a death fills a blank; one in the future is none', () => {
    expect(fields(['Mai Wren', '', '', '', '03/02/2026', ''])).toEqual([
      ['died on', null, '2026-02-03', true],
    ]);
    const future = read('Mai Wren', '', '', '', '01/01/2027', '');
    expect(future.person.deceasedOn).toBeNull();
    expect(future.remarks.map(sayReason)).toEqual(['Died on 1 Jan 2027 is in the future; left out']);
  });
  test('an organization has one name, however it is written', () => {
    expect(read('Town of Port Ansley', '', '', '', '', 'Organization').person).toMatchObject({
      kind: 'organization',
      given: '',
      family: 'Town of Port Ansley',
    });
    expect(read('Mai Wren', '', '', '', '', 'Person').person).toMatchObject({ kind: 'person', given: 'Mai' });
  });
  test('a row brought in before takes nothing again, unless it was asked for by name', () => {
    const say = (choices: ImportChoices) => {
      const checker = makeChecker({
        mapping: more,
        country: 'CA',
        today: '2026-07-09',
        model: firstModel,
        thresholds: usualThresholds,
        choices,
        overrides: {},
      });
      const ready = checker.read({
        line: 2,
        cells: ['Mai Wren', 'Student', '', 'Causeway Veterinary', '', ''],
      });
      const verdict = checker.verdict(ready, checker.identify(ready, []), ours, true);
      return [verdict.verdict, verdict.changes.filter((c) => c.applied).map((c) => c.field)];
    };
    expect(say(usualChoices)).toEqual(['same', []]);
    expect(say({ policies: { membership: 'take theirs' }, widenConsent: false })).toEqual([
      'changes',
      ['membership'],
    ]);
  });
});

describe('the dry run', () => {
  const options = {
    mapping,
    country: 'CA',
    today: '2026-07-09',
    model: firstModel,
    thresholds: usualThresholds,
    choices: usualChoices,
    overrides: {},
  };
  const known: Candidate = { ...mai, id: 'mai' };
  const run = (rows: string[][], overrides: (typeof options)['overrides'] & Record<string, object> = {}) => {
    const checker = makeChecker({ ...options, overrides });
    return rows.map((cells, at) => {
      const ready = checker.read({ line: at + 2, cells });
      const who = checker.identify(ready, [prepare(known)]);
      const contact = contactOf(at + 2, who, overrides);
      return checker.verdict(ready, who, contact ? { ...mai, id: contact } : null);
    });
  };
  test('says of every row what becomes of it, and why', () => {
    const rows = run([
      ['Mai Wren', 'mai@fenmail.example', '', '', '', '', ''],
      ['Mai Wren', 'mai@fenmail.example', '902 555 0111', '', '', '', ''],
      ['Mai Wren', '', '', '', '', '', ''],
      ['Jun Wren', 'mai@fenmail.example', '', '', '', '', ''],
      ['Zeno Quill', 'zeno@fenmail.example', '', '', '', '', ''],
      ['ZENO Quill', 'zeno@fenmail.example', '', '', '', '', ''],
      ['', 'nobody@fenmail.example', '', '', '', '', ''],
    ]);
    expect(rows.map((r) => [r.verdict, r.contactId, r.sameAsLine, r.householdOf])).toEqual([
      ['same', 'mai', null, null],
      ['changes', 'mai', null, null],
      ['look', 'mai', null, null],
      ['new', null, null, 'mai'],
      ['new', null, null, null],
      ['same', null, 6, null],
      ['rejected', null, null, null],
    ]);
    expect(rows[1]!.changes).toEqual([
      { field: 'phone', before: null, after: '+19025550111', applied: true, why: null },
    ]);
    expect(rows[6]!.reasons.map(sayReason)).toEqual([
      'There is no name in this row, and nobody has this email.',
    ]);
  });
  test('cells put right, rows left out and decisions count', () => {
    const rows = run(
      [
        ['', 'zeno@fenmail.example', '', '', '', '', ''],
        ['Mai Wren', '', '', '', '', '', ''],
        ['Mai Wren', '', '', '', '', '', ''],
        ['Una Cole', '', '', '', '', '', ''],
      ],
      {
        2: { cells: { 0: 'Zeno Quill' } },
        3: { decision: 'new' },
        4: { decision: 'mai' },
        5: { excluded: true },
      },
    );
    expect(rows.map((r) => [r.verdict, r.contactId])).toEqual([
      ['new', null],
      ['new', null],
      ['same', 'mai'],
      ['rejected', null],
    ]);
    expect(rows[0]!.person!.given).toBe('Zeno');
    expect(rows[3]!.reasons).toEqual([because('left out by hand')]);
  });
});
