import { attributes, isAttribute, type TextKey, textsOf } from '#core/contacts/attributes.ts';
import type { LifelineKind } from '#core/contacts/lifeline.ts';
import type { Question, Segment } from '#core/records/segment.ts';
import { isQuestion } from '#core/records/segment.ts';
import type { Role } from '#core/staff/roles.ts';
import { type ContactPart, contactParts } from './parts.ts';
import { isCoordinator, type Viewer } from './viewer.ts';

export { type ContactPart, contactParts };

/**
 * `all`: of every contact, or, for those who belong to a unit, of the unit's. `unit`: of those who take part in, serve at
 * or belong to the viewer's unit.
 */
type Scope = 'all' | 'unit';

const table: Record<Exclude<Role, 'coordinator'>, Partial<Record<ContactPart, Scope>>> = {
  treasurer: {
    name: 'all',
    reach: 'all',
    address: 'all',
    money: 'all',
    membership: 'all',
    ties: 'all',
    tags: 'all',
  },
  'crew lead': {
    name: 'all',
    reach: 'all',
    age: 'all',
    ties: 'all',
    tags: 'all',
    consents: 'all',
    shifts: 'all',
    emergency: 'all',
  },
  'unit lead': {
    name: 'unit',
    reach: 'unit',
    age: 'unit',
    ties: 'unit',
    presence: 'unit',
    shifts: 'unit',
    family: 'unit',
    emergency: 'unit',
  },
  approver: {},
  door: {},
};

/** The parts somebody sees of a contact. `inUnit` says whether the contact has to do with the viewer's unit. */
export function partsOf(viewer: Viewer, inUnit: boolean): ReadonlySet<ContactPart> {
  if (isCoordinator(viewer)) return new Set(contactParts);
  const seen = new Set<ContactPart>();
  for (const role of viewer.roles) {
    if (role === 'coordinator') continue;
    for (const part of contactParts) {
      const scope = table[role][part];
      const everywhere = scope === 'all' && viewer.unitId === null;
      if (everywhere || (scope && inUnit && viewer.unitId !== null)) seen.add(part);
    }
  }
  return seen;
}

/** The parts somebody sees of every contact. */
export const partsOfAll = (viewer: Viewer): ReadonlySet<ContactPart> => partsOf(viewer, false);

/** True when somebody sees contacts of their unit only. */
export const onlyUnit = (viewer: Viewer): boolean =>
  !partsOfAll(viewer).has('name') && partsOf(viewer, true).has('name');

/** A contact's record as far as it is cut; other fields of it pass. */
interface Cuttable extends Record<TextKey, string | null> {
  emails: readonly unknown[];
  phones: readonly unknown[];
  birthDate: string | null;
  age: number | null;
  street: string | null;
  postalCode: string | null;
  movedOn: string | null;
  languages: readonly unknown[];
  zone: string | null;
  source: string;
  ties: readonly { kind: string }[];
  people: readonly unknown[];
  fields: readonly unknown[];
  related: readonly { relation: string }[];
  totals: {
    attended: number | null;
    missed: number | null;
    coming: number | null;
    hours: number | null;
    givenThisYear: readonly unknown[] | null;
    givenEver: readonly unknown[] | null;
    firstSeen: string | null;
    lastSeen: string | null;
  };
  consents: readonly unknown[];
  tags: readonly unknown[];
  notes: readonly { authorId: string | null }[];
  companions: readonly unknown[];
  merges: readonly unknown[];
}

/** A record as one viewer sees it: what is not theirs is empty, and `hidden` names the parts, so that empty is not taken for unknown. */
export function cutRecord<R extends Cuttable>(
  record: R,
  viewer: Viewer,
  inUnit: boolean,
): R & { hidden: ContactPart[] } {
  const parts = partsOf(viewer, inUnit);
  const has = (part: ContactPart) => parts.has(part);
  const { totals } = record;
  return {
    ...record,
    emails: has('reach') ? record.emails : [],
    phones: has('reach') ? record.phones : [],
    languages: has('reach') ? record.languages : [],
    zone: has('reach') ? record.zone : null,
    birthDate: has('birth') ? record.birthDate : null,
    age: has('age') ? record.age : null,
    street: has('address') ? record.street : null,
    postalCode: has('address') ? record.postalCode : null,
    movedOn: has('address') ? record.movedOn : null,
    ...textsOf((key) => (has(attributes[key].part) ? record[key] : null)),
    source: has('record') ? record.source : '',
    ties: record.ties.filter((t) => has(t.kind === 'membership' ? 'membership' : 'ties')),
    people: has('ties') ? record.people : [],
    fields: has('fields') ? record.fields : [],
    related: record.related.filter((r) => has(r.relation === 'in an emergency' ? 'emergency' : 'family')),
    totals: {
      attended: has('presence') ? totals.attended : null,
      missed: has('presence') ? totals.missed : null,
      coming: has('presence') ? totals.coming : null,
      hours: has('shifts') ? totals.hours : null,
      givenThisYear: has('money') ? totals.givenThisYear : null,
      givenEver: has('money') ? totals.givenEver : null,
      firstSeen: has('presence') ? totals.firstSeen : null,
      lastSeen: has('presence') ? totals.lastSeen : null,
    },
    consents: has('consents') ? record.consents : [],
    tags: has('tags') ? record.tags : [],
    notes: has('notes') ? record.notes : record.notes.filter((n) => n.authorId === viewer.id),
    companions: has('family') ? record.companions : [],
    merges: has('record') ? record.merges : [],
    hidden: contactParts.filter((p) => !has(p)),
  };
}

/** One line of a list of contacts as a viewer sees it. */
export function cutLine<
  L extends {
    email: string | null;
    phone: string | null;
    postalCode: string | null;
    lastSeen: string | null;
    tags: readonly string[];
  },
>(line: L, parts: ReadonlySet<ContactPart>): L {
  return {
    ...line,
    email: parts.has('reach') ? line.email : null,
    phone: parts.has('reach') ? line.phone : null,
    postalCode: parts.has('address') ? line.postalCode : null,
    lastSeen: parts.has('presence') ? line.lastSeen : null,
    tags: parts.has('tags') ? line.tags : [],
  };
}

/** The part that a field of a change belongs to; null for what is no field of a contact. */
export const partOfField = (field: string): ContactPart | null =>
  isAttribute(field) ? attributes[field].part : (otherFields[field] ?? null);
const otherFields: Record<string, ContactPart> = {
  emails: 'reach',
  email: 'reach',
  phones: 'reach',
  phone: 'reach',
  fields: 'fields',
  kind: 'name',
};

/** The part that entries of a lifeline belong to. */
const partOfEntry: Record<LifelineKind, ContactPart> = {
  registration: 'presence',
  attendance: 'presence',
  waiver: 'presence',
  survey: 'presence',
  session: 'presence',
  shift: 'shifts',
  money: 'money',
  message: 'record',
  clearance: 'record',
  note: 'notes',
  record: 'record',
};

/** The kinds of lifeline entries somebody sees; of a unit, only those about the unit's events. */
export function lifelineKindsOf(
  viewer: Viewer,
  inUnit: boolean,
): { kinds: LifelineKind[]; unitId: string | null } {
  const parts = partsOf(viewer, inUnit);
  const everywhere = partsOfAll(viewer);
  const kinds = (Object.keys(partOfEntry) as LifelineKind[]).filter((k) => parts.has(partOfEntry[k]));
  return { kinds, unitId: everywhere.has('name') ? null : viewer.unitId };
}

/** What a question of a segment tells about whoever is found by it. */
const partOfQuestion: Record<Exclude<Question['ask'], 'detail'>, ContactPart> = {
  tag: 'tags',
  reach: 'reach',
  age: 'age',
  'postal code': 'address',
  language: 'reach',
  consent: 'consents',
  'not to be contacted': 'name',
  'moved away': 'name',
  organization: 'name',
  'custom field': 'fields',
  member: 'membership',
  'in a unit': 'ties',
  'works for': 'ties',
  registered: 'presence',
  attended: 'presence',
  missed: 'presence',
  donated: 'money',
  served: 'shifts',
  signed: 'presence',
  'last seen': 'presence',
  'answered a survey': 'presence',
  'in the household of': 'family',
};

/** Every part that a segment asks about, also inside groups and households. */
function partsAsked(segment: Segment): ReadonlySet<ContactPart> {
  const asked = new Set<ContactPart>();
  const visit = (s: Segment): void => {
    if (isQuestion(s)) {
      // An address is more than a way to be reached.
      if (s.ask === 'detail') asked.add(attributes[s.detail].part);
      else asked.add(s.ask === 'reach' && s.by === 'address' ? 'address' : partOfQuestion[s.ask]);
      if (s.ask === 'in the household of') visit(s.who);
    } else if ('not' in s) visit(s.not);
    else for (const part of 'all' in s ? s.all : s.any) visit(part);
  };
  visit(segment);
  return asked;
}

/** True when somebody may know whom a segment finds: they see every part it asks about, of every contact. */
export const maySeeSegment = (viewer: Viewer, segment: Segment): boolean => {
  const parts = partsOfAll(viewer);
  return parts.has('name') && [...partsAsked(segment)].every((p) => parts.has(p));
};

/** A note is changed by who wrote it or by a coordinator. */
export const mayChangeNote = (viewer: Viewer, note: { authorId: string | null }): boolean =>
  isCoordinator(viewer) || (note.authorId !== null && note.authorId === viewer.id);
