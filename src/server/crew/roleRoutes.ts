import type { rolesContract } from '#contract/roles.ts';
import { markable } from '#core/crew/againstKinds.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { contactFor } from '../contacts/seeing.ts';
import type { Handlers } from '../http/handle.ts';
import { theOrganization } from '../staff/store.ts';
import {
  addRole,
  addSkill,
  changeRole,
  changeSkill,
  dropRole,
  dropSkill,
  sayHeld,
  sayNotHeld,
  setRules,
} from './roleCommands.ts';
import { readHeldSkills, readRoles, readSkills } from './roleStore.ts';

const done = { done: true } as const;

export const rolesHandlers: Handlers<typeof rolesContract> = {
  'GET /api/roles': async ({ tx, now }) => {
    const {
      zone,
      restHours,
      placeMinutes,
      neverOverridden,
      asksToStepIn,
      lateMinutes,
      roundedTo,
      rounded,
      hourValue,
    } = await theOrganization(tx);
    return {
      roles: await readRoles(tx, now),
      skills: await readSkills(tx, dateOf(now, zone)),
      rules: {
        restHours,
        placeMinutes,
        neverOverridden: markable.filter((kind) => neverOverridden.includes(kind)),
        asksToStepIn,
        lateMinutes,
        roundedTo,
        rounded,
        hourValue,
      },
    };
  },
  'PUT /api/crew-rules': (c) => setRules(c, c.body).then(() => done),
  'POST /api/roles': (c) => addRole(c, c.body),
  'PATCH /api/roles/:id': (c) => changeRole(c, c.params.id, c.body).then(() => done),
  'DELETE /api/roles/:id': (c) => dropRole(c, c.params.id).then(() => done),
  'POST /api/skills': (c) => addSkill(c, c.body),
  'PATCH /api/skills/:id': (c) => changeSkill(c, c.params.id, c.body).then(() => done),
  'DELETE /api/skills/:id': (c) => dropSkill(c, c.params.id).then(() => done),
  'GET /api/contacts/:id/skills': async (c) => {
    const { contactId } = await contactFor(c, c.params.id, 'shifts');
    return readHeldSkills(c.tx, contactId);
  },
  'PUT /api/contacts/:id/skills/:skill': async (c) => {
    const { contactId } = await contactFor(c, c.params.id, 'shifts');
    await sayHeld(c, contactId, c.params.skill, c.body);
    return done;
  },
  'DELETE /api/contacts/:id/skills/:skill': async (c) => {
    const { contactId } = await contactFor(c, c.params.id, 'shifts');
    await sayNotHeld(c, contactId, c.params.skill);
    return done;
  },
};
