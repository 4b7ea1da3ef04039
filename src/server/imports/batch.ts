import { insert, type Queries } from '../db/database.ts';
import type { Progress } from './progress.ts';

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
  get size(): number {
    return [...this.rows.values()].reduce((n, list) => n + list.length, 0);
  }
  async write(tx: Queries, progress: Progress): Promise<void> {
    for (const table of ['contacts', 'contact_emails', 'contact_phones', 'contact_keys', 'contact_tags'])
      await this.put(tx, table, progress);
    for (const table of [...this.rows.keys()]) await this.put(tx, table, progress);
  }
  private async put(tx: Queries, table: string, progress: Progress): Promise<void> {
    const rows = this.rows.get(table) ?? [];
    this.rows.delete(table);
    for (let from = 0; from < rows.length; from += 2000) {
      const part = rows.slice(from, from + 2000);
      await insert(tx, table, part, table.startsWith('contact_') ? 'on conflict do nothing' : '');
      await progress.add(part.length);
    }
  }
}
