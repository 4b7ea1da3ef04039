import { endOf } from '#core/events/end.ts';
import { type Stage, stages } from '#core/events/states.ts';
import type { Role } from '#core/staff/roles.ts';
import type { Instant } from '#core/time/clock.ts';
import { type Duty, roleOf } from './duties.ts';
import { isCoordinator, type Viewer } from './viewer.ts';

/** What of an event decides who may see it. */
export interface EventReach {
  id: string;
  unitId: string | null;
  startsAt: Instant | null;
  endsAt: Instant | null;
  doorsAt?: Instant | null;
  /** Units it belongs to beside its own. */
  partnerIds: readonly string[];
}

export type Depth = 'see' | 'change';

/**
 * Which events a role reaches. `own unit`: those of the viewer's unit, none without one. `unit if any`: all, or those of
 * the viewer's unit when they have one. `at the door`: the same, only around the time of the event.
 */
type Bound = 'own unit' | 'unit if any' | 'at the door';

/** What each role may do in each stage of the events it reaches. Coordinators may do everything everywhere. */
const table: Record<Exclude<Role, 'coordinator'>, { bound: Bound; stages: Partial<Record<Stage, Depth>> }> = {
  'unit lead': {
    bound: 'own unit',
    stages: {
      plan: 'change',
      clearance: 'change',
      registration: 'change',
      crew: 'change',
      messages: 'change',
      doors: 'change',
      'wrap-up': 'change',
    },
  },
  approver: { bound: 'unit if any', stages: { plan: 'see', clearance: 'see' } },
  treasurer: { bound: 'unit if any', stages: { plan: 'see', registration: 'see', 'wrap-up': 'see' } },
  'crew lead': { bound: 'unit if any', stages: { plan: 'see', crew: 'change', doors: 'change' } },
  door: { bound: 'at the door', stages: { doors: 'change' } },
};

/** Hours around an event in which the door team has its list: names are not taken along before or kept after. */
const doorHours = { before: 48, after: 24 } as const;

const hours = (n: number): number => n * 3_600_000;

function reaches(bound: Bound, viewer: Viewer, event: EventReach, now: Instant): boolean {
  if (bound === 'own unit') return viewer.unitId !== null && viewer.unitId === event.unitId;
  if (viewer.unitId !== null && viewer.unitId !== event.unitId) return false;
  return bound === 'unit if any' || aroundDoors(event, now);
}

/** True around the time of an event, when who is at the door has its list. */
function aroundDoors(event: EventReach, now: Instant): boolean {
  const from = event.doorsAt ?? event.startsAt;
  const until = endOf(event);
  if (!from || !until) return false;
  const at = Date.parse(now);
  return Date.parse(from) - hours(doorHours.before) <= at && at <= Date.parse(until) + hours(doorHours.after);
}

/** What somebody may see or change of an event, stage by stage; stages they may not see are not there. */
export function stagesOf(viewer: Viewer, event: EventReach, now: Instant): ReadonlyMap<Stage, Depth> {
  if (isCoordinator(viewer)) return new Map(stages.map((s) => [s, 'change' as const]));
  const found = new Map<Stage, Depth>();
  const add = (of: Partial<Record<Stage, Depth>>) => {
    for (const [stage, depth] of Object.entries(of) as [Stage, Depth][])
      if (found.get(stage) !== 'change') found.set(stage, depth);
  };
  for (const role of viewer.roles)
    if (role !== 'coordinator' && reaches(table[role].bound, viewer, event, now)) add(table[role].stages);
  if (isPartner(viewer, event)) add(ofPartners);
  for (const { stage } of dutiesAt(viewer, event, now))
    add(stage ? { [stage]: 'change' } : table['unit lead'].stages);
  return new Map(stages.flatMap((stage) => (found.has(stage) ? [[stage, found.get(stage)!] as const] : [])));
}

/** What the lead of a partner unit sees of an event. */
const ofPartners: Partial<Record<Stage, Depth>> = { plan: 'see', 'wrap-up': 'see' };
const isPartner = (viewer: Viewer, event: EventReach): boolean =>
  viewer.unitId !== null && viewer.roles.includes('unit lead') && event.partnerIds.includes(viewer.unitId);

const dutiesAt = (viewer: Viewer, event: EventReach, now: Instant): Duty[] =>
  viewer.duties.filter((d) => d.eventId === event.id && (d.stage !== 'doors' || aroundDoors(event, now)));

/** True when somebody may change every stage of an event: whoever may, decides who else works on it and what becomes of it. */
export const leads = (viewer: Viewer, event: EventReach, now: Instant): boolean => {
  const may = stagesOf(viewer, event, now);
  return stages.every((stage) => may.get(stage) === 'change');
};

export const maySee = (viewer: Viewer, event: EventReach, stage: Stage, now: Instant): boolean =>
  stagesOf(viewer, event, now).has(stage);

export const mayChange = (viewer: Viewer, event: EventReach, stage: Stage, now: Instant): boolean =>
  stagesOf(viewer, event, now).get(stage) === 'change';

/** True when somebody has a role that reaches an event. */
export const actsAs = (
  viewer: Viewer,
  role: Exclude<Role, 'coordinator'>,
  event: EventReach,
  now: Instant,
): boolean =>
  isCoordinator(viewer) ||
  (viewer.roles.includes(role) && reaches(table[role].bound, viewer, event, now)) ||
  dutiesAt(viewer, event, now).some(
    (d) => roleOf(d) === role && (d.part !== 'helper' || d.stage === 'crew' || d.stage === 'doors'),
  );

/** Facts within the stages that not everybody sees who sees the stage. */
export const eventFacts = ['money', 'answers', 'health', 'linking', 'texts', 'signature'] as const;
export type EventFact = (typeof eventFacts)[number];

/**
 * Who sees them. `money`: what was paid and given by whom. `answers`: what registrants answered. `health`: answers and
 * needs that the door has to know; every reading is written down. `linking`: why a seat is linked to a contact.
 * `texts`: questions, messages and survey as written. `signature`: the text as signed.
 */
const factRoles: Record<EventFact, readonly Exclude<Role, 'coordinator'>[]> = {
  money: ['unit lead', 'treasurer'],
  answers: ['unit lead'],
  health: ['unit lead', 'door'],
  linking: ['unit lead'],
  texts: ['unit lead', 'approver'],
  signature: ['unit lead', 'door'],
};

/** The facts of an event that somebody sees. */
export function factsOf(viewer: Viewer, event: EventReach, now: Instant): ReadonlySet<EventFact> {
  if (isCoordinator(viewer)) return new Set(eventFacts);
  const roles = viewer.roles.filter(
    (r): r is Exclude<Role, 'coordinator'> =>
      r !== 'coordinator' && reaches(table[r].bound, viewer, event, now),
  );
  const duties = dutiesAt(viewer, event, now);
  return new Set(
    eventFacts.filter(
      (f) =>
        roles.some((r) => factRoles[f].includes(r)) ||
        duties.some((d) =>
          d.stage ? helperFacts[d.stage]?.includes(f) : factRoles[f].includes('unit lead'),
        ),
    ),
  );
}

/** The facts that a helper needs at a stage. */
const helperFacts: Partial<Record<Stage, readonly EventFact[]>> = {
  plan: ['texts'],
  registration: ['answers'],
  messages: ['texts'],
  doors: ['health', 'signature'],
};

/** True when somebody sees a stage, or a fact, at every event: sums over all of them may be shown. */
export const seesStageEverywhere = (viewer: Viewer, stage: Stage): boolean =>
  isCoordinator(viewer) ||
  (viewer.unitId === null &&
    viewer.roles.some(
      (r) => r !== 'coordinator' && table[r].bound === 'unit if any' && table[r].stages[stage],
    ));

/** The unit somebody begins events for; undefined when they choose any. */
export const bindingUnit = (viewer: Viewer): string | null | undefined =>
  isCoordinator(viewer) ? undefined : viewer.unitId;
