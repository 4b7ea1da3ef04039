import type { SignedIn } from '../http/app.ts';
import { Problem } from '../http/problem.ts';
import type { EventRow } from './store.ts';

/** A unit lead changes the events of their own unit only. */
export function mayChange(event: Pick<EventRow, 'unitId'>, staff: SignedIn): void {
  if (staff.roles.includes('coordinator')) return;
  if (staff.unitId && event.unitId && event.unitId !== staff.unitId)
    throw new Problem(403, 'other-unit', 'This event belongs to another unit.');
}
