/** What was typed and not sent yet, kept on this device. */
const prefix = 'draft ';
/** Under which name it is kept whose drafts these are. */
const owner = 'owner of the drafts';

/** Days a draft is kept. */
const kept = 7;

interface Stored {
  at: number;
  values: unknown;
}

/** Where drafts stand: with the tab alone, or on the device for some days. */
export type Keeping = 'tab' | 'device';
const storageOf = (keeping: Keeping): Storage => (keeping === 'tab' ? sessionStorage : localStorage);

/** The values kept under a name, or null. What is too old, or cannot be read, is none. */
export function readDraft<V>(name: string, keeping: Keeping): V | null {
  try {
    const text = storageOf(keeping).getItem(prefix + name);
    const stored = text ? (JSON.parse(text) as Stored) : null;
    return stored && Date.now() - stored.at < kept * 86_400_000 ? (stored.values as V) : null;
  } catch {
    return null;
  }
}

/** Keeps values under a name; null forgets them. A device that keeps nothing is no reason to stop typing. */
export function keepDraft(name: string, keeping: Keeping, values: unknown): void {
  try {
    if (values === null) storageOf(keeping).removeItem(prefix + name);
    else
      storageOf(keeping).setItem(prefix + name, JSON.stringify({ at: Date.now(), values } satisfies Stored));
  } catch {}
}

/** Forgets every draft on this device, as when somebody signs out. */
export function forgetDrafts(): void {
  for (const storage of [localStorage, sessionStorage])
    for (const key of Object.keys(storage))
      if (key.startsWith(prefix) || key === owner) storage.removeItem(key);
}

/** Keeps the drafts on this device for whoever signs in, and forgets those of anybody else. */
export function keepDraftsOf(who: string): void {
  try {
    if (localStorage.getItem(owner) !== who) forgetDrafts();
    localStorage.setItem(owner, who);
  } catch {}
}
