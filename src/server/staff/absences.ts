import type { staffContract } from '#contract/staff.ts';
import { overlap } from '#core/staff/absence.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid } from '../http/problem.ts';

interface AbsenceRow {
  from: string;
  until: string;
  deputyId: string | null;
}

const absenceOf = (tx: Queries, staffId: string): Promise<AbsenceRow | null> =>
  first<AbsenceRow>(
    tx,
    'select from_on as "from", until_on as until, deputy_id from staff_absences where staff_id = $1',
    [staffId],
  );

/** Who could stand in for somebody: others who approve, and coordinators. */
const deputiesFor = (tx: Queries, staffId: string): Promise<{ id: string; name: string }[]> =>
  tx.query<{ id: string; name: string }>(
    `select id, name from staff where id <> $1 and not resting and roles && array['approver', 'coordinator'] order by name`,
    [staffId],
  );

export const absenceHandlers: Pick<
  Handlers<typeof staffContract>,
  'GET /api/account/absence' | 'PUT /api/account/absence'
> = {
  'GET /api/account/absence': async ({ tx, staff }) => ({
    absence: await absenceOf(tx, staff.id),
    deputies: await deputiesFor(tx, staff.id),
  }),

  'PUT /api/account/absence': async (c) => {
    const { absence } = c.body;
    if (absence?.deputyId) {
      if (!(await deputiesFor(c.tx, c.staff.id)).some((d) => d.id === absence.deputyId))
        throw invalid([{ path: 'absence.deputyId', code: 'no-deputy' }]);
      const theirs = await absenceOf(c.tx, absence.deputyId);
      if (theirs && overlap(theirs, absence))
        throw invalid([{ path: 'absence.deputyId', code: 'deputy-away' }]);
    }
    await c.tx.query('delete from staff_absences where staff_id = $1', [c.staff.id]);
    if (absence)
      await insert(c.tx, 'staff_absences', {
        staffId: c.staff.id,
        fromOn: absence.from,
        untilOn: absence.until,
        deputyId: absence.deputyId,
        setAt: c.now,
      });
    await record(c, 'account changed', {
      staffId: c.staff.id,
      how: absence ? 'said when they are away' : 'said that they are there',
    });
    return { done: true };
  },
};
