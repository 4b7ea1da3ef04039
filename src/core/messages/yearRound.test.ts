import { describe, expect, test } from 'vitest';
import { firstTextFor } from './firstTexts.ts';
import { offsetLimits, plainLine } from './lines.ts';
import { fieldsOfLine, problemsInLine } from './merge.ts';
import { nothingKnown, yearMoments } from './moments.ts';
import { planLine } from './planning.ts';
import {
  audienceOn,
  madeUpFor,
  momentOn,
  noEvent,
  rememberedDays,
  type YearLine,
  yearKey,
  yearKeyOf,
  yearValues,
} from './yearRound.ts';

const zone = 'America/Halifax';
const member = (id: string, ends: string, since: string) => ({
  key: yearKeyOf({ of: 'membership', id, ends }),
  contactId: id,
  name: id,
  reach: { email: `${id}@fenmail.example`, 'text message': null },
  bounced: false,
  left: false,
  anchor: momentOn(ends, zone),
  since,
  coveredBy: null,
  forOthers: false,
  quiet: null,
  standing: nothingKnown,
  household: null,
  zone,
});
const line: YearLine = {
  ...plainLine,
  id: 'l',
  name: 'l',
  moment: 'membership ends',
  audience: 'members',
  offset: { days: -30, minutes: 0 },
  topic: 'notice',
  addedAt: null,
  sentByHandAt: null,
};

describe('lines of the organization', () => {
  test('hang on what each has, by the clock of the organization, across the change of clocks', () => {
    const since = '2026-01-01T12:00:00.000Z';
    const { planned, leftOut } = planLine(
      line,
      noEvent(zone),
      [
        member('summer', '2026-08-20', since),
        member('autumn', '2026-11-20', since),
        member('late', '2026-08-20', '2026-08-01T12:00:00.000Z'),
      ],
      { quiet: null, holidays: [] },
    );
    expect(planned.map((p) => [p.recipient.name, p.at, p.until])).toEqual([
      ['summer', '2026-07-21T12:00:00.000Z', '2026-08-20T12:00:00.000Z'],
      // Thirty days before, the clocks had not gone back yet: it is nine there too.
      ['autumn', '2026-10-21T12:00:00.000Z', '2026-11-20T13:00:00.000Z'],
    ]);
    expect(leftOut.map((l) => [l.recipient.name, l.why.code])).toEqual([['late', 'joined after']]);
  });

  test('a membership made longer is another that ends; a gift is itself', () => {
    const key = (ends: string) => yearKeyOf({ of: 'membership', id: 'm', ends });
    expect(key('2026-12-31')).not.toBe(key('2027-12-31'));
    expect(yearKeyOf({ of: 'gift', id: 'm' })).not.toBe(key('2026-12-31'));
    const missed = (missedAt: string) => yearKeyOf({ of: 'pledge', id: 'm', missedAt });
    expect(missed('2026-07-15T12:00:00.000Z')).not.toBe(missed('2026-09-15T12:00:00.000Z'));
  });

  test('a certificate that holds longer is told of again; every key there is can be asked for', () => {
    const id = '019f0000-0000-7000-8000-000000000001';
    const certificate = (until: string) =>
      yearKeyOf({ of: 'certificate', skillId: id, contactId: id, until });
    expect(certificate('2026-12-31')).not.toBe(certificate('2027-12-31'));
    for (const key of [
      certificate('2026-12-31'),
      yearKeyOf({ of: 'membership', id, ends: '2026-12-31' }),
      yearKeyOf({ of: 'gift', id }),
      yearKeyOf({ of: 'pledge', id, missedAt: '2026-07-15T12:00:00.000Z' }),
    ])
      expect(key).toMatch(yearKey);
    expect('certificate x').not.toMatch(yearKey);
  });

  test.each(yearMoments)('%s: what it says at first can be said, and has all its values', (moment) => {
    const audience = audienceOn(moment);
    const { subject, body } = firstTextFor(moment, audience);
    for (const text of [subject.en, subject.fr!, body.en, body.fr!])
      expect(problemsInLine(text, audience)).toEqual([]);
    const values = yearValues(madeUpFor(audience, '2026-07-09', 'CAD'), 'en');
    const own = fieldsOfLine(audience).filter((f) => !['name', 'organization', 'own_link'].includes(f));
    expect(Object.keys(values).sort()).toEqual([...own].sort());
  });

  test('every moment has its people, and what lies as far back as an offset reaches is remembered', () => {
    for (const moment of yearMoments)
      expect(['members', 'givers', 'pledgers', 'certified']).toContain(audienceOn(moment));
    expect(rememberedDays).toBeGreaterThan(offsetLimits.days);
  });
});
