import { signatureRow, type waiversContract } from '#contract/waivers.ts';
import { factsOf } from '#core/access/stages.ts';
import { fold } from '#core/contacts/names.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { findBreaks } from '#core/waivers/chain.ts';
import { isInFrench } from '#core/waivers/form.ts';
import { holdsUntil } from '#core/waivers/holding.ts';
import { sayAnswers } from '#core/waivers/signing.ts';
import { signPosterSays } from '#core/words/posters.ts';
import { followLink, type Work } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { eventFor } from '../events/access.ts';
import { readEvent } from '../events/store.ts';
import { File, type Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';
import { posterFile } from '../print/posterFile.ts';
import { signedCopy } from '../print/signedCopy.ts';
import { theOrganization } from '../staff/store.ts';
import { askToSign, chasedAt } from './chasing.ts';
import { addWaiver, changeWaiver, closeWaiver, revoke, reword } from './commands.ts';
import { signaturesCsv } from './csv.ts';
import { eventsAsking, readVersions, readWaivers, standingWaiver, theWaiver } from './formStore.ts';
import { enterPaper } from './paper.ts';
import {
  actOfCopy,
  keepCopy,
  knowHand,
  readChain,
  readScan,
  readSignatures,
  type SignatureRead,
  signaturesOfAct,
  signaturesOfWaiver,
  theSignature,
} from './signatureStore.ts';
import { type SignedBy, signForSeats } from './signing.ts';
import { signStanding } from './standing.ts';
import { asRead, readBuyer, readSigner } from './store.ts';
import { mayBeTold, sentFrom } from './telling.ts';

/** How many signatures are listed at a time. */
const page = 100;

const today = async (c: Pick<Work, 'tx' | 'now'>): Promise<string> =>
  dateOf(c.now, (await theOrganization(c.tx)).zone);

/** The copy of what was signed in one go. What is about health stands in the copy of whoever signed alone. */
async function copyOf(
  c: Pick<Work, 'app' | 'tx' | 'now'>,
  signatures: readonly SignatureRead[],
  withHealth: boolean,
): Promise<File> {
  const [first] = signatures;
  const { name, zone } = await theOrganization(c.tx);
  const pdf = await signedCopy({
    organization: name,
    zone,
    language: first!.language === 'fr' ? 'fr' : 'en',
    title: first!.title,
    made: first!.at,
    verifyAt: `${c.app.origin}/verify`,
    signatures: signatures.map((s) => ({
      ...s,
      revokedAt: s.revoked?.at ?? null,
      answers: sayAnswers(s.answers.filter((a) => withHealth || !a.health)),
    })),
  });
  await keepCopy(c.tx, sha256(pdf), first!.act, c.now);
  return new File(`signed-${first!.number}.pdf`, pdf, true);
}

/** What was signed in one go, by the link of its copy. */
async function signedByLink(c: Pick<Work, 'tx' | 'now'>, token: string): Promise<SignatureRead[]> {
  const act = await followLink(c.tx, 'signed', token);
  const signatures = act ? await signaturesOfAct(c.tx, act, await today(c)) : [];
  if (!signatures.length) throw notFound('This page');
  return signatures;
}

/** Who signs on the link of a booking: whoever booked where they type their name. */
const signerOf = (
  buyer: { contactId: string | null; birthDate: string | null; name: string },
  typedName: string,
): SignedBy['signer'] =>
  buyer.contactId && fold(buyer.name) === fold(typedName)
    ? { contactId: buyer.contactId, birthDate: buyer.birthDate }
    : null;

async function sayBreaks(tx: Queries) {
  const { links, texts } = await readChain(tx);
  const words = {
    'link gone': 'The link is not there any more.',
    'link changed': 'The link says something else than what was hashed, or does not follow the one before.',
    'text changed': 'The text is not what was signed.',
    'signature gone': 'The signature is not there any more.',
    'not linked': 'A signature stands outside of the chain.',
  } as const;
  return {
    links: links.length,
    breaks: findBreaks(links, texts, sha256)
      .slice(0, 200)
      .map(({ number, what }) => ({ number, says: words[what] })),
  };
}

import { cosign, otherGuardiansPage, toCosign } from './cosigning.ts';

export const waiversHandlers: Handlers<typeof waiversContract> = {
  'GET /api/waivers': async (c) =>
    (await readWaivers(c.tx, await today(c), c.now)).map(
      ({ id, title, version, audience, holds, standing, closedAt, signed, events }) => ({
        id,
        title,
        version,
        audience,
        holds,
        standing,
        closed: closedAt !== null,
        signed,
        events,
      }),
    ),

  'POST /api/waivers': async (c) => ({ id: await addWaiver(c, c.body) }),

  'GET /api/waivers/:id': async ({ app, tx, params, now }) => {
    const { versionId: _, title: __, slug, ...waiver } = await theWaiver(tx, params.id);
    return {
      ...waiver,
      page: waiver.standing && slug ? `${app.origin}/sign/${slug}` : null,
      versions: await readVersions(tx, params.id),
      events: await eventsAsking(tx, params.id, now),
    };
  },

  'PATCH /api/waivers/:id': async (c) => {
    await changeWaiver(c, c.params.id, c.body);
    return { done: true };
  },

  'POST /api/waivers/:id/versions': async (c) => ({ version: await reword(c, c.params.id, c.body) }),

  'POST /api/waivers/:id/closing': async (c) => {
    await closeWaiver(c, c.params.id, c.body.closed);
    return { done: true };
  },

  'GET /api/waivers/:id/signatures': async (c) => {
    await theWaiver(c.tx, c.params.id);
    const { q, state, before } = c.query;
    const rows = await signaturesOfWaiver(c.tx, c.params.id, await today(c), {
      q,
      state: state ?? null,
      before: before ? Number(before) : null,
      limit: page + 1,
    });
    const shown = rows.slice(0, page);
    // The list has what its contract says and no more: answers about health are not for it.
    return {
      rows: shown.map((read) => signatureRow.parse(read)),
      more: rows.length > page ? String(shown.at(-1)!.number) : null,
    };
  },

  'GET /api/waivers/:id/signatures.csv': async (c) => {
    const waiver = await theWaiver(c.tx, c.params.id);
    const rows = await signaturesOfWaiver(c.tx, waiver.id, await today(c), {
      q: '',
      state: null,
      before: null,
      limit: 100_000,
    });
    return new File('signatures.csv', signaturesCsv(rows, (await theOrganization(c.tx)).zone));
  },

  'GET /api/waivers/:id/poster.pdf': async (c) => {
    const { slug, standing, text } = await theWaiver(c.tx, c.params.id);
    if (!standing || !slug) throw notFound('This page');
    return posterFile(c.tx, `${slug}.pdf`, {
      title: text.title.en,
      says: signPosterSays(isInFrench(text)),
      address: `${c.app.origin}/sign/${slug}`,
    });
  },

  'POST /api/waivers/:id/paper': async (c) => ({ id: await enterPaper(c, c.params.id, c.body) }),

  'GET /api/signatures/:id/scan': async ({ tx, params }) => {
    const scan = await readScan(tx, params.id);
    if (!scan) throw notFound('This scan');
    return new File(scan.name, Buffer.from(scan.content), false, scan.mediaType);
  },

  'GET /api/signatures/:id/copy.pdf': async (c) => {
    const { act } = await theSignature(c.tx, c.params.id, await today(c));
    return copyOf(c, await signaturesOfAct(c.tx, act, await today(c)), false);
  },

  'POST /api/signatures/:id/revocation': async (c) => {
    await revoke(c, c.params.id, c.body.why);
    return { done: true };
  },

  'GET /api/signature-chain': ({ tx }) => sayBreaks(tx),

  'GET /api/events/:id/signing': async (c) => {
    const event = await eventFor(c, c.params.id, 'doors', 'see');
    const { waivers, rows } = await chasedAt(c, event);
    return {
      waivers: waivers.map(({ id, title, holds }) => ({ id, title, holds })),
      rows: rows.map(({ orderId: _, ...row }) => row),
    };
  },

  'POST /api/events/:id/signing/reminders': async (c) =>
    askToSign(c, await eventFor(c, c.params.id, 'doors', 'change'), c.body.keys),

  'POST /api/public/orders/:token/signatures': async (c) => {
    const { tx, params, body } = c;
    const orderId = await followLink(tx, 'manage', params.token);
    if (!orderId) throw notFound('This booking');
    const buyer = await readBuyer(tx, orderId);
    const { seats, ...hand } = body;
    const read = [];
    for (const { registrationId, ...said } of seats) {
      const seat = await readSigner(tx, registrationId);
      if (seat?.orderId !== orderId) throw notFound('This seat');
      read.push({ ...seat, ...said });
    }
    const { act, hashes } = await signForSeats(c, read, hand, {
      ...sentFrom(c.request),
      way: 'link',
      mayKnow: await mayBeTold(c, c.request, { token: params.token, buyerContactId: buyer.contactId }),
      signer: signerOf(buyer, body.typedName),
      copyTo: buyer.email,
      language: buyer.language,
    });
    return { act, signed: read.map((seat, at) => ({ registrationId: seat.id, sha256: hashes[at]! })) };
  },

  'GET /api/registrations/:id/signatures': async (c) => {
    const { tx, params } = c;
    const seat = await readSigner(tx, params.id);
    if (!seat) throw notFound('This registration');
    const event = await readEvent(tx, seat.eventId);
    if (!factsOf(c.staff, event, c.now).has('signature')) throw refused('not-your-waivers', {}, 403);
    return (await readSignatures(tx, params.id)).map((row) => ({
      ...row,
      matches: sha256(row.text) === row.sha256,
    }));
  },

  'GET /api/public/waivers/:slug': async (c) => {
    const waiver = await standingWaiver(c.tx, c.params.slug);
    const { name, ageOfMajority } = await theOrganization(c.tx);
    return {
      waiver: asRead(waiver, c.query.language),
      organization: name,
      audience: waiver.audience,
      guardians: waiver.guardians,
      closed: waiver.closedAt !== null,
      inFrench: isInFrench(waiver.text),
      holdsUntil: holdsUntil(waiver.holds, await today(c)),
      ageOfMajority,
    };
  },

  'POST /api/public/waivers/:slug/signatures': async (c) =>
    signStanding(c, await standingWaiver(c.tx, c.params.slug), c.body, sentFrom(c.request)),

  'GET /api/public/signed/:token': async (c) => {
    const signatures = await signedByLink(c, c.params.token);
    const [first] = signatures;
    const { name, zone } = await theOrganization(c.tx);
    return {
      organization: name,
      title: first!.title,
      language: first!.language === 'fr' ? ('fr' as const) : ('en' as const),
      at: first!.at,
      zone,
      typedName: first!.typedName,
      event: first!.event?.title ?? null,
      other: await otherGuardiansPage(c, first!.act),
      people: signatures.map((s) => ({
        name: s.participant,
        holdsUntil: s.holdsUntil,
        state: s.state,
        sha256: s.sha256,
      })),
    };
  },

  'GET /api/public/cosign/:token': async (c) => {
    const { waiver, first } = await toCosign(c, c.params.token);
    return {
      waiver: asRead(waiver, c.query.language),
      organization: (await theOrganization(c.tx)).name,
      by: first[0]?.typedName ?? '',
      people: first.map((s) => ({ signatureId: s.id, name: s.participant })),
      closed: waiver.closedAt !== null,
    };
  },

  'POST /api/public/cosign/:token': async (c) => ({
    people: await cosign(c, await toCosign(c, c.params.token), c.body, sentFrom(c.request)),
  }),

  'POST /api/public/signed/:token/seen': async (c) => {
    const [first] = await signedByLink(c, c.params.token);
    await knowHand(c.tx, first!.act, c.now);
    return { done: true };
  },

  'POST /api/public/signed/:token/revocation': async (c) => {
    for (const { id } of await signedByLink(c, c.params.token))
      await revoke(c, id, 'by the link of the copy', 'whoever got the copy');
    return { done: true };
  },

  'GET /api/public/signed/:token/copy.pdf': async (c) =>
    copyOf(c, await signedByLink(c, c.params.token), true),

  'POST /api/public/signatures/check': async (c) => {
    const act = await actOfCopy(c.tx, c.body.sha256);
    const signatures = act ? await signaturesOfAct(c.tx, act, await today(c)) : [];
    const [first] = signatures;
    if (!first) return { found: null };
    return {
      found: {
        title: first.title,
        version: first.version,
        at: first.at,
        people: signatures.length,
        valid: signatures.filter((s) => s.state === 'valid').length,
        organization: (await theOrganization(c.tx)).name,
      },
    };
  },
};
