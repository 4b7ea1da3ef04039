import type { outcomesContract } from '#contract/outcomes.ts';
import { hasFrench } from '#core/events/french.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { totalOf } from '#core/outcomes/tally.ts';
import { withOffset } from '#core/time/wallTime.ts';
import { countPosterSays } from '#core/words/posters.ts';
import { followLink } from '../app/app.ts';
import { visitorOf } from '../contacts/visitor.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { fileName } from '../events/fileName.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { posterFile } from '../print/posterFile.ts';
import { theOrganization } from '../staff/store.ts';
import { setCounting } from './counting.ts';
import { figuresOfEvent } from './store.ts';
import {
  correctTally,
  countByPeople,
  countingOf,
  countingPage,
  decideTallies,
  enterTallies,
  keepTallyPicture,
  measuresOf,
  outcomesOf,
} from './tallies.ts';
import { nameOf, readCounted, readPicture, readTallies, readThings } from './tallyStore.ts';

/** The event whose poster somebody scanned; 404 where people do not count any more. */
async function eventToCount(tx: Queries, token: string): Promise<EventRow> {
  const id = await followLink(tx, 'count', token);
  if (!id) throw notFound('This page');
  const event = await readEvent(tx, id);
  if (event.state === 'shelved' || event.state === 'called off') throw notFound('This page');
  return event;
}

export const outcomesHandlers: Handlers<typeof outcomesContract> = {
  'GET /api/events/:id/figures': async (c) => {
    await eventFor(c, c.params.id, 'wrap-up', 'see');
    return figuresOfEvent(c.tx, c.params.id);
  },

  'GET /api/events/:id/outcomes': async (c) =>
    outcomesOf(c, await eventFor(c, c.params.id, 'wrap-up', 'see')),

  'POST /api/events/:id/tallies': async (c) => {
    const event = await eventFor(c, c.params.id, 'wrap-up', 'change');
    const by = { entrant: { known: 'team' } as const, name: c.staff.name, contactId: null };
    return { ids: await enterTallies(c, event, c.body, by) };
  },

  'POST /api/events/:id/tallies/pictures': async (c) => {
    const event = await eventFor(c, c.params.id, 'wrap-up', 'change');
    return keepTallyPicture(c.app, c.actor, event.id, c.body.content);
  },

  'POST /api/events/:id/tallies/decided': async (c) => {
    const event = await eventFor(c, c.params.id, 'wrap-up', 'change');
    return { changed: await decideTallies(c, event.id, c.body) };
  },

  'PATCH /api/events/:id/tallies/:tally': async (c) => {
    const event = await eventFor(c, c.params.id, 'wrap-up', 'change');
    await correctTally(c, event, c.params.tally, c.body);
    return { done: true };
  },

  'GET /api/events/:id/tallies/:tally/picture': async (c) => {
    const event = await eventFor(c, c.params.id, 'wrap-up', 'see');
    const picture = await readPicture(c.tx, event.id, c.params.tally);
    if (!picture) throw notFound('This picture');
    return new File('tally.jpg', Buffer.from(picture.content), true);
  },

  'GET /api/events/:id/tallies.csv': async (c) => {
    const event = await eventFor(c, c.params.id, 'wrap-up', 'see');
    const measures = new Map((await measuresOf(c.tx, event)).map((m) => [m.id, m]));
    return new File(
      fileName('tallies', event, 'csv'),
      writeCsv(
        ['Measure', 'Counted', 'Unit', 'Counted at', 'Place', 'By', 'State', 'Note'],
        (await readTallies(c.tx, event.id)).map((t) => [
          measures.get(t.measureId)?.name.en ?? '',
          t.value === null ? t.thing : String(t.value),
          t.value === null ? '' : (measures.get(t.measureId)?.unit.en ?? ''),
          withOffset(t.countedAt, event.zone),
          t.place,
          t.byName,
          t.state,
          t.note,
        ]),
      ),
    );
  },

  'PUT /api/events/:id/counting': async (c) => {
    const event = await eventFor(c, c.params.id, 'wrap-up', 'change');
    return { page: await setCounting(c, event.id, c.body.on) };
  },

  'GET /api/events/:id/counting.pdf': async (c) => {
    const event = await eventFor(c, c.params.id, 'wrap-up', 'see');
    const page = await countingPage(c, event.id);
    if (!page) throw notFound('This page');
    return posterFile(c.tx, 'counting.pdf', {
      title: event.publicTitle,
      says: countPosterSays(hasFrench(event.french)),
      address: page,
    });
  },

  'GET /api/public/count/:token': async (c) => {
    const event = await eventToCount(c.tx, c.params.token);
    const visitor = await visitorOf(c, c.request);
    const measures = (await measuresOf(c.tx, event)).filter((m) => m.enteredBy !== 'team');
    const counted = await readCounted(c.tx, [event.id]);
    return {
      event: event.publicTitle,
      eventFr: event.french.publicTitle,
      organization: (await theOrganization(c.tx)).name,
      zone: event.zone,
      counting: countingOf(event, c.now),
      me: visitor && (await nameOf(c.tx, visitor.contactId)),
      named: measures.some((m) => m.enteredBy !== 'anyone'),
      measures: measures.map((m) => ({
        ...m,
        total: totalOf(
          m.kind,
          counted.filter((t) => t.measureId === m.id),
        ),
      })),
      things: await readThings(
        c.tx,
        measures.filter((m) => m.kind === 'distinct').map((m) => m.id),
      ),
    };
  },

  'POST /api/public/count/:token': async (c) => {
    const event = await eventToCount(c.tx, c.params.token);
    const visitor = await visitorOf(c, c.request);
    await countByPeople(c, event, c.body, visitor?.contactId ?? null);
    return { done: true };
  },

  'POST /api/public/count/:token/pictures': async (c) =>
    keepTallyPicture(c.app, c.actor, (await eventToCount(c.tx, c.params.token)).id, c.body.content),
};
