import type { boardContract } from '#contract/board.ts';
import { splitName } from '#core/contacts/names.ts';
import { isEmail } from '#core/contacts/reach.ts';
import { titleFor } from '#core/events/french.ts';
import { heardBy, type QuestionState, type ShownRule, shownName, usualRule } from '#core/messages/board.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound } from '../http/problem.ts';
import { publicEventRow } from '../registration/public.ts';
import { theOrganization } from '../staff/store.ts';
import { planDirect } from './direct.ts';
import { askToFollow, followersOf } from './followers.ts';

interface Board {
  shown: ShownRule;
  answersBy: string | null;
}
interface QuestionRow {
  id: string;
  eventId: string;
  name: string;
  email: string;
  language: 'en' | 'fr';
  words: string;
  askedAt: string;
  state: QuestionState;
  answer: string;
  answeredAt: string | null;
  answeredBy: string;
}

const columns =
  'id, event_id, name, email, language, words, asked_at, state, answer, answered_at, answered_by';

const readBoard = (tx: Queries, eventId: string): Promise<Board | null> =>
  first<Board>(tx, 'select shown, answers_by from event_boards where event_id = $1', [eventId]);

/** How many are shown at most: a page is read, and nobody reads more. */
const most = 200;

/** Whoever is on the team of an event and may be the one who answers: the coordinators, and those who lead its unit. */
const teamOf = (tx: Queries, event: EventRow): Promise<{ id: string; name: string }[]> =>
  tx.query(
    `select id, name from staff where not resting and ('coordinator' = any(roles) or 'unit lead' = any(roles) and unit_id = $1)
     order by name, id`,
    [event.unitId],
  );

/** Tells whoever asked, and those who follow the event, what was answered. */
export async function tellAnswer(w: Work, questionId: string): Promise<void> {
  const question = await first<QuestionRow>(w.tx, `select ${columns} from board_questions where id = $1`, [
    questionId,
  ]);
  if (!question?.answer) return;
  const event = await readEvent(w.tx, question.eventId);
  const { name: organization } = await theOrganization(w.tx);
  const followers = (await followersOf(w.tx, event)).filter((f) => !f.quiet && !f.hidden && !f.leftIt);
  const tell = (
    kind: 'answer' | 'answer heard',
    to: { id: string; name: string; email: string | null; contactId: string | null; language: 'en' | 'fr' },
    reason: string,
  ) =>
    planDirect(w, {
      kind,
      // Put right, it is another answer; told twice, it is one.
      key: `answer:${questionId}:${to.id}:${question.answeredAt}`,
      to,
      eventId: event.id,
      reason,
      values: {
        name: splitName(to.name).given || to.name,
        event: titleFor(event, to.language),
        organization,
        event_link: event.slug ? `${w.app.origin}/e/${event.slug}` : w.app.origin,
      },
      own: { question: question.words, words: question.answer },
    });
  await tell('answer', { ...question, contactId: null }, 'asked on the board of the event');
  for (const follower of heardBy(question, followers))
    await tell('answer heard', { ...follower, id: follower.followerId }, 'follows the event');
}

export const boardHandlers: Handlers<typeof boardContract> = {
  'GET /api/public/events/:slug/board': async (c) => {
    const event = await publicEventRow(c, c.params.slug);
    const board = await readBoard(c.tx, event.id);
    if (!board) return { on: false, shown: usualRule, questions: [] };
    const questions = await c.tx.query<QuestionRow>(
      `select ${columns} from board_questions where event_id = $1 and state = 'shown' order by asked_at desc, id desc limit ${most}`,
      [event.id],
    );
    return {
      on: true,
      shown: board.shown,
      questions: questions.map(({ id, name, words, askedAt, answer, answeredAt }) => ({
        id,
        name: shownName(name),
        words,
        askedAt,
        answer,
        answeredAt,
      })),
    };
  },

  'POST /api/public/events/:slug/board': async (c) => {
    const event = await publicEventRow(c, c.params.slug);
    const board = await readBoard(c.tx, event.id);
    if (!board) throw notFound('This board');
    if (!isEmail(c.body.email)) throw invalid([{ path: 'email', code: 'not-an-email' }]);
    const { follows, ...asked } = c.body;
    await insert(c.tx, 'board_questions', {
      id: c.app.ids.id(),
      eventId: event.id,
      ...asked,
      askedAt: c.now,
      state: board.shown === 'at once' ? 'shown' : 'waits',
      answer: '',
      answeredAt: null,
      answeredBy: '',
    });
    if (follows) await askToFollow(c, event, 'event', asked);
    await record(c, 'board asked', { eventId: event.id, name: asked.name, words: asked.words });
    return { done: true };
  },

  'GET /api/events/:id/board': async (c) => {
    const event = await eventFor(c, c.params.id, 'messages', 'see');
    const board = await readBoard(c.tx, event.id);
    const questions = await c.tx.query<QuestionRow>(
      `select ${columns} from board_questions where event_id = $1
       order by (answered_at is null and state <> 'hidden') desc, case when answered_at is null then asked_at end, asked_at desc, id limit ${most}`,
      [event.id],
    );
    return {
      on: board !== null,
      shown: board?.shown ?? usualRule,
      answersBy: board?.answersBy ?? null,
      team: await teamOf(c.tx, event),
      questions: questions.map(({ eventId: _, language: __, ...q }) => q),
    };
  },

  'PUT /api/events/:id/board': async (c) => {
    const event = await eventFor(c, c.params.id, 'messages', 'change', true);
    const { on, shown, answersBy } = c.body;
    if (answersBy && !(await teamOf(c.tx, event)).some((s) => s.id === answersBy))
      throw invalid([{ path: 'answersBy', code: 'thing-gone', params: { what: 'colleague' } }]);
    if (!on) await c.tx.query('delete from event_boards where event_id = $1', [event.id]);
    else
      await c.tx.query(
        `insert into event_boards (event_id, shown, answers_by) values ($1, $2, $3)
         on conflict (event_id) do update set shown = excluded.shown, answers_by = excluded.answers_by`,
        [event.id, shown, answersBy],
      );
    await record(c, 'board set', { eventId: event.id, on });
    return { done: true };
  },

  'POST /api/events/:id/board/:question': async (c) => {
    const event = await eventFor(c, c.params.id, 'messages', 'change');
    const question = await first<QuestionRow>(
      c.tx,
      `select ${columns} from board_questions where id = $1 and event_id = $2 for update`,
      [c.params.question, event.id],
    );
    if (!question) throw notFound('This question');
    const { answer, state } = c.body;
    const other = answer !== undefined && answer !== question.answer;
    await update(c.tx, 'board_questions', question.id, {
      ...(state && { state }),
      ...(other && {
        answer,
        answeredAt: answer ? c.now : null,
        answeredBy: answer ? c.staff.name : '',
      }),
    });
    await record(c, 'board answered', {
      eventId: event.id,
      questionId: question.id,
      answered: other,
      how: other ? 'answered a question' : state === 'hidden' ? 'put a question away' : 'showed a question',
    });
    return { done: true };
  },
};
