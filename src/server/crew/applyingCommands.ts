import slugify from '@sindresorhus/slugify';
import type { CallBody, PublicCall, SaidBody } from '#contract/applying.ts';
import { isGone } from '#core/contacts/quiet.ts';
import { readReach } from '#core/contacts/reach.ts';
import {
  type ApplicationState,
  afterSaying,
  decisionRefused,
  keptOf,
  maySay,
  type Offered,
  problemsWithSaid,
  type Said,
} from '#core/crew/applying.ts';
import { noLimits } from '#core/crew/limits.ts';
import { lives } from '#core/events/states.ts';
import { shiftDate } from '#core/time/dates.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { sameValue } from '#core/words/canonical.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { linkPerson } from '../contacts/linking.ts';
import { proposeOf } from '../contacts/proposals.ts';
import { readContact } from '../contacts/store.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { sentFile } from '../http/sentFile.ts';
import { theOrganization } from '../staff/store.ts';
import {
  type ApplicationRow,
  addCertificate,
  applicationOf,
  bytesWaiting,
  type CallRow,
  callBySlug,
  certificatesOf,
  claimCertificates,
  daysOf,
  dropPair,
  dropUnnamed,
  putPair,
  readCalls,
  rolesOffered,
  saidLast,
  saveCallRoles,
  skillsAsked,
  theApplication,
  whoToInvite,
} from './applyingStore.ts';
import { askForDeposit, settleDeclined } from './depositCommands.ts';
import { holdSkill, readHeldSkills } from './roleStore.ts';
import { readAble } from './store.ts';

/** How far back somebody has served who is written to as somebody who helped before, in years. */
const yearsBack = 3;
/** Bytes that wait at one call for applications which may never come. */
const mostLoose = 100_000_000;
/** The most days a grid has. */
const mostDays = 31;
/** The hours of a week's grid. */
const weekHours = { from: 7, to: 24 };

const subject = (call: Pick<CallRow, 'id' | 'eventId'>) => ({ callId: call.id, eventId: call.eventId });

const recordChange = (w: Work, call: CallRow, of: ApplicationRow, how: string) =>
  record(w, 'application changed', { ...subject(call), applicationId: of.id, contactId: of.contactId, how });

/** Makes a call for volunteers. */
export async function makeCall(w: Work, body: CallBody): Promise<{ id: string; slug: string }> {
  await checkCall(w, body);
  if (body.eventId) {
    if ((await readCalls(w.tx, body.eventId)).length) throw refused('call-for-event');
  }
  const base = slugify(body.title.en).slice(0, 60) || 'help';
  let slug = base;
  for (let n = 2; await callBySlug(w.tx, slug); n += 1) slug = `${base}-${n}`;
  const id = w.app.ids.id();
  const { roles, ...row } = body;
  await insert(w.tx, 'calls', { id, slug, ...row, madeAt: w.now });
  await saveCallRoles(w.tx, id, roles);
  await record(w, 'call changed', {
    ...subject({ id, eventId: body.eventId }),
    how: 'called for volunteers',
  });
  return { id, slug };
}

/** Changes a call. Somebody else’s change in between is refused; what people said stays. */
export async function changeCall(
  w: Work,
  call: CallRow,
  { version, ...body }: Omit<CallBody, 'eventId'> & { version: number },
): Promise<{ version: number }> {
  if (version !== call.version) throw refused('changed-by-somebody');
  await checkCall(w, { ...body, eventId: call.eventId });
  const { roles, ...row } = body;
  await update(w.tx, 'calls', call.id, { ...row, version: version + 1 });
  await saveCallRoles(w.tx, call.id, roles);
  await record(w, 'call changed', {
    ...subject(call),
    how: body.open === call.open ? 'changed a call' : body.open ? 'opened a call' : 'closed a call',
  });
  return { version: version + 1 };
}

async function checkCall(w: Work, { eventId, fromOn, untilOn, roles }: CallBody): Promise<void> {
  const wrong: Wrong[] = [];
  if (!roles.length) wrong.push(wrongAt('roles', 'call-roles'));
  if ((await rolesOffered(w.tx, roles)).length < new Set(roles).size)
    wrong.push(wrongAt('roles', 'role-gone'));
  if (!eventId && (fromOn === null) !== (untilOn === null)) wrong.push(wrongAt('untilOn', 'call-season'));
  if (fromOn && untilOn && untilOn < fromOn) wrong.push(wrongAt('untilOn', 'call-season-ends'));
  if (eventId && (fromOn || untilOn)) wrong.push(wrongAt('fromOn', 'call-season'));
  if (wrong.length) throw invalid(wrong);
}

/** A call as the public sees it: what is offered and asked, and the grid on which availability is painted. */
export async function publicCallOf(tx: Queries, call: CallRow, now: string): Promise<PublicCall> {
  const event = call.eventId ? await readEvent(tx, call.eventId) : null;
  const { slug, title, words, fromOn, untilOn, asks } = call;
  return {
    slug,
    title,
    words,
    open: await isOpen(tx, call, now),
    event: event && {
      title: event.publicTitle,
      slug: event.slug,
      startsLocal: event.startsLocal,
      endsLocal: event.endsLocal,
      place: event.venueName,
    },
    fromOn,
    untilOn,
    asks,
    deposit: call.deposit && { ...call.deposit, currency: call.currency },
    roles: await rolesOffered(tx, call.roles),
    skills: asks.includes('skills') ? await skillsAsked(tx) : [],
    grid: await gridOf(tx, call),
  };
}

async function gridOf(tx: Queries, call: CallRow): Promise<PublicCall['grid']> {
  const span = call.eventId ? await daysOf(tx, call.eventId) : null;
  if (!span?.first || !span.last)
    return { kind: 'week', days: ['1', '2', '3', '4', '5', '6', '0'], ...weekHours };
  const days: string[] = [];
  for (let day = span.first; day <= span.last && days.length < mostDays; day = shiftDate(day, 1))
    days.push(day);
  const from = span.from ?? 0;
  return { kind: 'dates', days, from, to: Math.max(from + 1, span.to ?? 24) };
}

/** Whether anybody can apply now: the call is open, and what it is about is still to come. */
async function isOpen(tx: Queries, call: CallRow, now: string): Promise<boolean> {
  if (!call.open) return false;
  if (call.eventId) {
    const event = await readEvent(tx, call.eventId);
    const over = event.endsAt ?? event.startsAt;
    return (
      (lives(event.state) || ['draft', 'in clearance', 'cleared'].includes(event.state)) &&
      (!over || over > now)
    );
  }
  return call.untilOn === null || call.untilOn >= dateOf(now, (await theOrganization(tx)).zone);
}

const offeredBy = async (tx: Queries, call: CallRow): Promise<Offered> => ({
  roles: (await rolesOffered(tx, call.roles)).map((r) => r.id),
  skills: await skillsAsked(tx),
  asks: call.asks,
  kind: (await gridOf(tx, call)).kind,
});

/** What somebody says, as it is kept; refused at `said` where something is wrong with it. */
async function checked(w: Work, call: CallRow, said: SaidBody): Promise<Said> {
  const { zone } = await theOrganization(w.tx);
  const offered = await offeredBy(w.tx, call);
  const wrong = problemsWithSaid(said, offered, dateOf(w.now, zone));
  if (wrong.length) throw invalid(wrong.map((p) => ({ ...p, path: `said.${p.path}` })));
  return keptOf(said, offered);
}

const filesIn = (...said: (Said | null)[]): string[] => [
  ...new Set(said.flatMap((s) => s?.skills.flatMap((x) => x.fileId ?? []) ?? [])),
];

/** Gives the files that were named to the application, and lets go of those it names no longer. */
async function keepFiles(w: Work, callId: string, id: string, said: Said, again: Said | null): Promise<void> {
  const own = filesIn(said);
  if ((await claimCertificates(w.tx, callId, id, own)) < own.length) throw refused('file-gone');
  await dropUnnamed(w.tx, id, filesIn(said, again));
}

/**
 * Takes an application from outside. What somebody said before by their own link is not touched: it waits beside it until the crew lead
 * takes it over. Whoever applies learns nothing of the person they name. `contactId` is whoever is signed in.
 */
export async function apply(
  w: Work,
  call: CallRow,
  body: {
    person: { given: string; family: string; email: string; phone: string } | null;
    said: SaidBody;
    language: 'en' | 'fr';
  },
  contactId: string | null,
): Promise<void> {
  if (!(await isOpen(w.tx, call, w.now))) throw refused('call-closed');
  const said = await checked(w, call, body.said);
  const who = contactId ?? (await whoApplies(w, call, body.person, said));
  if (isGone((await readAble(w.tx, who))!.quiet)) return;
  const before = await applicationOf(w.tx, call.id, who);
  if (before && before.state !== 'invited') {
    if (contactId) return sayAgain(w, call, before, said);
    if (!sameValue(before.said, said)) {
      await keepFiles(w, call.id, before.id, said, before.said);
      await update(w.tx, 'applications', before.id, { again: said, version: before.version + 1 });
    }
    // Who has the address hears of it, and has their own link to say what they mean.
    await record(w, 'application came', {
      ...subject(call),
      applicationId: before.id,
      contactId: who,
      again: true,
    });
    return;
  }
  const id = before?.id ?? w.app.ids.id();
  const row = { state: 'new', said, language: body.language, appliedAt: w.now, changedAt: w.now };
  if (before) await update(w.tx, 'applications', id, { ...row, version: before.version + 1 });
  else await insert(w.tx, 'applications', { id, callId: call.id, contactId: who, ...row });
  await keepFiles(w, call.id, id, said, null);
  await record(w, 'application came', { ...subject(call), applicationId: id, contactId: who, again: false });
}

async function whoApplies(
  w: Work,
  call: CallRow,
  person: { given: string; family: string; email: string; phone: string } | null,
  said: Said,
): Promise<string> {
  if (!person) throw invalid([wrongAt('person.given', 'first-name-needed')]);
  const { email, phone, problems } = readReach(person, (await theOrganization(w.tx)).country);
  if (!person.email) problems.push(wrongAt('email', 'not-an-email'));
  if (problems.length) throw invalid(problems.map((p) => ({ ...p, path: `person.${p.path}` })));
  const { contactId } = await linkPerson(
    w,
    { given: person.given, family: person.family, email, phone, birthDate: said.birthDate },
    `applied to help: ${call.title.en}`,
    'outside',
  );
  return contactId;
}

async function sayAgain(w: Work, call: CallRow, before: ApplicationRow, said: Said): Promise<void> {
  if (!maySay(before.state)) throw refused('application-declined');
  const state = afterSaying(before.state);
  await update(w.tx, 'applications', before.id, {
    said,
    state,
    changedAt: w.now,
    ...(before.state === 'invited' ? { appliedAt: w.now } : {}),
    version: before.version + 1,
  });
  await keepFiles(w, call.id, before.id, said, before.again);
  if (said.birthDate)
    await proposeOf(w, before.contactId, { birthDate: said.birthDate }, `applied to help: ${call.title.en}`);
  await recordChange(w, call, before, before.state === 'invited' ? 'applied' : 'changed what they said');
}

/** Somebody says, confirms or changes what they offer, by their own link. */
export async function sayByLink(
  w: Work,
  call: CallRow,
  application: ApplicationRow,
  body: SaidBody,
): Promise<void> {
  if (application.state === 'invited' && !(await isOpen(w.tx, call, w.now))) throw refused('call-closed');
  await sayAgain(w, call, application, await checked(w, call, body));
}

/** What is known of somebody, as they would say it: what they said last, and what is on record of what they can do. */
export async function knownOf(tx: Queries, call: CallRow, contactId: string): Promise<Said> {
  const last = await saidLast(tx, contactId);
  const grid = await gridOf(tx, call);
  const offered = new Set(call.roles);
  return {
    wishes: last?.wishes.filter((x) => offered.has(x.roleId)) ?? [],
    skills: (await readHeldSkills(tx, contactId)).map(({ skillId, number, until }) => ({
      skillId,
      number,
      until,
      fileId: null,
    })),
    // What they said of dates is of those dates alone; what they said of a week holds for another.
    available:
      last?.available && last.available.kind === 'week' && grid.kind === 'week' ? last.available : null,
    limits: last?.limits ?? noLimits,
    company: last?.company ?? '',
    shirt: last?.shirt ?? '',
    // Whoever reads their mail learns no birth date by it.
    birthDate: null,
    experience: last?.experience ?? '',
  };
}

/** Answers what the crew lead asked. */
export async function answerAsked(
  w: Work,
  call: CallRow,
  application: ApplicationRow,
  words: string,
): Promise<void> {
  if (!application.question) throw notFound('This question');
  await update(w.tx, 'applications', application.id, {
    answer: words,
    changedAt: w.now,
    version: application.version + 1,
  });
  await recordChange(w, call, application, 'answered what was asked');
}

/** Asks somebody something before they are decided on; what they answered before goes with the question before. */
export async function askApplicant(
  w: Work,
  call: CallRow,
  application: ApplicationRow,
  words: string,
): Promise<void> {
  if (application.state === 'invited') throw refused('not-applied');
  await update(w.tx, 'applications', application.id, {
    question: words,
    answer: '',
    version: application.version + 1,
  });
  await record(w, 'application asked', {
    ...subject(call),
    applicationId: application.id,
    contactId: application.contactId,
    words,
  });
}

/**
 * Accepts or declines people, or lets them rest. Whoever it is so of already, or who said nothing yet, is left as they are; of one alone
 * that is refused. What an accepted person wrote down of skills is on record, unseen, where nothing is. Answers how many changed.
 */
export async function decideApplications(
  w: Work,
  of: readonly { call: CallRow; application: ApplicationRow }[],
  to: Exclude<ApplicationState, 'invited' | 'new'>,
  words: string,
  tell: boolean,
): Promise<{ changed: number; told: number }> {
  let changed = 0;
  const tells = tell && to !== 'resting';
  for (const { call, application } of of) {
    const no = decisionRefused(application.state, to);
    if (no && of.length === 1) throw refused(no);
    if (no) continue;
    await update(w.tx, 'applications', application.id, {
      state: to,
      decidedAt: w.now,
      decidedBy: w.actor.name,
      version: application.version + 1,
    });
    if (to === 'accepted') {
      await noteSkills(w, application);
      await askForDeposit(w, call, application);
    }
    if (to === 'declined') await settleDeclined(w, application.id, tells);
    await record(w, 'application decided', {
      ...subject(call),
      applicationId: application.id,
      contactId: application.contactId,
      to,
      words,
      tell: tells,
    });
    changed += 1;
  }
  return { changed, told: tells ? changed : 0 };
}

async function noteSkills(w: Work, { contactId, said }: ApplicationRow): Promise<void> {
  const held = await readHeldSkills(w.tx, contactId);
  for (const { skillId, number, until, fileId } of said!.skills)
    if (!held.some((h) => h.skillId === skillId))
      await holdSkill(w.tx, {
        contactId,
        skillId,
        number,
        until,
        fileId,
        seenBy: null,
        seenAt: null,
        saidAt: w.now,
      });
}

/** Says that a certificate somebody wrote down was seen: it is on record as they gave it. */
export async function seeCertificate(w: Work, application: ApplicationRow, skillId: string): Promise<void> {
  const said = application.said?.skills.find((s) => s.skillId === skillId);
  if (!said) throw notFound('This skill');
  const { number, until, fileId } = said;
  await holdSkill(w.tx, {
    contactId: application.contactId,
    skillId,
    number,
    until,
    fileId,
    seenBy: w.actor.name,
    seenAt: w.now,
    saidAt: w.now,
  });
  await record(w, 'contact changed', {
    contactId: application.contactId,
    how: 'wrote down a skill',
    detail: { skillId, number, until, seen: true },
  });
}

/** Takes over, or sets aside, what was said in somebody's name without their own link. */
export async function decideAgain(
  w: Work,
  call: CallRow,
  application: ApplicationRow,
  take: boolean,
): Promise<void> {
  const { again, said } = application;
  if (!again || !said) throw notFound('This application');
  await update(w.tx, 'applications', application.id, {
    again: null,
    ...(take ? { said: again, changedAt: w.now } : {}),
    version: application.version + 1,
  });
  await dropUnnamed(w.tx, application.id, filesIn(take ? again : said));
  await recordChange(
    w,
    call,
    application,
    take ? 'took over what was said again' : 'set aside what was said again',
  );
}

/** Writes to people known before, each with a link where their details stand already; `trying` only says to whom. */
export async function inviteKnown(
  w: Work,
  call: CallRow,
  { contactIds, helped, trying }: { contactIds: readonly string[]; helped: boolean; trying: boolean },
): Promise<{ invited: number; names: string[] }> {
  const since = helped ? `${Number(w.now.slice(0, 4)) - yearsBack}${w.now.slice(4)}` : null;
  const people = await whoToInvite(w.tx, call.id, contactIds, since);
  const names = people.slice(0, 12).map((p) => p.name);
  if (trying) return { invited: people.length, names };
  if (!(await isOpen(w.tx, call, w.now))) throw refused('call-closed');
  for (const { contactId, language } of people) {
    const id = w.app.ids.id();
    await insert(w.tx, 'applications', {
      id,
      callId: call.id,
      contactId,
      state: 'invited',
      language: language === 'fr' ? 'fr' : 'en',
      changedAt: w.now,
    });
    await record(w, 'application invited', { ...subject(call), applicationId: id, contactId });
  }
  return { invited: people.length, names };
}

/** Keeps a certificate until an application names it. Refuses what is not what its name says, as a program. */
export async function keepCertificate(
  w: Work,
  call: CallRow,
  name: string,
  content: string,
): Promise<{ id: string; name: string }> {
  const { bytes, mediaType } = sentFile(name, content);
  if ((await bytesWaiting(w.tx, call.id)) + bytes.length > mostLoose) throw refused('too-many', {}, 429);
  const id = w.app.ids.id();
  await addCertificate(w.tx, { id, callId: call.id, name, mediaType, content: bytes, at: w.now });
  return { id, name };
}

/** Says that two serve together, or never on one shift; what was said of them before is so no longer. */
export async function pairUp(
  w: Work,
  call: CallRow,
  application: ApplicationRow,
  { contactId, kind }: { contactId: string; kind: 'together' | 'apart' },
): Promise<void> {
  if (contactId === application.contactId) throw invalid([wrongAt('contactId', 'with-themselves')]);
  if (!(await readContact(w.tx, contactId))) throw invalid([wrongAt('contactId', 'contact-gone')]);
  await putPair(w.tx, {
    id: w.app.ids.id(),
    contactId: application.contactId,
    otherId: contactId,
    kind,
    by: w.actor.name,
    at: w.now,
  });
  await recordChange(w, call, application, kind === 'together' ? 'put two together' : 'kept two apart');
}

export async function unpair(
  w: Work,
  call: CallRow,
  application: ApplicationRow,
  pairId: string,
): Promise<void> {
  if (!(await dropPair(w.tx, pairId, application.contactId))) throw notFound('This pair');
  await recordChange(w, call, application, 'said no more of two');
}

/** An application with the call it answers, for whoever holds its link. */
export async function ownApplication(
  tx: Queries,
  id: string,
  call: CallRow,
): Promise<{ application: ApplicationRow; said: Said; files: { id: string; name: string }[] }> {
  const application = await theApplication(tx, id);
  return {
    application,
    said: application.said ?? (await knownOf(tx, call, application.contactId)),
    files: await certificatesOf(tx, id),
  };
}
