import type { changesContract } from '#contract/changes.ts';
import { sayProblem } from '#core/words/problems.ts';
import { type Asker, whatIf } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { demandLead, eventFor } from '../events/access.ts';
import { readPlanChange } from '../events/history.ts';
import type { Handlers } from '../http/handle.ts';
import { orderByLink } from '../registration/links.ts';
import { ownUnitOnly } from '../stages/commands.ts';
import { asSeen } from './around.ts';
import { changePlan, changeState, tryChange } from './changing.ts';
import { otherDate } from './moving.ts';
import { chooseReturn, owedOn } from './returns.ts';
import { demandSettling } from './settling.ts';
import { readChanges } from './store.ts';
import { letGoNow, takeBack, whyStands } from './takingBack.ts';

/** An event of which somebody may decide what becomes of it. */
async function leadOf(c: Asker & { tx: Queries }, id: string) {
  const event = await eventFor(c, id, 'plan', 'change');
  demandLead(c, event);
  return event;
}

export const changesHandlers: Handlers<typeof changesContract> = {
  'PATCH /api/events/:id': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change');
    const { version: seen, change, settle } = c.body;
    ownUnitOnly(c.staff, change.unitId);
    await demandSettling(c, event, settle);
    const { version, followed, changeId } = await changePlan(c, c.params.id, seen, change, { settle });
    return { version, followed, changeId };
  },

  'POST /api/events/:id/state': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change', true);
    demandLead(c, event);
    const { move, words, settle } = c.body;
    await demandSettling(c, event, settle);
    const { state, followed, changeId } = await changeState(c, c.params.id, move, words, { settle });
    return { state, followed, changeId };
  },

  'POST /api/events/:id/what-if': async (c) => {
    const { app, actor, params, body } = c;
    const event = await eventFor(c, params.id, 'plan', 'change');
    const { move, settle } = body;
    ownUnitOnly(c.staff, body.change.unitId);
    await demandSettling(c, event, settle);
    const told = await whatIf(app, actor, (w) =>
      tryChange(w, c, event, () =>
        move
          ? changeState(w, event.id, move, 'to see what follows', { settle, trying: true })
          : changePlan(w, event.id, body.version, body.change, { settle, trying: true }),
      ),
    );
    return asSeen(told, c, event);
  },

  'POST /api/events/:id/history/:change/back': async (c) => {
    await eventFor(c, c.params.id, 'plan', 'change');
    const { field, before } = await readPlanChange(c.tx, c.params.id, c.params.change);
    if (field === 'unitId') ownUnitOnly(c.staff, before as string | null);
    const { version, followed, changeId } = await changePlan(
      c,
      c.params.id,
      c.body.version,
      { [field]: before },
      { undoes: c.params.change },
    );
    return { version, followed, changeId };
  },

  'GET /api/events/:id/changes': async (c) => {
    await eventFor(c, c.params.id, 'plan', 'see');
    const changes = await readChanges(c.tx, c.params.id);
    return Promise.all(
      changes.map(async (row) => {
        const why = row.settlesAt ? await whyStands(c.tx, row) : null;
        const { eventId: _, partOf: __, events, ...change } = row;
        return { ...change, ...(events && { before: {}, after: {} }), stands: why && sayProblem(why) };
      }),
    );
  },

  'POST /api/events/:id/changes/:change/back': async (c) => {
    await leadOf(c, c.params.id);
    await takeBack(c, c.params.id, c.params.change);
    return { done: true };
  },

  'GET /api/public/orders/:token/money': async (c) => {
    const owed = await owedOn(c, await orderByLink(c.tx, c.params.token));
    if (!owed) return null;
    const to = await otherDate(c, owed.toEventId);
    return {
      amount: owed.amount,
      currency: owed.currency,
      // Where seats can no longer move to is no choice any more.
      ways: owed.ways.filter((way) => way !== 'move' || to),
      until: owed.dueAt,
      to: to && { title: to.publicTitle, startsLocal: to.startsLocal, zone: to.zone },
    };
  },

  'POST /api/public/orders/:token/money': async (c) => {
    await chooseReturn(c, await orderByLink(c.tx, c.params.token), c.body.become);
    return { done: true };
  },

  'POST /api/events/:id/changes/:change/now': async (c) => {
    await leadOf(c, c.params.id);
    return { letters: await letGoNow(c, c.params.id, c.params.change) };
  },
};
