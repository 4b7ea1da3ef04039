import type { IDBPDatabase } from 'idb';

/** Something encrypted (AES-GCM) with a key of this device that no script can read out. */
export interface Sealed {
  iv: Uint8Array<ArrayBuffer>;
  content: ArrayBuffer;
}

/** A database of this device with a store of keys. */
type WithKeys = Pick<IDBPDatabase<{ keys: { key: string; value: CryptoKey } }>, 'get' | 'put'>;

/** Whether this page can encrypt: browsers do over https and on the device itself. */
export const canSeal = (): boolean => 'subtle' in crypto;

/** The key of a database, made the first time. */
async function keyOf(db: WithKeys): Promise<CryptoKey> {
  const kept = await db.get('keys', 'list');
  if (kept) return kept;
  const made = await crypto.subtle.generateKey({ name: 'AES-GCM', length: 256 }, false, [
    'encrypt',
    'decrypt',
  ]);
  await db.put('keys', made, 'list');
  return made;
}

export async function seal(db: WithKeys, value: unknown): Promise<Sealed> {
  const iv = crypto.getRandomValues(new Uint8Array(12));
  const content = await crypto.subtle.encrypt(
    { name: 'AES-GCM', iv },
    await keyOf(db),
    new TextEncoder().encode(JSON.stringify(value)),
  );
  return { iv, content };
}

/** What was sealed; rejects where it was sealed with another key or altered. */
export async function unseal(db: WithKeys, { iv, content }: Sealed): Promise<unknown> {
  const text = await crypto.subtle.decrypt({ name: 'AES-GCM', iv }, await keyOf(db), content);
  return JSON.parse(new TextDecoder().decode(text));
}
