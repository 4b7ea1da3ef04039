import { afterAll, beforeAll, expect, test } from 'vitest';
import { assignmentStates, onShift } from '#core/crew/states.ts';
import { attendanceStates, came } from '#core/doors/attendance.ts';
import { endOf } from '#core/events/end.ts';
import { livingStates } from '#core/events/states.ts';
import { coming, messageStates, undelivered } from '#core/messages/states.ts';
import { attemptStates, openAttempts } from '#core/money/attempts.ts';
import { occupying, standing } from '#core/registration/states.ts';
import { among } from '#server/db/among.ts';
import { endSql } from '#server/events/end.ts';
import { makeWorld, type World } from './harness.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.close());

test('the end of an event is the same in SQL as in core', async () => {
  const [a, b] = ['2026-08-08T12:00:00.000Z', '2026-08-08T19:30:00.000Z'];
  for (const event of [
    { startsAt: a, endsAt: b },
    { startsAt: a, endsAt: null },
    { startsAt: null, endsAt: null },
  ]) {
    const [row] = await world.app.db.query<{ at: string | null }>(
      `select ${endSql('e')} as at from (select $1::timestamptz as starts_at, $2::timestamptz as ends_at) e`,
      [event.startsAt, event.endsAt],
    );
    expect(row!.at).toBe(endOf(event));
  }
});

test('every list of states that goes into SQL is one the tables know', async () => {
  const known = async (table: string) =>
    (
      await world.app.db.query<{ rule: string }>(
        "select pg_get_constraintdef(oid) as rule from pg_constraint where conrelid = $1::regclass and contype = 'c'",
        [table],
      )
    )
      .map((r) => r.rule)
      .filter((rule) => rule.includes('state'))
      .join(' ');
  for (const [table, lists] of Object.entries({
    registrations: [occupying, standing],
    attendance: [came, attendanceStates],
    assignments: [onShift, assignmentStates],
    events: [livingStates],
    messages: [coming, undelivered, messageStates],
    payment_attempts: [openAttempts, attemptStates],
  })) {
    const rule = await known(table);
    for (const state of lists.flat()) expect(`${table}: ${rule}`).toContain(`'${state}'`);
  }
  expect(among(['held', 'part paid'])).toBe("('held', 'part paid')");
  expect(() => among(["held'; drop table x"])).toThrow('not a state');
});
