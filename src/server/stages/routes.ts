import type { eventsContract } from '#contract/events.ts';
import { bindingUnit, stagesOf } from '#core/access/stages.ts';
import { sayIfAny } from '#core/words/reasons.ts';
import { liveLink, renewLink, stopLink } from '../app/app.ts';
import { record } from '../app/record.ts';
import { demand, demandLead, eventFor } from '../events/access.ts';
import { againOf } from '../events/again.ts';
import { beginEvent } from '../events/beginning.ts';
import { deleteEvent, hindranceTo, lostWith } from '../events/deleting.ts';
import { readHistory } from '../events/history.ts';
import { addToRegister, renameInRegister } from '../events/registers.ts';
import { seasonFor } from '../events/season.ts';
import { readChoices, readEvent } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { refused } from '../http/problem.ts';
import { Stream } from '../http/stream.ts';
import { demandBooks } from '../money/access.ts';
import { staffOf } from '../staff/sessions.ts';
import { deskOf } from './desk.ts';
import { eventPageOf } from './page.ts';

export const eventsHandlers: Handlers<typeof eventsContract> = {
  'GET /api/desk': ({ tx, staff, now }) => deskOf(tx, staff, now),
  'GET /api/events': (c) => seasonFor(c),
  'GET /api/choices': ({ tx }) => readChoices(tx),

  'POST /api/units': (c) => addToRegister(c, 'units', c.body),
  'POST /api/funds': async (c) => {
    await demandBooks(c);
    return addToRegister(c, 'funds', c.body);
  },
  'PATCH /api/units/:id': async (c) => {
    await renameInRegister(c, 'units', { ...c.params, ...c.body });
    return { done: true };
  },
  'PATCH /api/funds/:id': async (c) => {
    await demandBooks(c);
    await renameInRegister(c, 'funds', { ...c.params, ...c.body });
    return { done: true };
  },

  'POST /api/events': async (c) => {
    const unit = bindingUnit(c.staff);
    if (unit === null) throw refused('no-unit', {}, 403);
    // A template is everybody's; a past event is begun from by those who may see it.
    if (c.body.from) {
      const from = await readEvent(c.tx, c.body.from);
      if (!from.isTemplate) demand(c, from, 'plan', 'see');
    }
    return {
      id: await beginEvent(c, {
        title: c.body.publicTitle,
        from: c.body.from,
        to: c.body.date,
        unitId: unit,
      }),
    };
  },

  'GET /api/events/:id/again': (c) => againOf(c, c.params.id),

  'GET /api/events/:id': (c) => eventPageOf(c, c.params.id),

  'GET /api/events/:id/history': async (c) => {
    await eventFor(c, c.params.id, 'plan', 'see');
    return (await readHistory(c.tx, c.params.id)).map(({ staffId, ...change }) => ({
      ...change,
      mine: staffId === c.staff.id,
    }));
  },

  'POST /api/events/:id/template': async (c) => {
    const { id } = await eventFor(c, c.params.id, 'plan', 'see');
    return {
      id: await beginEvent(c, {
        title: c.body.publicTitle,
        from: id,
        unitId: bindingUnit(c.staff),
        template: true,
      }),
    };
  },

  'GET /api/events/:id/preview': async (c) => {
    const { id } = await eventFor(c, c.params.id, 'plan', 'see');
    return { token: await liveLink(c, 'preview', id) };
  },

  'POST /api/events/:id/preview': async (c) => {
    const { id } = await eventFor(c, c.params.id, 'plan', 'change');
    const known = await liveLink(c, 'preview', id);
    if (known) return { token: known };
    await renewLink(c, 'preview', id);
    await record(c, 'preview link made', { eventId: id });
    return { token: (await liveLink(c, 'preview', id))! };
  },

  'DELETE /api/events/:id/preview': async (c) => {
    const { id } = await eventFor(c, c.params.id, 'plan', 'change');
    await stopLink(c, 'preview', id);
    await record(c, 'preview link stopped', { eventId: id });
    return { done: true };
  },

  'GET /api/events/:id/deletion': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change');
    return { hindered: sayIfAny(await hindranceTo(c.tx, event)), ...(await lostWith(c.tx, event)) };
  },

  'DELETE /api/events/:id': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change', true);
    demandLead(c, event);
    await deleteEvent(c, event);
    return { done: true };
  },

  'GET /api/events/:id/stream': async (c) => {
    const still = async () => {
      const staff = await staffOf(c.app, c.request);
      if (!staff) return false;
      const event = await readEvent(c.tx, c.params.id);
      return stagesOf(staff, event, c.app.clock.now()).size > 0;
    };
    if (!(await still())) throw refused('not-your-event', {}, 403);
    return new Stream(c.app.announcer, `event ${c.params.id}`, still);
  },
};
