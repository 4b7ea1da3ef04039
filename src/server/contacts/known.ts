import { type Candidate, type Prepared, prepare } from '#core/contacts/comparing.ts';
import type { Queries } from '../db/database.ts';
import { contactsByKey, contactVersion, readCandidates } from './store.ts';

/** Keys kept at most; past that everything is read anew. */
const mostKeys = 400_000;

/**
 * Contacts by the keys they are looked for, kept while many people are looked up one lot after another: what was read
 * once is not read or made ready again until some contact changes.
 */
export class KnownContacts {
  private readonly idsOf = new Map<string, readonly string[]>();
  private readonly ready = new Map<string, Prepared<Candidate>>();
  private version: number | null = null;

  /** Reads what these keys lead to, where it is not known yet. */
  async fetch(tx: Queries, keys: readonly string[]): Promise<void> {
    const version = await contactVersion(tx);
    if (this.idsOf.size > mostKeys || this.version !== version) {
      this.idsOf.clear();
      this.ready.clear();
      this.version = version;
    }
    const missing = [...new Set(keys)].filter((k) => !this.idsOf.has(k));
    if (!missing.length) return;
    for (const key of missing) this.idsOf.set(key, []);
    for (const { key, ids } of await contactsByKey(tx, missing)) this.idsOf.set(key, ids);
    const unread = new Set(missing.flatMap((k) => this.idsOf.get(k)!).filter((id) => !this.ready.has(id)));
    if (unread.size) for (const c of await readCandidates(tx, [...unread])) this.ready.set(c.id, prepare(c));
  }

  /** Everybody who shares one of these keys, which have to be fetched. */
  sharing(keys: readonly string[]): Prepared<Candidate>[] {
    const ids = new Set(keys.flatMap((k) => this.idsOf.get(k) ?? []));
    return [...ids].map((id) => this.ready.get(id)).filter((c) => c !== undefined);
  }
}
