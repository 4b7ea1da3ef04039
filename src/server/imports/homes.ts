import type { Work } from '../app/app.ts';
import { insert } from '../db/database.ts';
import type { Batch } from './batch.ts';

/** The households of contacts there are and of contacts about to be, worked out before anything is written. */
export class Homes {
  private readonly known = new Map<string, { householdId: string | null; family: string; fresh: boolean }>();
  private readonly made: { id: string; name: string; createdAt: string }[] = [];
  private readonly settled: { id: string; householdId: string }[] = [];
  constructor(private readonly w: Work) {}

  async read(ids: readonly string[]): Promise<void> {
    const rows = await this.w.tx.query<{ id: string; householdId: string | null; family: string }>(
      'select id, household_id, family_name as family from contacts where id = any($1)',
      [[...new Set(ids)]],
    );
    for (const { id, ...home } of rows) this.known.set(id, { ...home, fresh: false });
  }

  /** Says that a contact about to be made is of a household, or of none yet. */
  join(contactId: string, family: string, householdId: string | null): void {
    this.known.set(contactId, { householdId, family, fresh: true });
  }

  /** The household of a contact, a new one where there is none; null for somebody who is not there any more. */
  of(contactId: string): string | null {
    const home = this.known.get(contactId);
    if (!home) return null;
    if (!home.householdId) {
      home.householdId = this.w.app.ids.id();
      this.made.push({ id: home.householdId, name: home.family, createdAt: this.w.now });
      this.settled.push({ id: contactId, householdId: home.householdId });
    }
    return home.householdId;
  }

  /** Makes the new households, and settles those in them who were there or were gathered before they had one. */
  async write(batch: Batch): Promise<void> {
    await insert(this.w.tx, 'households', this.made);
    const here = this.settled.filter((s) => !this.known.get(s.id)!.fresh);
    await this.w.tx.query(
      `update contacts c set household_id = r."householdId"
       from jsonb_to_recordset($1::jsonb) as r(id uuid, "householdId" uuid) where c.id = r.id`,
      [JSON.stringify(here)],
    );
    const fresh = new Map(this.settled.map((s) => [s.id, s.householdId]));
    batch.change('contacts', (row: { id: string; householdId: string | null }) => {
      row.householdId ??= fresh.get(row.id) ?? null;
    });
  }
}
