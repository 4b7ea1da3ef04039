import type { applyingContract } from '#contract/applying.ts';
import { partsOfAll } from '#core/access/contacts.ts';
import { stagesOf } from '#core/access/stages.ts';
import { fullName } from '#core/contacts/names.ts';
import { maySay } from '#core/crew/applying.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { type Asker, followLink, liveLink } from '../app/app.ts';
import { demandParts } from '../contacts/seeing.ts';
import { readContact } from '../contacts/store.ts';
import { visitorOf } from '../contacts/visitor.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { readEvent } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import {
  answerAsked,
  apply,
  askApplicant,
  changeCall,
  decideAgain,
  decideApplications,
  inviteKnown,
  keepCertificate,
  knownOf,
  makeCall,
  ownApplication,
  pairUp,
  publicCallOf,
  sayByLink,
  seeCertificate,
  unpair,
} from './applyingCommands.ts';
import {
  type ApplicationRow,
  applicationOf,
  applicationsOf,
  type CallRow,
  callBySlug,
  certificatesOf,
  readApplications,
  readCalls,
  theApplication,
  theCall,
  theCertificate,
} from './applyingStore.ts';
import { ownDeposit, shownDeposits } from './depositCommands.ts';

const done = { done: true } as const;

/** Calls for an event are for whoever leads its crew; those for a season, and standing ones, for whoever leads all crews. */
async function demandCall(c: Asker & { tx: Queries }, eventId: string | null): Promise<void> {
  if (eventId) await eventFor(c, eventId, 'crew', 'change');
  else demandParts(partsOfAll(c.staff), ['shifts']);
}

export async function callFor(c: Asker & { tx: Queries }, id: string, lock = false): Promise<CallRow> {
  const call = await theCall(c.tx, id, lock);
  await demandCall(c, call.eventId);
  return call;
}

async function applicationFor(
  c: Asker & { tx: Queries; params: { id: string } },
): Promise<{ call: CallRow; application: ApplicationRow }> {
  const application = await theApplication(c.tx, c.params.id, true);
  return { application, call: await callFor(c, application.callId) };
}

/** A call that anybody may look at: one that is open. */
async function publicCall(tx: Queries, slug: string, lock = false): Promise<CallRow> {
  const call = await callBySlug(tx, slug, lock);
  if (!call?.open) throw notFound('This page');
  return call;
}

async function byLink(tx: Queries, token: string): Promise<{ call: CallRow; application: ApplicationRow }> {
  const id = await followLink(tx, 'application', token);
  if (!id) throw notFound('This page');
  const application = await theApplication(tx, id, true);
  return { application, call: await theCall(tx, application.callId) };
}

export const applyingHandlers: Handlers<typeof applyingContract> = {
  'GET /api/calls': async (c) => {
    const calls = await readCalls(c.tx, c.query.eventId ?? null);
    const all = partsOfAll(c.staff).has('shifts');
    const shown = [];
    for (const call of calls)
      if (
        call.eventId
          ? stagesOf(c.staff, await readEvent(c.tx, call.eventId), c.now).get('crew') === 'change'
          : all
      )
        shown.push(call);
    return shown;
  },

  'POST /api/calls': async (c) => {
    await demandCall(c, c.body.eventId);
    return makeCall(c, c.body);
  },

  'PUT /api/calls/:id': async (c) => changeCall(c, await callFor(c, c.params.id, true), c.body),

  'GET /api/calls/:id/applications': async (c) => {
    const { tx, now } = c;
    const call = await callFor(c, c.params.id);
    const { zone } = await theOrganization(tx);
    const event = call.eventId ? await readEvent(tx, call.eventId) : null;
    const day = event?.startsLocal?.slice(0, 10) ?? call.fromOn ?? dateOf(now, zone);
    const shown = (await readCalls(tx, call.eventId)).find((k) => k.id === call.id)!;
    const deposits = await shownDeposits(tx, call, now);
    const applications = await readApplications(tx, call, day);
    return {
      call: shown,
      applications: applications.map((a) => ({ ...a, deposit: deposits.get(a.id) ?? null })),
    };
  },

  'POST /api/calls/:id/invite': async (c) => inviteKnown(c, await callFor(c, c.params.id), c.body),

  'POST /api/applications/decide': async (c) => {
    const rows = await applicationsOf(c.tx, [...new Set(c.body.ids)]);
    if (rows.length < new Set(c.body.ids).size) throw notFound('One of the applications');
    const calls = new Map<string, CallRow>();
    for (const { callId } of rows) if (!calls.has(callId)) calls.set(callId, await callFor(c, callId));
    const of = rows.map((application) => ({ application, call: calls.get(application.callId)! }));
    return decideApplications(c, of, c.body.to, c.body.words, c.body.tell);
  },

  'POST /api/applications/:id/ask': async (c) => {
    const { call, application } = await applicationFor(c);
    await askApplicant(c, call, application, c.body.words);
    return done;
  },

  'POST /api/applications/:id/again': async (c) => {
    const { call, application } = await applicationFor(c);
    await decideAgain(c, call, application, c.body.take);
    return done;
  },

  'POST /api/applications/:id/skills/:skill/seen': async (c) => {
    const { application } = await applicationFor(c);
    await seeCertificate(c, application, c.params.skill);
    return done;
  },

  'GET /api/applications/:id/files/:file': async (c) => {
    const application = await theApplication(c.tx, c.params.id);
    await callFor(c, application.callId);
    const { name, mediaType, content } = await theCertificate(c.tx, application.id, c.params.file);
    return new File(name, Buffer.from(content), false, mediaType);
  },

  'POST /api/applications/:id/pairs': async (c) => {
    const { call, application } = await applicationFor(c);
    await pairUp(c, call, application, c.body);
    return done;
  },

  'DELETE /api/applications/:id/pairs/:pair': async (c) => {
    const { call, application } = await applicationFor(c);
    await unpair(c, call, application, c.params.pair);
    return done;
  },

  'GET /api/public/calls/:slug': async (c) => {
    const { tx, now, request } = c;
    const call = await publicCall(tx, c.params.slug);
    const shown = await publicCallOf(tx, call, now);
    const visitor = await visitorOf(c, request);
    const contact = visitor && (await readContact(tx, visitor.contactId));
    if (!visitor || !contact) return { ...shown, you: null };
    const own = await applicationOf(tx, call.id, visitor.contactId);
    return {
      ...shown,
      you: {
        name: fullName({ given: contact.givenName, family: contact.familyName }),
        said: own?.said ?? (await knownOf(tx, call, visitor.contactId)),
        files: own ? await certificatesOf(tx, own.id) : [],
        applied: own !== null && own.state !== 'invited',
      },
    };
  },

  'POST /api/public/calls/:slug/files': async (c) =>
    keepCertificate(c, await publicCall(c.tx, c.params.slug), c.body.name, c.body.content),

  'POST /api/public/calls/:slug': async (c) => {
    const call = await publicCall(c.tx, c.params.slug, true);
    const visitor = c.body.person ? null : await visitorOf(c, c.request);
    await apply(c, call, c.body, visitor?.contactId ?? null);
    return done;
  },

  'GET /api/public/applications/:token': async (c) => {
    const { tx, now, params } = c;
    const { call, application } = await byLink(tx, params.token);
    const { said, files } = await ownApplication(tx, application.id, call);
    const contact = (await readContact(tx, application.contactId))!;
    return {
      call: await publicCallOf(tx, call, now),
      name: contact.givenName || contact.familyName,
      state: application.state,
      said,
      files,
      question: application.question,
      answer: application.answer,
      maySay: maySay(application.state),
      deposit: await ownDeposit(tx, application.id, application.language),
      shiftsToken: application.state === 'accepted' ? await liveLink(c, 'crew', application.contactId) : null,
    };
  },

  'PUT /api/public/applications/:token': async (c) => {
    const { call, application } = await byLink(c.tx, c.params.token);
    await sayByLink(c, call, application, c.body.said);
    return done;
  },

  'POST /api/public/applications/:token/answer': async (c) => {
    const { call, application } = await byLink(c.tx, c.params.token);
    await answerAsked(c, call, application, c.body.words);
    return done;
  },
};
