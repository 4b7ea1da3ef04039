import { maySee } from '#core/access/stages.ts';
import type { Queries } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { allStaff } from '../staff/store.ts';

/** Who of the team sees the clearance of an event by their role. */
export const whoSees = async (
  tx: Queries,
  event: EventRow,
  now: string,
): Promise<{ id: string; name: string }[]> =>
  (await allStaff(tx))
    .filter((one) => !one.resting && maySee({ ...one, duties: [] }, event, 'clearance', now))
    .map(({ id, name }) => ({ id, name }));
