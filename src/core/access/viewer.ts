import type { Role } from '#core/staff/roles.ts';
import type { Duty } from './duties.ts';

/** Somebody of the staff, as far as what they may see and do depends on them. */
export interface Viewer {
  /** Id of the account. */
  id: string;
  roles: readonly Role[];
  /** What they decide in clearance: "safety", "finance". */
  approves: readonly string[];
  /** The unit they belong to. Where a role is bound to a unit and they have none, the role reaches nothing. */
  unitId: string | null;
  /** What they are at single events, as long as it lasts. */
  duties: readonly Duty[];
}

export const isCoordinator = (viewer: Viewer): boolean => viewer.roles.includes('coordinator');
