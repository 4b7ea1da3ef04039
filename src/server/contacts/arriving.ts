import type { Texts } from '#core/contacts/attributes.ts';
import { asDescribed, type Candidate, type Described, keysOf, prepare } from '#core/contacts/comparing.ts';
import type { Verdict } from '#core/contacts/match.ts';
import { type PersonName, tidyName } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import type { Work } from '../app/app.ts';
import { first, insert, update } from '../db/database.ts';
import { textRow } from './columns.ts';
import { derived, keyRows } from './keys.ts';
import { pairRow } from './pairs.ts';
import { candidatesFor } from './store.ts';

/** Somebody as they come in by a form: one email, one telephone. */
export interface NewPerson extends PersonName, Partial<Texts> {
  email?: string | null;
  /** E.164. */
  phone?: string | null;
  birthDate?: string | null;
  street?: string | null;
  postalCode?: string | null;
  language?: string;
  doNotContact?: boolean;
}

interface NewContact {
  id: string;
  familyName: string;
  householdId: string | null;
}

/**
 * People who come in together, as in one order: whom they may be is read once for all of them, and those nobody knew are
 * written at once at the end, each table in one statement. `write` has to be called before anything refers to them.
 */
export class Arrivals {
  private readonly contacts = new Map<string, NewContact & Record<string, unknown>>();
  private readonly emails: object[] = [];
  private readonly phones: object[] = [];
  private readonly keys: object[] = [];
  private readonly households: object[] = [];
  private readonly pairs: object[] = [];
  private candidates: Candidate[] = [];
  constructor(private readonly w: Pick<Work, 'tx' | 'app' | 'now'>) {}

  /** Reads whom these people may be. */
  async lookUp(people: readonly Described[]): Promise<void> {
    this.candidates = await candidatesFor(this.w.tx, people);
  }

  /** Contacts that share a key with somebody, among them whoever came in before. */
  candidatesOf(person: Described): Candidate[] {
    const wanted = new Set(keysOf(prepare(person)));
    return this.candidates.filter((c) => keysOf(prepare(c)).some((key) => wanted.has(key)));
  }

  /** Whether somebody came in and is not written yet. */
  waits(contactId: string): boolean {
    return this.contacts.has(contactId);
  }

  /** Makes a contact with its email, telephone and household. */
  async add(
    person: NewPerson,
    source: string,
    of: { householdOf?: string | null; importId?: string | null } = {},
  ): Promise<string> {
    const { app, now } = this.w;
    const id = app.ids.id();
    const name = { given: tidyName(person.given), family: tidyName(person.family) };
    const householdId = of.householdOf ? await this.householdOf(of.householdOf) : null;
    const emails = person.email ? [person.email.trim()] : [];
    const phones = person.phone ? [person.phone] : [];
    const described = asDescribed({ ...person, ...name });
    this.contacts.set(id, {
      id,
      givenName: name.given,
      familyName: name.family,
      birthDate: person.birthDate ?? null,
      language: person.language ?? 'en',
      street: person.street ?? null,
      postalCode: person.postalCode ?? null,
      ...textRow(person),
      doNotContact: person.doNotContact ?? false,
      householdId,
      ...derived({ ...name, emails, phones }),
      source,
      importId: of.importId ?? null,
      createdAt: now,
      updatedAt: now,
    });
    for (const email of emails)
      this.emails.push({ id: app.ids.id(), contactId: id, email, emailKey: emailKey(email), position: 0 });
    for (const phone of phones) this.phones.push({ id: app.ids.id(), contactId: id, phone, position: 0 });
    this.keys.push(...keyRows(id, described));
    this.candidates.push({ ...described, emails: emails.map(emailKey), id });
    return id;
  }

  /** The household of a contact, made when there is none. */
  async householdOf(contactId: string): Promise<string> {
    const { tx, app, now } = this.w;
    const fresh = this.contacts.get(contactId);
    const known =
      fresh ??
      (await first<{ householdId: string | null; familyName: string }>(
        tx,
        'select household_id, family_name from contacts where id = $1',
        [contactId],
      ));
    if (known?.householdId) return known.householdId;
    const household = { id: app.ids.id(), name: known?.familyName ?? '', createdAt: now };
    if (fresh) {
      fresh.householdId = household.id;
      this.households.push(household);
    } else {
      await insert(tx, 'households', household);
      await update(tx, 'contacts', contactId, { householdId: household.id });
    }
    return household.id;
  }

  /** Puts a new contact and one it may be up for a decision. */
  pair(contactId: string, verdict: Verdict, foundBy: string): void {
    if (contactId !== verdict.candidateId) this.pairs.push(pairRow(this.w, contactId, verdict, foundBy));
  }

  /** Writes everybody who is new, and what may be the same. */
  async write(): Promise<void> {
    const { tx } = this.w;
    await insert(tx, 'households', this.households.splice(0));
    await insert(tx, 'contacts', [...this.contacts.values()]);
    await insert(tx, 'contact_emails', this.emails.splice(0));
    await insert(tx, 'contact_phones', this.phones.splice(0));
    await insert(tx, 'contact_keys', this.keys.splice(0));
    await insert(tx, 'pairs', this.pairs.splice(0), 'on conflict do nothing');
    this.contacts.clear();
  }
}
