import { insert, type Queries } from '../db/database.ts';

/** Rows that are added, gathered so that they go in by the thousand. */
export class Batch {
  private readonly rows = new Map<string, object[]>();
  add(table: string, row: object): void {
    const list = this.rows.get(table);
    if (list) list.push(row);
    else this.rows.set(table, [row]);
  }
  /** Changes rows that were gathered and are not written yet. */
  change<T>(table: string, to: (row: T) => void): void {
    for (const row of this.rows.get(table) ?? []) to(row as T);
  }
  async write(tx: Queries): Promise<void> {
    for (const table of ['contacts', 'contact_emails', 'contact_phones', 'contact_keys', 'contact_tags'])
      await this.put(tx, table);
    for (const table of [...this.rows.keys()]) await this.put(tx, table);
  }
  private async put(tx: Queries, table: string): Promise<void> {
    const rows = this.rows.get(table) ?? [];
    this.rows.delete(table);
    await insert(tx, table, rows, table.startsWith('contact_') ? 'on conflict do nothing' : '');
  }
}
