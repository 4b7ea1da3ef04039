import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { because, sayReason } from '#core/words/reasons.ts';
import { type Line, lateRules, plainLine } from './lines.ts';
import { type EventMoments, moments, nothingKnown } from './moments.ts';
import { type PlanningRules, planLine, planLines, type Recipient } from './planning.ts';

const event: EventMoments = {
  startsAt: '2026-08-08T12:00:00.000Z',
  endsAt: '2026-08-08T19:30:00.000Z',
  doorsAt: '2026-08-08T11:30:00.000Z',
  registrationClosesAt: '2026-08-06T15:00:00.000Z',
  absencesAt: null,
  zone: 'America/Halifax',
  balanceDays: 7,
  namesDays: 2,
  salesOpenLocal: null,
  admission: { ways: [] },
};
const rules: PlanningRules = { quiet: null, holidays: [] };
const night = { ...rules, quiet: { from: '21:00', until: '08:00' } };

const lineOf = (part: Partial<Line> = {}): Line => ({
  ...plainLine,
  id: 'l',
  name: 'Reminder',
  moment: 'start',
  offset: { days: -1, minutes: 0 },
  audience: 'attendees',
  addedAt: null,
  sentByHandAt: null,
  ...part,
});
const who = (key: string, part: Partial<Recipient> & { email?: string | null } = {}): Recipient => {
  const { email = `${key}@fenmail.example`, ...rest } = part;
  return {
    key,
    contactId: key,
    name: key,
    reach: { email, 'text message': null },
    bounced: false,
    left: false,
    anchor: '2026-07-01T12:00:00.000Z',
    since: '2026-07-01T12:00:00.000Z',
    coveredBy: null,
    forOthers: false,
    quiet: null,
    standing: nothingKnown,
    household: null,
    zone: null,
    ...rest,
  };
};
const goes = (line: Line, to: Recipient, by = rules, of = event) => {
  const { planned, leftOut } = planLine(line, of, [to], by);
  return planned[0]?.at ?? sayReason(leftOut[0]!.why);
};

describe('planning a line', () => {
  test('everybody is either planned or left out with a reason', () => {
    const recipients = [
      who('mai'),
      who('theo', { coveredBy: { key: 'mai', name: 'Mai' } }),
      who('ward', { coveredBy: { key: 'silent', name: 'Silent' } }),
      who('other', { coveredBy: { key: 'twin', name: 'Twin' } }),
      who('late', { since: '2026-08-08T11:00:00.000Z' }),
      who('silent', { email: null }),
      who('gone', { email: null, bounced: true }),
      who('broken', { email: 'not an address' }),
      who('twin', { email: 'MAI@fenmail.example' }),
      who('quiet', { quiet: because('asked') }),
    ];
    const { planned, leftOut } = planLine(lineOf(), event, recipients, rules);
    expect(planned.map((p) => [p.recipient.key, p.at, p.address])).toEqual([
      ['mai', '2026-08-07T12:00:00.000Z', 'mai@fenmail.example'],
    ]);
    expect(Object.fromEntries(leftOut.map((l) => [l.recipient.key, sayReason(l.why)]))).toEqual({
      theo: 'covered by the copy to Mai',
      ward: 'nobody to send to: Silent, who booked, gets none (no email address)',
      other: 'covered by the copy to Twin',
      late: 'registered after the moment had passed',
      silent: 'no email address',
      gone: 'the email address bounced',
      broken: 'no email address',
      twin: 'one copy to this address is enough; it goes to mai',
      quiet: 'asked not to be contacted',
    });
  });

  test('orders and crew get a copy for each, also at one address', () => {
    expect(
      planLine(
        lineOf({ audience: 'crew', moment: 'shift start' }),
        event,
        [who('a', { email: 'x@y.example' }), who('b', { email: 'x@y.example' })],
        rules,
      ).leftOut.map((l) => l.why.code),
    ).toEqual(['signed up after', 'signed up after']);
    const shift = { anchor: '2026-08-08T12:00:00.000Z', email: 'x@y.example' };
    expect(
      planLine(
        lineOf({ audience: 'crew', moment: 'shift start' }),
        event,
        [who('a', shift), who('b', shift)],
        rules,
      ).planned,
    ).toHaveLength(2);
  });

  test('where each is asked for themselves, nobody is covered, and nobody gets one for others', () => {
    const { planned, leftOut } = planLine(
      lineOf({ moment: 'survey', offset: { days: 0, minutes: 120 } }),
      event,
      [
        who('buyer', { forOthers: true }),
        who('mai'),
        who('theo', { email: null, coveredBy: { key: 'mai', name: 'Mai' } }),
      ],
      rules,
    );
    expect(planned.map((p) => p.recipient.key)).toEqual(['mai']);
    expect(leftOut.map((l) => [l.recipient.key, l.why.code])).toEqual([['theo', 'no address']]);
  });

  test('an event without a date plans nothing but confirmations; one without doors nothing for its doors', () => {
    const undated = { ...event, startsAt: null, endsAt: null, doorsAt: null };
    expect(goes(lineOf(), who('mai'), rules, undated)).toBe('the event has no date yet');
    expect(
      goes(
        lineOf({ moment: 'registration made', offset: { days: 0, minutes: 0 } }),
        who('mai'),
        rules,
        undated,
      ),
    ).toBe('2026-07-01T12:00:00.000Z');
    expect(goes(lineOf({ moment: 'doors' }), who('mai'), rules, { ...event, doorsAt: null })).toBe(
      'the event has no such time',
    );
  });

  test('a line that is switched off goes to nobody', () => {
    expect(goes(lineOf({ off: true }), who('mai'))).toBe('this line is switched off');
  });

  test('whoever wants no more of its reminders gets none of them, and all the same what they have to know', () => {
    const left = who('mai', { left: true });
    for (const moment of ['start', 'doors', 'end', 'survey', 'absent'] as const)
      expect(goes(lineOf({ moment }), left)).toBe('wants no more reminders of this');
    expect(goes(lineOf({ moment: 'balance due', audience: 'orders' }), left)).toMatch(/^2026-/u);
    expect(goes(lineOf({ moment: 'waiver missing', audience: 'orders' }), left)).toMatch(/^2026-/u);
    expect(goes(lineOf({ moment: 'start' }), who('mai'))).toMatch(/^2026-/u);
  });

  test('a text message goes to a mobile number, and to nothing else', () => {
    const line = lineOf({ channel: 'text message' });
    expect(goes(line, who('mai'))).toBe('no mobile number');
    expect(
      planLine(line, event, [who('mai', { reach: { email: null, 'text message': '+19025550114' } })], rules)
        .planned[0]!.address,
    ).toBe('+19025550114');
  });

  test('whoever helps on two shifts is reminded of both, and asked how it was once', () => {
    const ada = [1, 2].map((n) => who(`shift ${n}`, { contactId: 'ada', email: 'ada@fenmail.example' }));
    const crew = (moment: 'survey' | 'shift start') =>
      planLine(lineOf({ moment, audience: 'crew', offset: { days: 0, minutes: 60 } }), event, ada, rules);
    expect(crew('survey').planned).toHaveLength(1);
    expect(crew('survey').leftOut.map((l) => l.why.code)).toEqual(['same address']);
    expect(crew('shift start').planned).toHaveLength(2);
  });
});

describe('whoever comes late', () => {
  const late = who('late', { since: '2026-08-08T01:00:00.000Z' });
  test('gets nothing, or gets it at once, by the rule of the line', () => {
    expect(goes(lineOf(), late)).toBe('registered after the moment had passed');
    expect(goes(lineOf({ late: 'now' }), late)).toBe(late.since);
    // Nothing is said of what has begun.
    expect(goes(lineOf({ late: 'now' }), who('x', { since: '2026-08-08T12:00:01.000Z' }))).toBe(
      'it would come too late to be of use',
    );
  });

  test('of several they are late for, gets the last one only', () => {
    const lines = [
      lineOf({ id: 'week', name: 'A week before', offset: { days: -7, minutes: 0 }, late: 'last' }),
      lineOf({ id: 'day', name: 'A day before', late: 'last' }),
      lineOf({ id: 'hour', name: 'An hour before', offset: { days: 0, minutes: -60 }, late: 'last' }),
    ];
    const plans = planLines(
      lines.map((line) => ({ line, recipients: [who('mai'), late] })),
      event,
      rules,
    );
    const said = (id: string) => ({
      goes: plans.get(id)!.planned.map((p) => [p.recipient.key, p.at]),
      not: plans.get(id)!.leftOut.map((l) => [l.recipient.key, sayReason(l.why)]),
    });
    expect(said('week')).toEqual({
      goes: [['mai', '2026-08-01T12:00:00.000Z']],
      not: [['late', '“A day before” says it, and was due as well']],
    });
    expect(said('day').goes).toEqual([
      ['mai', '2026-08-07T12:00:00.000Z'],
      ['late', late.since],
    ]);
    expect(said('hour').goes).toEqual([
      ['mai', '2026-08-08T11:00:00.000Z'],
      ['late', '2026-08-08T11:00:00.000Z'],
    ]);
  });

  test('everybody is late for a line that is added after its time', () => {
    const added = { addedAt: '2026-08-07T18:00:00.000Z' };
    expect(goes(lineOf(added), who('mai'))).toBe('this line was added after its moment had passed');
    expect(goes(lineOf({ ...added, late: 'now' }), who('mai'))).toBe(added.addedAt);
    // A second confirmation is not sent to those who have had theirs.
    const again = lineOf({ ...added, moment: 'registration made', offset: { days: 0, minutes: 0 } });
    expect(goes(again, who('mai'))).toBe('this line was added after its moment had passed');
    expect(
      goes(again, who('new', { since: '2026-08-07T20:00:00.000Z', anchor: '2026-08-07T20:00:00.000Z' })),
    ).toBe('2026-08-07T20:00:00.000Z');
  });
});

describe('sent by hand', () => {
  const byHand = { sentByHandAt: '2026-08-05T02:00:00.000Z' };
  test('goes to everybody who was there by then, also in quiet hours; to others at its time', () => {
    expect(goes(lineOf(byHand), who('mai'), night)).toBe(byHand.sentByHandAt);
    expect(goes(lineOf(byHand), who('new', { since: '2026-08-06T12:00:00.000Z' }), night)).toBe(
      '2026-08-07T12:00:00.000Z',
    );
  });
  test('what had gone by then went at its own time', () => {
    const line = lineOf({ sentByHandAt: '2026-08-07T18:00:00.000Z' });
    expect(goes(line, who('mai'))).toBe('2026-08-07T12:00:00.000Z');
    expect(goes(line, who('late', { since: '2026-08-07T15:00:00.000Z' }))).toBe(line.sentByHandAt);
  });
});

describe('how long it is of use', () => {
  test('what prepares for something is of none once that has begun', () => {
    const { planned } = planLine(lineOf(), event, [who('mai')], rules);
    expect(planned[0]!.until).toBe(event.startsAt);
    const after = lineOf({ offset: { days: 0, minutes: 30 } });
    expect(planLine(after, event, [who('mai')], rules).planned[0]!.until).toBeNull();
  });
  test('a line may say how long', () => {
    const line = lineOf({ moment: 'end', offset: { days: 0, minutes: 60 }, usefulMinutes: 90 });
    const { planned } = planLine(line, event, [who('mai')], rules);
    expect(planned[0]!.until).toBe('2026-08-08T22:00:00.000Z');
    expect(goes({ ...line, late: 'now' }, who('late', { since: '2026-08-08T22:00:01.000Z' }))).toBe(
      'it would come too late to be of use',
    );
  });
  test('quiet hours may push it past its use', () => {
    const early = { ...event, startsAt: '2026-08-08T10:30:00.000Z' };
    const hour = lineOf({ offset: { days: 0, minutes: -60 } });
    expect(goes(hour, who('mai'), night, early)).toBe('the quiet hours push it past its use');
    // Somebody in Paris is awake.
    expect(goes(hour, who('mai', { zone: 'Europe/Paris' }), night, early)).toBe('2026-08-08T09:30:00.000Z');
    // What can wait comes in the morning.
    expect(goes(lineOf({ moment: 'end', offset: { days: 0, minutes: 360 } }), who('mai'), night)).toBe(
      '2026-08-09T11:00:00.000Z',
    );
  });
  test('what somebody did is answered at any hour, but not on a telephone by their bed', () => {
    const at = '2026-07-10T03:00:00.000Z';
    const line = lineOf({ moment: 'registration made', audience: 'orders', offset: { days: 0, minutes: 0 } });
    const mai = who('mai', {
      anchor: at,
      since: at,
      reach: { email: 'mai@fenmail.example', 'text message': '+19025550114' },
    });
    expect(goes(line, mai, night)).toBe(at);
    expect(goes({ ...line, channel: 'text message' }, mai, night)).toBe('2026-07-10T11:00:00.000Z');
  });
});

describe('one copy for a household', () => {
  const once = lineOf({ household: true });
  const family = [
    who('ann', { household: 'lind' }),
    who('bo', { household: 'lind' }),
    who('cy', { household: 'lind', email: null }),
    who('di', { household: 'moss' }),
    who('ed'),
    who('fay'),
  ];
  const said = (line: Line, people: readonly Recipient[]) => {
    const { planned, leftOut } = planLine(line, event, people, rules);
    return [
      planned.map((p) => p.recipient.name),
      leftOut.map((l) => `${l.recipient.name}: ${sayReason(l.why)}`),
    ];
  };

  test('goes to the first of them who is reached; who belongs to none gets their own', () => {
    expect(said(once, family)).toEqual([
      ['ann', 'di', 'ed', 'fay'],
      [
        'bo: one copy is enough for the household; it goes to ann',
        'cy: one copy is enough for the household; it goes to ann',
      ],
    ]);
    expect(said(lineOf(), family)[0]).toEqual(['ann', 'bo', 'di', 'ed', 'fay']);
  });

  test('passes on to the next where the first gets none; where nobody is reached, each is told as they are', () => {
    const [ann, bo, cy] = family as [Recipient, Recipient, Recipient];
    const gone = { ...ann, quiet: because('died') };
    expect(said(once, [gone, bo, cy])).toEqual([
      ['bo'],
      ['ann: died', 'cy: one copy is enough for the household; it goes to bo'],
    ]);
    expect(said(once, [gone, cy])).toEqual([[], ['ann: died', 'cy: no email address']]);
  });
});

test('nobody is both planned and left out, nobody is forgotten, and it is the same every time', () => {
  const instant = fc
    .date({ min: new Date('2026-07-01'), max: new Date('2026-08-20'), noInvalidDate: true })
    .map((d) => d.toISOString());
  const recipient = fc.record({
    email: fc.option(fc.constantFrom('a@x.example', 'b@x.example'), { nil: null }),
    coveredBy: fc.option(fc.constant({ key: '0', name: 'x' }), { nil: null }),
    quiet: fc.option(fc.constant(because('died')), { nil: null }),
    since: instant,
    anchor: fc.option(instant, { nil: null }),
    household: fc.option(fc.constantFrom('lind', 'moss'), { nil: null }),
  });
  const line = fc.record({
    moment: fc.constantFrom(...moments),
    audience: fc.constantFrom('attendees', 'orders', 'crew'),
    late: fc.constantFrom(...lateRules),
    off: fc.boolean(),
    workingDays: fc.boolean(),
    household: fc.boolean(),
    usefulMinutes: fc.option(fc.nat(5000), { nil: null }),
    offset: fc.record({ days: fc.integer({ min: -20, max: 20 }), minutes: fc.constant(0) }),
    addedAt: fc.option(instant, { nil: null }),
    sentByHandAt: fc.option(instant, { nil: null }),
  });
  fc.assert(
    fc.property(fc.array(recipient, { maxLength: 12 }), fc.array(line, { maxLength: 4 }), (parts, lines) => {
      const recipients = parts.map((p, n) => who(String(n), p));
      const of = lines.map((part, n) => ({ line: lineOf({ ...part, id: String(n) } as Line), recipients }));
      const plans = planLines(of, event, night);
      expect(planLines(of, event, night)).toEqual(plans);
      for (const { line: one } of of) {
        const { planned, leftOut } = plans.get(one.id)!;
        expect(new Set([...planned, ...leftOut].map((x) => x.recipient.key)).size).toBe(parts.length);
        expect(planned.length + leftOut.length).toBe(parts.length);
        if (one.audience === 'attendees')
          expect(new Set(planned.map((p) => p.address)).size).toBe(planned.length);
        for (const { at, until } of planned) if (until) expect(at <= until).toBe(true);
        if (one.off) expect(planned).toEqual([]);
        if (one.household) {
          const of = planned.flatMap((p) => p.recipient.household ?? []);
          expect(new Set(of).size).toBe(of.length);
        }
      }
    }),
  );
});
