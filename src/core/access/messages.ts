import { isCoordinator, type Viewer } from './viewer.ts';

/** Which messages somebody sees in the Tray. */
export interface MessageReach {
  everything: boolean;
  /** Those of events of this unit. */
  ofUnit: string | null;
  /** Those to the crew, of all events or of one unit's. */
  ofCrew: boolean;
  crewUnit: string | null;
}

/** A unit lead sees the messages of the unit's events, a crew lead those to volunteers, a coordinator all. */
export const messagesSeen = (viewer: Viewer): MessageReach => ({
  everything: isCoordinator(viewer),
  ofUnit: viewer.roles.includes('unit lead') ? viewer.unitId : null,
  ofCrew: viewer.roles.includes('crew lead'),
  crewUnit: viewer.unitId,
});
