import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { invalid } from '../http/problem.ts';
import { isRegistered, nameInRegister, type Register } from './store.ts';

const words: Record<Register, string> = { units: 'unit', funds: 'fund', initiatives: 'initiative' };

/** Adds a row to one of the registers that plans choose from; a name that is taken is said beside its field. */
export async function addToRegister(
  w: Work,
  register: Register,
  row: { name: string },
): Promise<{ id: string }> {
  const kind = words[register];
  if (await isRegistered(w.tx, register, row.name))
    throw invalid([{ path: 'name', code: 'register-exists', params: { kind } }]);
  const id = w.app.ids.id();
  await insert(w.tx, register, { id, ...row });
  await record(w, 'register grew', { kind, id, how: `added a ${kind}`, detail: { name: row.name } });
  return { id };
}

/** Gives a row of a register another name: everything that points at it says the new one. */
export async function renameInRegister(
  w: Work,
  register: Register,
  { id, name }: { id: string; name: string },
): Promise<void> {
  const kind = words[register];
  const before = await nameInRegister(w.tx, register, id);
  if (before === name) return;
  if (await isRegistered(w.tx, register, name, id))
    throw invalid([{ path: 'name', code: 'register-exists', params: { kind } }]);
  await update(w.tx, register, id, { name });
  await record(w, 'register grew', { kind, id, how: `renamed a ${kind}`, detail: { name, before } });
}
