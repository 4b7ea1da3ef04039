import { first, type Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

export interface FullCondition {
  id: string;
  eventId: string;
  stepId: string;
  step: string;
  approves: string | null;
  approverId: string | null;
  what: string;
  ownerId: string | null;
  owner: string | null;
  dueOn: string | null;
  blocks: boolean;
  metAt: string | null;
  metBy: string | null;
  metWords: string;
}

const columns = `k.id, k.event_id, k.step_id, s.step, s.approves, s.approver_id, k.what, k.owner_id, o.name as owner, k.due_on, k.blocks, k.met_at, m.name as met_by,
  k.met_words`;
const from = `clearance_conditions k join clearance_steps s on s.id = k.step_id left join staff o on o.id = k.owner_id
  left join staff m on m.id = k.met_by`;

/** The conditions of the steps an event needs, in the order they were set. */
export const readConditions = (tx: Queries, eventId: string): Promise<FullCondition[]> =>
  tx.query<FullCondition>(
    `select ${columns} from ${from} where k.event_id = $1 and s.state <> 'not needed' order by k.created_at, k.id`,
    [eventId],
  );

/** One of them, held until the transaction is over; throws 404. */
export async function theCondition(tx: Queries, id: string): Promise<FullCondition> {
  const row = await first<FullCondition>(
    tx,
    `select ${columns} from ${from} where k.id = $1 for update of k`,
    [id],
  );
  if (!row) throw notFound('This condition');
  return row;
}
