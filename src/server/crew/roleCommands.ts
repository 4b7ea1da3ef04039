import type { BodyOf } from '#contract/endpoint.ts';
import type { rolesContract } from '#contract/roles.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { rolesNamed } from '../events/shiftRoles.ts';
import { invalid } from '../http/problem.ts';
import { setCrewRules } from '../staff/store.ts';
import {
  countSkills,
  holdSkill,
  letGoOfSkill,
  renameInLines,
  retireRole,
  retireSkill,
  roleNamed,
  saveNeeds,
  saveRole,
  skillTaken,
  theRole,
  theSkill,
} from './roleStore.ts';

type Body<K extends keyof typeof rolesContract> = BodyOf<(typeof rolesContract)[K]>;

const grew = (w: Work, kind: 'role' | 'skill', id: string, how: string, detail: object) =>
  record(w, 'register grew', { kind, id, how, detail: { ...detail } });

const taken = (kind: string) => invalid([{ path: 'name', code: 'register-exists', params: { kind } }]);

/** Says how much rest volunteers have, and what nobody is put on a shift in spite of. */
export async function setRules(w: Work, rules: Body<'PUT /api/crew-rules'>): Promise<void> {
  await setCrewRules(w.tx, rules);
  await record(w, 'organization changed', { how: 'set the rules for volunteers', detail: rules });
}

async function checkNeeds(w: Work, needs: readonly string[]): Promise<void> {
  const each = [...new Set(needs)];
  if ((await countSkills(w.tx, each)) < each.length) throw invalid([{ path: 'needs', code: 'skill-gone' }]);
}

/** Adds a role; one that was offered before is offered again, as it is given. */
export async function addRole(w: Work, body: Body<'POST /api/roles'>): Promise<{ id: string }> {
  const before = await roleNamed(w.tx, body.name, null);
  if (before && !before.retired) throw taken('role');
  await checkNeeds(w, body.needs);
  if (!before) await rolesNamed(w.tx, [body.name]);
  const { id } = before ?? (await roleNamed(w.tx, body.name, null))!;
  await saveRole(w.tx, id, body);
  await saveNeeds(w.tx, body.name, body.needs);
  await grew(w, 'role', id, 'added a role', { name: body.name });
  return { id };
}

/** Changes what a role is called and asks; shifts and messages go by its new name at once. */
export async function changeRole(w: Work, id: string, body: Body<'PATCH /api/roles/:id'>): Promise<void> {
  const before = await theRole(w.tx, id);
  if (await roleNamed(w.tx, body.name, id)) throw taken('role');
  await checkNeeds(w, body.needs);
  await saveRole(w.tx, id, body);
  await saveNeeds(w.tx, body.name, body.needs);
  if (before.name !== body.name) await renameInLines(w.tx, before.name, body.name);
  await grew(w, 'role', id, 'changed a role', { before: before.name, ...body });
}

export async function dropRole(w: Work, id: string): Promise<void> {
  const { name } = await theRole(w.tx, id);
  await retireRole(w.tx, id, w.now);
  await grew(w, 'role', id, 'took a role away', { name });
}

export async function addSkill(w: Work, body: Body<'POST /api/skills'>): Promise<{ id: string }> {
  if (await skillTaken(w.tx, body.name, null)) throw taken('skill');
  const id = w.app.ids.id();
  await insert(w.tx, 'skills', { id, ...body });
  await grew(w, 'skill', id, 'added a skill', body);
  return { id };
}

export async function changeSkill(w: Work, id: string, body: Body<'PATCH /api/skills/:id'>): Promise<void> {
  const before = await theSkill(w.tx, id);
  if (await skillTaken(w.tx, body.name, id)) throw taken('skill');
  await update(w.tx, 'skills', id, body);
  await grew(w, 'skill', id, 'changed a skill', { before: before.name, ...body });
}

export async function dropSkill(w: Work, id: string): Promise<void> {
  const { name } = await theSkill(w.tx, id);
  await retireSkill(w.tx, id, w.now);
  await grew(w, 'skill', id, 'took a skill away', { name });
}

/** Says that somebody has a skill. A certificate without a last day holds for good. */
export async function sayHeld(
  w: Work,
  contactId: string,
  skillId: string,
  { number, until, seen }: Body<'PUT /api/contacts/:id/skills/:skill'>,
): Promise<void> {
  const { name, certificate } = await theSkill(w.tx, skillId);
  await holdSkill(w.tx, {
    contactId,
    skillId,
    number: certificate ? number : '',
    until: certificate ? until : null,
    seenBy: seen ? w.actor.name : null,
    seenAt: seen ? w.now : null,
    saidAt: w.now,
  });
  await record(w, 'contact changed', {
    contactId,
    how: 'wrote down a skill',
    detail: { skill: name, ...(certificate ? { number, until, seen } : {}) },
  });
}

export async function sayNotHeld(w: Work, contactId: string, skillId: string): Promise<void> {
  await letGoOfSkill(w.tx, contactId, skillId);
  await record(w, 'contact changed', { contactId, how: 'took a skill away', detail: { skillId } });
}
