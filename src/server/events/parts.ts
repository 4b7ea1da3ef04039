import type { EventPlan, MessageLinePlan } from '#contract/plan.ts';
import { problemsWithAgenda } from '#core/agenda/checking.ts';
import { isEmail } from '#core/contacts/reach.ts';
import { arrive } from '#core/events/copy.ts';
import { besideNow } from '#core/events/french.ts';
import { type PlanField, type PlanPart, partOf } from '#core/events/parts.ts';
import { instantIn, problemsWithSchedule, type Schedule } from '#core/events/schedule.ts';
import { problemWithSlug } from '#core/events/slug.ts';
import { problemsInLine } from '#core/messages/merge.ts';
import { wrongInSaid } from '#core/messages/said.ts';
import { shopAt } from '#core/offers/dated.ts';
import { problemsWithQuestions } from '#core/questions/checking.ts';
import { safeAddress } from '#core/text/doc.ts';
import { meaningOf } from '#core/time/wallTime.ts';
import { problemsWithRules, type WaiverRule } from '#core/waivers/asking.ts';
import { wrongAt } from '#core/words/problems.ts';
import { readFields } from '../contacts/fields.ts';
import { first, type Queries, update } from '../db/database.ts';
import type { FieldProblem } from '../http/problem.ts';
import { picturesById } from '../pictures/store.ts';
import { addressAlong, isTaken, moveAddress } from './addresses.ts';
import { checkShop, keepRules, type Saving, saveList, saveShop } from './lists.ts';
import { roomsOf } from './store.ts';
import { checkSurveys, saveSurveys } from './surveys.ts';

/** What is wrong with what a line says. */
const problemsWithTexts = (m: MessageLinePlan, at: string): FieldProblem[] =>
  wrongInSaid(m, `${at}.`, m.channel === 'email', (text) => problemsInLine(text, m.audience));

/** How one part of a plan is checked and saved. */
interface PartRule {
  check(saving: Saving): Promise<FieldProblem[]> | FieldProblem[];
  save(saving: Saving): Promise<void>;
}

/** The stored times of a schedule: wall times with their instants. */
export function instantsOf(s: Schedule) {
  return {
    startsLocal: s.startsLocal,
    endsLocal: s.endsLocal,
    doorsLocal: s.doorsLocal,
    registrationClosesLocal: s.registrationClosesLocal,
    startsAt: instantIn(s, 'startsLocal'),
    endsAt: instantIn(s, 'endsLocal'),
    doorsAt: instantIn(s, 'doorsLocal'),
    registrationClosesAt: instantIn(s, 'registrationClosesLocal'),
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
  table: 'units' | 'venues' | 'funds' | 'initiatives',
  id: string | null | undefined,
  path: PlanField,
  what: string,
): Promise<FieldProblem[]> {
  if (!id || (await first(tx, `select 1 as x from ${table} where id = $1`, [id]))) return [];
  return [{ path, code: 'thing-gone', params: { what } }];
}

/** Waivers that are not there, or closed: one that is asked already stays. */
async function problemsWithWaivers(
  tx: Queries,
  before: readonly WaiverRule[],
  rules: readonly WaiverRule[],
): Promise<FieldProblem[]> {
  const states = new Map(
    (
      await tx.query<{ id: string; closed: boolean }>(
        'select id, closed_at is not null as closed from waivers where id = any($1)',
        [rules.map((r) => r.waiverId)],
      )
    ).map((w) => [w.id, w.closed]),
  );
  return rules.flatMap(({ waiverId }, at) => {
    const closed = states.get(waiverId);
    if (closed === undefined) return [wrongAt(`waivers.${at}.waiverId`, 'thing-gone', { what: 'waiver' })];
    return closed && !before.some((r) => r.waiverId === waiverId)
      ? [wrongAt(`waivers.${at}.waiverId`, 'waiver-is-closed')]
      : [];
  });
}

/** What is wrong with speakers or sponsors: one without a name, a contact or a picture that is not there. */
async function checkPeople(
  tx: Queries,
  field: 'speakers' | 'sponsors',
  people: readonly { name: string; contactId: string | null; pictureId: string | null }[],
): Promise<FieldProblem[]> {
  const pictures = people.flatMap((p) => p.pictureId ?? []);
  const there = new Set((await picturesById(tx, pictures)).map((p) => p.id));
  const contacts = new Set(
    (
      await tx.query<{ id: string }>('select id from contacts where id = any($1) and erased_at is null', [
        people.flatMap((p) => p.contactId ?? []),
      ])
    ).map((c) => c.id),
  );
  return people.flatMap((p, at) => [
    ...(p.name.trim() ? [] : [wrongAt(`${field}.${at}.name`, 'name-needed')]),
    ...(p.contactId && !contacts.has(p.contactId)
      ? [wrongAt(`${field}.${at}.contactId`, 'contact-gone')]
      : []),
    ...(p.pictureId && !there.has(p.pictureId) ? [wrongAt(`${field}.${at}.pictureId`, 'picture-gone')] : []),
  ]);
}

/** Measures and initiatives that are not there, one twice, one that is not offered any more, and one that something was counted of. */
async function problemsWithOutcomes({ w, event, before, change }: Saving): Promise<FieldProblem[]> {
  const { measures, initiativeIds } = change.outcomes!;
  const ids = measures.map((m) => m.measureId);
  const had = before.outcomes.measures.map((m) => m.measureId);
  const there = new Map(
    (
      await w.tx.query<{ id: string; closed: boolean }>(
        'select id, closed_at is not null as closed from measures where id = any($1)',
        [ids],
      )
    ).map((m) => [m.id, m.closed]),
  );
  const tallied = await w.tx.query<{ name: string }>(
    `select m.name ->> 'en' as name from measures m where m.id = any($1) and m.id <> all($2)
       and exists (select 1 from tallies t where t.measure_id = m.id and t.event_id = $3)`,
    [had, ids, event.id],
  );
  return [
    ...ids.flatMap((id, at) => {
      const path = `outcomes.measures.${at}.measureId`;
      if (!there.has(id)) return [wrongAt(path, 'thing-gone', { what: 'measure' })];
      if (ids.indexOf(id) < at) return [wrongAt(path, 'measure-twice')];
      return there.get(id) && !had.includes(id) ? [wrongAt(path, 'measure-is-closed')] : [];
    }),
    ...tallied.map(({ name }) => wrongAt('outcomes.measures', 'measure-tallied', { name })),
    ...(
      await Promise.all(initiativeIds.map((id) => unknown(w.tx, 'initiatives', id, 'outcomes', 'initiative')))
    ).flat(),
  ];
}

/** Sessions of a track that is gone are in none. */
const leaveTracks = (tx: Queries, eventId: string): Promise<unknown> =>
  tx.query(
    `update agenda_sessions s set track_id = null from events e where e.id = $1 and s.event_id = e.id and s.track_id is not null
       and not exists (select 1 from jsonb_array_elements(e.tracks) t where (t->>'id')::uuid = s.track_id)`,
    [eventId],
  );

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
    check: async ({ w, change }) => [
      ...(change.registerAt && !safeAddress(change.registerAt) ? [wrongAt('registerAt', 'no-address')] : []),
      ...(
        await Promise.all(
          (change.giftFunds ?? []).map((id) => unknown(w.tx, 'funds', id, 'giftFunds', 'fund')),
        )
      ).flat(),
    ],
    save: saveFields('registering'),
  },
  organizer: {
    check: ({ change }) =>
      change.organizer?.email && !isEmail(change.organizer.email)
        ? [wrongAt('organizer.email', 'not-an-email')]
        : [],
    save: saveFields('organizer'),
  },
  files: {
    check: async ({ w, change }) => {
      const there = new Set(
        (
          await w.tx.query<{ id: string }>('select id from files where id = any($1)', [
            change.dayFiles!.flatMap((f) => f.fileId ?? []),
          ])
        ).map((f) => f.id),
      );
      return change.dayFiles!.flatMap((f, at) => [
        ...(f.label.en.trim() ? [] : [wrongAt(`dayFiles.${at}.label.en`, 'name-needed')]),
        ...(f.fileId
          ? there.has(f.fileId)
            ? []
            : [wrongAt(`dayFiles.${at}.fileId`, 'thing-gone', { what: 'file' })]
          : safeAddress(f.address ?? '')
            ? []
            : [wrongAt(`dayFiles.${at}.address`, 'no-address')]),
      ]);
    },
    save: saveFields('files'),
  },
  look: { check: () => [], save: saveFields('look') },
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
    save: async (saving) => {
      const { w, event, before, after } = saving;
      // A first start brings along what waited for it; the shifts follow when the plan is saved.
      const { startsLocal, zone, allDay, showEnd } = after;
      // A choice that its time no longer leaves is let go.
      const secondTime = after.secondTime.filter(
        (field) => after[field] !== null && meaningOf(after[field], zone).kind === 'repeated',
      );
      const times =
        event.waits && !event.startsLocal && startsLocal
          ? arrive(event.waits, { ...after, startsLocal })
          : after;
      // What is sold was dated around the start it waited with.
      if (times !== after)
        await saveShop({ ...saving, change: shopAt(before, event.waits!.startsLocal, startsLocal) });
      return update(w.tx, 'events', event.id, {
        zone,
        allDay,
        showEnd,
        secondTime,
        ...instantsOf({ ...times, zone, secondTime }),
        ...(await addressAlong(w, event, before.startsLocal, startsLocal)),
      });
    },
  },
  place: {
    check: async ({ w, after, change }) => [
      ...(await unknown(w.tx, 'venues', change.venueId, 'venueId', 'venue')),
      ...(change.online?.link && !/^https?:/u.test(safeAddress(change.online.link) ?? '')
        ? [wrongAt('online.link', 'no-address')]
        : []),
      ...(change.roomId && !(await roomsOf(w.tx, after.venueId)).some((r) => r.id === change.roomId)
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
    check: async ({ w, before, after, change }) => [
      ...(change.waivers ? problemsWithRules(change.waivers, after) : []),
      ...(await problemsWithWaivers(w.tx, before.waivers, change.waivers ?? [])),
    ],
    save: saveFields('safety'),
  },
  doors: { check: () => [], save: saveFields('doors') },
  speakers: {
    check: ({ w, change }) => checkPeople(w.tx, 'speakers', change.speakers!),
    save: (saving) => saveList(saving, 'speakers', saving.before.speakers, saving.change.speakers!),
  },
  sponsors: {
    check: async ({ w, change }) => [
      ...(await checkPeople(w.tx, 'sponsors', change.sponsors!)),
      ...change.sponsors!.flatMap((s, at) =>
        s.address && !safeAddress(s.address) ? [wrongAt(`sponsors.${at}.address`, 'no-address')] : [],
      ),
    ],
    save: (saving) => saveList(saving, 'sponsors', saving.before.sponsors, saving.change.sponsors!),
  },
  agenda: {
    check: async ({ w, before, after }) =>
      problemsWithAgenda(
        after.sessions,
        { ...after, rooms: (await roomsOf(w.tx, after.venueId)).map((r) => r.id) },
        before.sessions,
      ),
    async save(saving) {
      const { before, change, w, event } = saving;
      if (change.sessions) {
        await saveList(saving, 'agenda_sessions', before.sessions, change.sessions);
        await keepRules(saving);
      }
      if (change.tracks) {
        await update(w.tx, 'events', event.id, { tracks: change.tracks });
        await leaveTracks(w.tx, event.id);
      }
    },
  },
  call: { check: () => [], save: saveFields('call') },
  admission: {
    check: async ({ w, change }) => {
      const { ways, noReply } = change.admission!;
      const units = await w.tx.query<{ id: string }>('select id from units where id = any($1)', [
        ways.flatMap((way) => way.unitIds),
      ]);
      return [
        ...(ways.length || noReply ? [] : [wrongAt('admission.ways', 'way-needed')]),
        ...ways.flatMap((way, at) => [
          ...(way.kind === 'units' && !way.unitIds.length
            ? [wrongAt(`admission.ways.${at}.unitIds`, 'unit-needed-here')]
            : []),
          ...(way.unitIds.every((id) => units.some((u) => u.id === id))
            ? []
            : [wrongAt(`admission.ways.${at}.unitIds`, 'thing-gone', { what: 'unit' })]),
          ...(way.opensLocal && way.closesLocal && way.closesLocal <= way.opensLocal
            ? [wrongAt(`admission.ways.${at}.closesLocal`, 'closes-before-opens')]
            : []),
        ]),
      ];
    },
    save: saveFields('admission'),
  },
  offers: {
    check: checkShop,
    save: saveShop,
  },
  questions: {
    check: async ({ w, change }) =>
      change.questions ? problemsWithQuestions(change.questions, await readFields(w.tx)) : [],
    async save(saving) {
      if (saving.change.questions) {
        await saveList(saving, 'questions', saving.before.questions, saving.change.questions);
        await keepRules(saving);
      }
      const { forgetDays, namesDays } = saving.change;
      await update(saving.w.tx, 'events', saving.event.id, {
        ...(forgetDays !== undefined && { forgetDays }),
        ...(namesDays !== undefined && { namesDays }),
      });
    },
  },
  messages: {
    check: ({ change }) => change.messages!.flatMap((m, at) => problemsWithTexts(m, `messages.${at}`)),
    save: (saving) => saveList(saving, 'message_lines', saving.before.messages, saving.change.messages!),
  },
  survey: { check: checkSurveys, save: saveSurveys },
  outcomes: { check: problemsWithOutcomes, save: saveFields('outcomes') },
};
