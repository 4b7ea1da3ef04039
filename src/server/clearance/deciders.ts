import type { Queries } from '../db/database.ts';

interface Decider {
  id: string;
  name: string;
  approves: string[];
}

/** Who can decide steps: approvers who work here, and coordinators who approve for something. */
export const deciders = (tx: Queries): Promise<Decider[]> =>
  tx.query<Decider>(
    `select id, name, approves from staff where not resting and (roles && array['approver', 'coordinator']) order by name`,
  );
