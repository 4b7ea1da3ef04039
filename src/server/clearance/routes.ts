import type { clearanceContract } from '#contract/clearance.ts';
import { mayChange } from '#core/access/stages.ts';
import { isCoordinator } from '#core/access/viewer.ts';
import { isTheirs } from '#core/clearance/steps.ts';
import { record } from '../app/record.ts';
import { eventFor } from '../events/access.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';
import { aroundOf, look, waitingFor } from './around.ts';
import { readBook } from './book.ts';
import { theCondition } from './conditions.ts';
import { answer, decide, grant, meet } from './deciding.ts';
import { changeRules, ruleBook, tryRules } from './ruling.ts';
import { say, theQuestion } from './said.ts';
import { whoSees } from './seeing.ts';
import { submit } from './sending.ts';
import { eventOfStep, readSteps } from './steps.ts';
import { clearanceOf } from './view.ts';

export const clearanceHandlers: Handlers<typeof clearanceContract> = {
  'GET /api/events/:id/clearance': async (c) => {
    await eventFor(c, c.params.id, 'clearance', 'see');
    return clearanceOf(c.tx, c.params.id, c.staff, c.now);
  },

  'GET /api/events/:id/clearance/around': async (c) =>
    aroundOf(c.tx, await eventFor(c, c.params.id, 'clearance', 'see'), c),

  'POST /api/events/:id/clearance/seen': async (c) => {
    const event = await eventFor(c, c.params.id, 'clearance', 'see');
    await look(c, event.id, c.staff.id);
    return { done: true };
  },

  'GET /api/clearance/waiting': (c) => waitingFor(c.tx, c),

  'POST /api/events/:id/clearance': async (c) => {
    await eventFor(c, c.params.id, 'clearance', 'change');
    await submit(c, c.params.id, c.body, isCoordinator(c.staff));
    return clearanceOf(c.tx, c.params.id, c.staff, c.now);
  },

  'POST /api/events/:id/clearance/late': async (c) => {
    await grant(c, c.params.id, c.body.grant, c.body.words);
    return clearanceOf(c.tx, c.params.id, c.staff, c.now);
  },

  'POST /api/events/:id/clearance/words': async (c) => {
    const { words, stepId, mentions } = c.body;
    const event = await eventFor(c, c.params.id, 'clearance', 'see');
    const steps = await readSteps(c.tx, event.id);
    // Who reads along without a part in it does not write.
    if (!mayChange(c.staff, event, 'clearance', c.now) && !steps.some((s) => isTheirs(s, c.staff)))
      throw refused('not-your-clearance', {}, 403);
    // Nobody is written to about what they may not see.
    const named = (await whoSees(c.tx, event, c.now)).map((p) => p.id).filter((p) => mentions.includes(p));
    await say(c, {
      eventId: event.id,
      kind: 'word',
      body: words,
      stepId: steps.some((s) => s.id === stepId) ? stepId : null,
      mentions: named,
    });
    await record(c, 'clearance written about', { eventId: event.id, words, mentions: named });
    return clearanceOf(c.tx, event.id, c.staff, c.now);
  },

  'POST /api/clearance-questions/:id/answer': async (c) => {
    const { eventId } = await theQuestion(c.tx, c.params.id);
    await eventFor(c, eventId, 'clearance', 'change');
    await answer(c, c.params.id, c.body.words);
    return clearanceOf(c.tx, eventId, c.staff, c.now);
  },

  'POST /api/clearance-steps/:id/decision': async (c) => {
    const eventId = await eventOfStep(c.tx, c.params.id);
    if (!eventId) throw notFound('This step');
    // Who approves for one unit alone decides nothing of another.
    await eventFor(c, eventId, 'clearance', 'see');
    await decide(c, c.staff, c.params.id, c.body);
    return clearanceOf(c.tx, eventId, c.staff, c.now);
  },

  'POST /api/clearance-conditions/:id/met': async (c) => {
    const condition = await theCondition(c.tx, c.params.id);
    const event = await eventFor(c, condition.eventId, 'clearance', 'see');
    const may =
      mayChange(c.staff, event, 'clearance', c.now) ||
      (c.body.met ? condition.ownerId === c.staff.id : isTheirs(condition, c.staff));
    if (!may) throw refused('not-your-condition', {}, 403);
    await meet(c, c.params.id, c.body.met, c.body.words);
    return clearanceOf(c.tx, event.id, c.staff, c.now);
  },

  'GET /api/clearance/rules': ({ tx }) => ruleBook(tx),

  'PUT /api/clearance/rules': async (c) => {
    await changeRules(c, c.body);
    return ruleBook(c.tx);
  },

  'POST /api/clearance/rules/try': ({ tx, body, now }) => tryRules(tx, body, now),

  'GET /api/clearance/facts': async ({ tx }) => [...(await readBook(tx)).names.facts],
};
