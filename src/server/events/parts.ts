import type { EventPlan } from '#contract/events.ts';
import { arrive } from '#core/events/copy.ts';
import { besideNow } from '#core/events/french.ts';
import { type PlanField, type PlanPart, partOf } from '#core/events/parts.ts';
import { problemsWithSchedule, type Schedule } from '#core/events/schedule.ts';
import { problemWithSlug } from '#core/events/slug.ts';
import { unknownFields } from '#core/messages/merge.ts';
import { standing } from '#core/registration/states.ts';
import { safeAddress } from '#core/text/doc.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { among } from '../db/among.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { type FieldProblem, refused } from '../http/problem.ts';
import { picturesById } from '../pictures/store.ts';
import { isTaken, moveAddress } from './addresses.ts';
import type { EventRow } from './store.ts';

/** A change of a plan on its way into the database. */
export interface Saving {
  w: Work;
  event: EventRow;
  before: EventPlan;
  after: EventPlan;
  change: Partial<EventPlan>;
}

/** How one part of a plan is checked and saved. */
interface PartRule {
  check(saving: Saving): Promise<FieldProblem[]> | FieldProblem[];
  save(saving: Saving): Promise<void>;
}

/** The stored times of a schedule: wall times with their instants. */
export function instantsOf(s: Schedule) {
  const at = (wall: string | null) => (wall ? instantOf(wall, s.zone) : null);
  return {
    startsLocal: s.startsLocal,
    endsLocal: s.endsLocal,
    doorsLocal: s.doorsLocal,
    registrationClosesLocal: s.registrationClosesLocal,
    startsAt: at(s.startsLocal),
    endsAt: at(s.endsLocal),
    doorsAt: at(s.doorsLocal),
    registrationClosesAt: at(s.registrationClosesLocal),
  };
}

/** The fields of a change that belong to one part. */
const fieldsOf = (change: Partial<EventPlan>, part: PlanPart): Partial<EventPlan> =>
  Object.fromEntries(Object.entries(change).filter(([field]) => partOf[field as PlanField] === part));

/** Saves a part whose fields are columns of the event. */
const saveFields =
  (part: PlanPart) =>
  async ({ w, event, change }: Saving): Promise<void> =>
    update(w.tx, 'events', event.id, fieldsOf(change, part));

/** A problem where something chosen from a register is not there. */
async function unknown(
  tx: Queries,
  table: 'units' | 'venues' | 'waivers',
  id: string | null | undefined,
  path: PlanField,
  what: string,
): Promise<FieldProblem[]> {
  if (!id || (await first(tx, `select 1 as x from ${table} where id = $1`, [id]))) return [];
  return [{ path, code: 'thing-gone', params: { what } }];
}

const isRoomOf = async (tx: Queries, roomId: string, venueId: string | null): Promise<boolean> =>
  (await first(tx, 'select 1 as x from rooms where id = $1 and venue_id = $2', [roomId, venueId])) !== null;

/** Of each list: what tells that somebody used a row, so that it is retired and not deleted. */
const used = {
  offers:
    'exists (select 1 from registrations r where r.offer_id = x.id) or exists (select 1 from order_lines l where l.offer_id = x.id)',
  questions: 'exists (select 1 from answers a where a.question_id = x.id)',
  message_steps: 'exists (select 1 from messages m where m.step_id = x.id)',
} as const;

/**
 * Brings the rows of a list to what is wanted: changed, added, taken away. What somebody used is retired: what hangs on it
 * stays, and it comes back when it is wanted again.
 */
async function saveList(
  saving: Saving,
  table: keyof typeof used,
  before: readonly { id: string }[],
  wanted: readonly { id: string }[],
): Promise<void> {
  const { w, event } = saving;
  const { tx, now } = w;
  const keep = new Set(wanted.map((x) => x.id));
  const gone = before.filter((x) => !keep.has(x.id)).map((x) => x.id);
  if (gone.length) {
    await tx.query(`update ${table} x set removed_at = $2 where id = any($1) and (${used[table]})`, [
      gone,
      now,
    ]);
    if (table === 'offers') await takeQuestionsAlong(saving, gone);
    await tx.query(`delete from ${table} where id = any($1) and removed_at is null`, [gone]);
  }
  // Retired ones too: they come back.
  const stored = await tx.query<{ id: string }>(`select id from ${table} where event_id = $1`, [event.id]);
  const known = new Set(stored.map((x) => x.id));
  for (const [position, row] of wanted.entries()) {
    const { id, ...fields } = row;
    if (known.has(id)) await update(tx, table, id, { ...fields, position, removedAt: null });
    else await insert(tx, table, { id, eventId: event.id, position, ...fields });
  }
}

/** The questions of an offer go with it: else they would be asked of everybody, or of nobody. */
async function takeQuestionsAlong({ w: { tx, now } }: Saving, offerIds: readonly string[]): Promise<void> {
  await tx.query(
    `update questions x set removed_at = coalesce(removed_at, $2) where offer_id = any($1) and (${used.questions})`,
    [offerIds, now],
  );
  await tx.query('delete from questions where offer_id = any($1) and removed_at is null', [offerIds]);
  await tx.query(
    `update questions set offer_id = null
     where offer_id in (select id from offers where id = any($1) and removed_at is null)`,
    [offerIds],
  );
}

async function saveSurvey({ w, event, change }: Saving): Promise<void> {
  const survey = change.survey ?? null;
  const stored = await first<{ id: string; anonymous: boolean }>(
    w.tx,
    'select id, anonymous from surveys where event_id = $1',
    [event.id],
  );
  if (!stored) {
    if (survey) await insert(w.tx, 'surveys', { id: w.app.ids.id(), eventId: event.id, ...survey });
    return;
  }
  const answered = await first(w.tx, 'select 1 as x from survey_responses where survey_id = $1 limit 1', [
    stored.id,
  ]);
  if (answered && (!survey || survey.anonymous !== stored.anonymous)) throw refused('survey-in-use');
  // Who was asked stays written down.
  await update(w.tx, 'surveys', stored.id, survey ? { ...survey, removedAt: null } : { removedAt: w.now });
}

async function checkOffers({ w, event, change }: Saving): Promise<FieldProblem[]> {
  const sold = await w.tx.query<{ offerId: string; units: number }>(
    `select offer_id, count(distinct (order_id, unit_number))::int as units from registrations
     where event_id = $1 and state in ${among(standing)} group by offer_id`,
    [event.id],
  );
  return sold.flatMap(({ offerId, units }) => {
    const at = change.offers!.findIndex((o) => o.id === offerId);
    if (at < 0) return [wrongAt('offers', 'offer-in-use', { count: units })];
    const { quantity } = change.offers![at]!;
    return quantity !== null && quantity < units
      ? [wrongAt(`offers.${at}.quantity`, 'units-taken', { count: units })]
      : [];
  });
}

/** How each part of a plan is checked and saved. */
export const partRules: Readonly<Record<PlanPart, PartRule>> = {
  page: {
    async check({ w, event, after, change }) {
      if (change.slug === undefined || after.slug === null) return [];
      const wrong = problemWithSlug(after.slug);
      if (wrong) return [{ path: 'slug', ...wrong }];
      return (await isTaken(w.tx, after.slug, event.id, w.now))
        ? [wrongAt('slug', 'slug-taken', { slug: after.slug })]
        : [];
    },
    save: async (saving) => {
      const { w, event, change } = saving;
      if (change.slug !== undefined) await moveAddress(w, event, change.slug);
      await saveFields('page')(saving);
    },
  },
  text: { check: () => [], save: saveFields('text') },
  pictures: {
    check: async ({ w, change }) => {
      const asked = [...(change.bannerId ? [change.bannerId] : []), ...(change.gallery ?? [])];
      const there = await picturesById(w.tx, asked);
      return there.length === asked.length ? [] : [wrongAt('gallery', 'picture-gone')];
    },
    save: saveFields('pictures'),
  },
  notes: { check: () => [], save: saveFields('notes') },
  faqs: {
    check: ({ change }) =>
      change.faqs!.flatMap((faq, at) =>
        faq.question.en.trim() ? [] : [wrongAt(`faqs.${at}.question.en`, 'question-empty')],
      ),
    save: saveFields('faqs'),
  },
  buttons: {
    check: ({ change }) =>
      change.buttons!.flatMap((button, at) => [
        ...(button.label.en.trim() ? [] : [wrongAt(`buttons.${at}.label.en`, 'button-unnamed')]),
        ...(safeAddress(button.address) ? [] : [wrongAt(`buttons.${at}.address`, 'no-address')]),
      ]),
    save: saveFields('buttons'),
  },
  registering: {
    check: ({ change }) =>
      change.registerAt && !safeAddress(change.registerAt) ? [wrongAt('registerAt', 'no-address')] : [],
    save: saveFields('registering'),
  },
  search: { check: () => [], save: saveFields('search') },
  french: {
    check: () => [],
    save: ({ w, event, before, after }) =>
      update(w.tx, 'events', event.id, {
        french: after.french,
        frenchOf: besideNow(after, before.french, after.french, event.frenchOf),
      }),
  },
  times: {
    check: ({ event, after, change }) => [
      ...problemsWithSchedule(after),
      ...(event.state === 'open' && change.startsLocal === null
        ? [wrongAt('startsLocal', 'open-needs-date')]
        : []),
    ],
    save: ({ w, event, after }) => {
      // A first start brings along what waited for it; the shifts follow when the plan is saved.
      const { startsLocal, zone } = after;
      const times =
        event.waits && !event.startsLocal && startsLocal
          ? arrive(event.waits, { ...after, startsLocal })
          : after;
      return update(w.tx, 'events', event.id, { zone, ...instantsOf({ ...times, zone }) });
    },
  },
  place: {
    check: async ({ w, after, change }) => [
      ...(await unknown(w.tx, 'venues', change.venueId, 'venueId', 'venue')),
      ...(change.roomId && !(await isRoomOf(w.tx, change.roomId, after.venueId))
        ? [wrongAt('roomId', 'room-elsewhere')]
        : []),
    ],
    save: async (saving) => {
      const { change, before } = saving;
      // A room stays behind with its place.
      if (change.venueId !== undefined && change.venueId !== before.venueId && change.roomId === undefined)
        Object.assign(change, { roomId: null, layout: '', beside: [] });
      await saveFields('place')(saving);
    },
  },
  reach: {
    check: ({ w, change }) => unknown(w.tx, 'units', change.unitId, 'unitId', 'unit'),
    save: saveFields('reach'),
  },
  safety: {
    check: ({ w, change }) => unknown(w.tx, 'waivers', change.waiverId, 'waiverId', 'waiver'),
    save: saveFields('safety'),
  },
  offers: {
    check: checkOffers,
    save: (saving) => saveList(saving, 'offers', saving.before.offers, saving.change.offers!),
  },
  questions: {
    check: ({ change }) =>
      change.questions!.flatMap((q, at) => [
        ...(q.prompt.en.trim() ? [] : [wrongAt(`questions.${at}.prompt.en`, 'question-empty')]),
        ...((q.kind === 'one of' || q.kind === 'several of') && q.choices.filter((c) => c.trim()).length < 2
          ? [wrongAt(`questions.${at}.choices`, 'two-choices-needed')]
          : []),
      ]),
    save: (saving) => saveList(saving, 'questions', saving.before.questions, saving.change.questions!),
  },
  messages: {
    check: ({ change }) =>
      change.messages!.flatMap((m, at) =>
        (['subject', 'body'] as const).flatMap((part) => {
          const path = `messages.${at}.${part}.en`;
          return [
            ...(m[part].en.trim() ? [] : [wrongAt(path, 'nothing-written')]),
            ...unknownFields(`${m[part].en} ${m[part].fr ?? ''}`).map((field) =>
              wrongAt(path, 'not-a-merge-field', { field }),
            ),
          ];
        }),
      ),
    save: (saving) => saveList(saving, 'message_steps', saving.before.messages, saving.change.messages!),
  },
  survey: {
    check: () => [],
    save: saveSurvey,
  },
};
