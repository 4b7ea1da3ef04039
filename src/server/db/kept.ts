const written = /\b(?:insert\s+into|update|delete\s+from)\s+"?(\w+)/giu;

/**
 * What was read once for a whole transaction, by a name. It is what the transaction would read again, because nobody else's writes
 * are seen within it; what it writes itself into the tables something was read from makes that forgotten.
 */
export class Kept {
  private readonly readings = new Map<string, { of: Promise<unknown>; from: readonly string[] }>();

  get<T>(what: string): Promise<T> | undefined {
    return this.readings.get(what)?.of as Promise<T> | undefined;
  }

  set(what: string, of: Promise<unknown>, from: readonly string[]): void {
    this.readings.set(what, { of, from });
  }

  /** Takes note of a statement before it is asked. */
  heed(sql: string): void {
    if (!this.readings.size) return;
    for (const [, table] of sql.matchAll(written))
      for (const [what, { from }] of this.readings)
        if (from.includes(table!.toLowerCase())) this.readings.delete(what);
  }

  clear(): void {
    this.readings.clear();
  }
}
