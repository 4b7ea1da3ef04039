import { type Texts, textKeys } from '#core/contacts/attributes.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { type EmergencyContact, type Membership, type PersonRow, sayMembership } from './rows.ts';

/** What becomes of a row. */
export const rowVerdicts = ['new', 'changes', 'same', 'look', 'rejected'] as const;
export type RowVerdict = (typeof rowVerdicts)[number];

/** Fields a row may bring to a contact that is known already. */
export const importFields = [
  'name',
  'email',
  'phone',
  'birth date',
  'address',
  'language',
  ...textKeys,
  'tags',
  'note',
  'newsletter',
  'do not contact',
  'membership',
  'member until',
  'organization',
  'died on',
  'own field',
  'emergency',
  'guardian of',
] as const;
export type ImportField = (typeof importFields)[number];

/** Whose value counts where both have one: ours, theirs, or theirs only where ours is blank. */
export const policies = ['keep ours', 'take theirs', 'fill blanks'] as const;
export type Policy = (typeof policies)[number];

/** Fields of which somebody may have several; there “take theirs” adds to what is there. */
export const several: ReadonlySet<ImportField> = new Set([
  'email',
  'phone',
  'tags',
  'note',
  'membership',
  'organization',
  'emergency',
  'guardian of',
]);

export interface ImportChoices {
  /** By field; a field not named here follows `usualPolicy`. */
  policies: Partial<Record<ImportField, Policy>>;
  /** Take a yes to the newsletter as consent. Without it an import never makes consent wider. */
  widenConsent: boolean;
}
export const usualChoices: ImportChoices = { policies: {}, widenConsent: false };

/** Nothing that was there is changed, and what can stand beside it is added. */
export const usualPolicy = (field: ImportField): Policy =>
  several.has(field) ? 'take theirs' : 'fill blanks';

/** What a contact has now, as far as an import may change it. */
export interface CurrentContact extends Texts {
  id: string;
  given: string;
  family: string;
  emails: string[];
  phones: string[];
  birthDate: string | null;
  street: string | null;
  postalCode: string | null;
  /** Since when the address is a former one. */
  movedOn: string | null;
  language: string;
  tags: string[];
  notes: string[];
  /** The last word on the newsletter; null when they were never asked. */
  newsletter: boolean | null;
  doNotContact: boolean;
  memberships: Membership[];
  emergencies: EmergencyContact[];
  /** Children they are guardian of, by name. */
  wards: string[];
  organizations: string[];
  deceasedOn: string | null;
  /** Fields of the organization's own that are filled in. */
  fields: { id: string; value: string }[];
}

/** One field that a row would change. */
export interface Change {
  field: ImportField;
  before: string | null;
  after: string;
  /** False when the policy keeps what is there; `why` says so. */
  applied: boolean;
  why: Reason | null;
  /** Which field of one's own, where it is one. */
  fieldId?: string;
}

const sayAddress = (street: string | null, postal: string | null): string =>
  [street, postal].filter(Boolean).join(', ');
const sayEmergency = (e: EmergencyContact): string => [e.name, e.phone].filter(Boolean).join(', ');

/** Works out what a row would change of a contact that is known, field by field, old and new. */
export function changesOf(person: PersonRow, current: CurrentContact, choices: ImportChoices): Change[] {
  const changes: Change[] = [];
  const consider = (field: ImportField, before: string | null, after: string) => {
    const policy = choices.policies[field] ?? usualPolicy(field);
    const applied = policy === 'take theirs' || (policy === 'fill blanks' && !before);
    changes.push({
      field,
      before: before || null,
      after,
      applied,
      why: applied ? null : because(policy === 'keep ours' ? 'ours kept' : 'blanks only'),
    });
  };
  if (fullName(person) && fullName(person) !== fullName(current))
    consider('name', fullName(current), fullName(person));
  const emails = new Set(current.emails.map(emailKey));
  for (const email of person.emails)
    if (!emails.has(emailKey(email))) consider('email', current.emails.join(', '), email);
  for (const phone of person.phones)
    if (!current.phones.includes(phone)) consider('phone', current.phones.join(', '), phone);
  if (person.birthDate && person.birthDate !== current.birthDate)
    consider('birth date', current.birthDate, person.birthDate);
  // A former address is no address: another one fills the blank, the old one in an old list says nothing.
  const address = {
    street: person.street ?? (current.movedOn ? null : current.street),
    postalCode: person.postalCode ?? (current.movedOn ? null : current.postalCode),
  };
  const before = sayAddress(current.street, current.postalCode);
  const after = sayAddress(address.street, address.postalCode);
  const stale =
    current.movedOn !== null &&
    (!person.street || flat(person.street) === flat(current.street ?? '')) &&
    (!person.postalCode || flat(person.postalCode) === flat(current.postalCode ?? ''));
  if ((person.street || person.postalCode) && flat(after) !== flat(before) && !stale) {
    // A missing half is a blank, not a contradiction.
    const contradicts =
      (current.street && person.street && flat(current.street) !== flat(person.street)) ||
      (current.postalCode && person.postalCode && flat(current.postalCode) !== flat(person.postalCode));
    consider('address', contradicts && !current.movedOn ? before : null, after);
  }
  if (person.language && person.language !== current.language)
    consider('language', current.language, person.language);
  for (const key of textKeys) {
    const said = person[key];
    if (said && flat(said) !== flat(current[key] ?? '')) consider(key, current[key], said);
  }
  for (const tag of person.tags)
    if (!current.tags.includes(tag)) consider('tags', current.tags.join(', '), tag);
  for (const note of person.notes)
    if (!current.notes.includes(note) && note !== current.notes.join('\n')) consider('note', null, note);
  considerConsent(person, current, choices, changes);
  for (const membership of person.memberships) {
    const said = sayMembership(membership);
    const same = current.memberships.find((m) => sayMembership(m) === said);
    if (!same) consider('membership', current.memberships.map(sayMembership).join('; '), said);
    else if (membership.until && membership.until !== same.until)
      consider('member until', same.until, membership.until);
  }
  for (const organization of person.organizations)
    if (!current.organizations.some((o) => fold(o) === fold(organization)))
      consider('organization', current.organizations.join('; '), organization);
  for (const { id, name, value } of person.fields) {
    const ours = current.fields.find((f) => f.id === id)?.value ?? null;
    if (ours === value) continue;
    consider('own field', ours && `${name}: ${ours}`, `${name}: ${value}`);
    changes.at(-1)!.fieldId = id;
  }
  if (person.deceasedOn && person.deceasedOn !== current.deceasedOn)
    consider('died on', current.deceasedOn, person.deceasedOn);
  for (const emergency of person.emergencies)
    if (!current.emergencies.some((e) => flat(e.name) === flat(emergency.name)))
      consider('emergency', current.emergencies.map(sayEmergency).join('; '), sayEmergency(emergency));
  for (const ward of person.wards)
    if (!current.wards.some((w) => fold(w) === fold(ward)))
      consider('guardian of', current.wards.join('; '), ward);
  return changes;
}

/** A no always counts. A yes counts only where the coordinator says that it may. */
function considerConsent(
  person: PersonRow,
  current: CurrentContact,
  choices: ImportChoices,
  changes: Change[],
): void {
  const say = (granted: boolean | null) => (granted === null ? null : granted ? 'yes' : 'no');
  if (person.newsletter && person.newsletter.granted !== current.newsletter) {
    const narrows = !person.newsletter.granted;
    const applied = narrows || choices.widenConsent;
    changes.push({
      field: 'newsletter',
      before: say(current.newsletter),
      after: say(person.newsletter.granted)!,
      applied,
      why: applied ? null : because('consent not widened'),
    });
  }
  if (person.doNotContact !== null && person.doNotContact !== current.doNotContact)
    changes.push({
      field: 'do not contact',
      before: say(current.doNotContact),
      after: say(person.doNotContact)!,
      applied: person.doNotContact || choices.widenConsent,
      why: person.doNotContact || choices.widenConsent ? null : because('consent not widened'),
    });
}

const flat = (text: string): string => text.toLowerCase().replace(/[\s.,]+/gu, '');

/** What a coordinator said about one row: cells put right, left out, or who it is. */
export interface RowOverride {
  cells?: Record<string, string>;
  excluded?: boolean;
  /** For a row that needs a look: a new person, or the contact it is. */
  decision?: 'new' | string;
}
