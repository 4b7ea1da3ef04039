import type { AnswerValue } from '#core/questions/answering.ts';
import type { ChainLink } from '#core/waivers/chain.ts';
import { first, type Queries } from '../db/database.ts';
import { instantSql as instant } from '../db/instants.ts';
import { notFound } from '../http/problem.ts';

/** What was signed for a seat, as far as it still holds; newest first. */
export const readSignatures = (tx: Queries, registrationId: string) =>
  tx.query<{ title: string; text: string; sha256: string; typedName: string; relation: string; at: string }>(
    `select w.title, g.signed_text as text, g.sha256, g.typed_name, g.relation, g.at from signatures g join waivers w on w.id = g.waiver_id
     where g.registration_id = $1 and g.state = 'valid' order by g.at desc, g.id desc`,
    [registrationId],
  );

/** Who signed a version for a seat so far, as they typed their names. */
export const whoSignedFor = async (
  tx: Queries,
  registrationId: string,
  waiverId: string,
): Promise<string[]> =>
  (
    await tx.query<{ typedName: string }>(
      "select typed_name from signatures where registration_id = $1 and waiver_id = $2 and state = 'valid'",
      [registrationId, waiverId],
    )
  ).map((g) => g.typedName);

/** What was signed for a seat before gives way to what is signed now, where it does not count any more. */
export const supersede = (tx: Queries, registrationId: string, waiverId: string, from: number) =>
  tx.query(
    `update signatures g set state = 'superseded' from waiver_versions v where v.id = g.version_id and g.registration_id = $1 and g.waiver_id = $2
       and g.state = 'valid' and v.version < $3`,
    [registrationId, waiverId, from],
  );

/** The end of the chain, for whoever adds to it: everybody else waits. */
export async function endOfChain(tx: Queries): Promise<{ number: number; hash: string } | null> {
  await tx.query('lock table signature_chain in share row exclusive mode');
  return first(tx, 'select number, hash from signature_chain order by number desc limit 1');
}

/** The whole chain, with the texts it vouches for. */
export const readChain = async (
  tx: Queries,
): Promise<{ links: ChainLink[]; texts: ReadonlyMap<string, string> }> => ({
  links: await tx.query<ChainLink>(
    'select number, signature_id, sha256, answers_sha256, before, hash from signature_chain order by number',
  ),
  texts: new Map(
    (await tx.query<{ id: string; text: string }>('select id, signed_text as text from signatures')).map(
      (g) => [g.id, g.text],
    ),
  ),
});

/** A signature as the team sees it. */
export interface SignatureRead {
  id: string;
  act: string;
  waiverId: string;
  orderId: string | null;
  contactId: string | null;
  participant: string;
  typedName: string;
  relation: 'self' | 'guardian';
  at: string;
  way: 'link' | 'page' | 'door' | 'paper';
  version: number;
  title: string;
  language: string;
  text: string;
  sha256: string;
  number: number;
  chainHash: string;
  event: { id: string; title: string } | null;
  holdsUntil: string | null;
  state: 'valid' | 'expired' | 'superseded' | 'revoked';
  known: boolean;
  revoked: { by: string; why: string; at: string } | null;
  scan: boolean;
  drawn: string | null;
  copyTo: string | null;
  answers: { prompt: string; value: AnswerValue; health: boolean }[];
}

/** $1 is today: what is over is expired. */
const signatureSql = `select g.id, g.act, g.waiver_id, r.order_id, g.contact_id, coalesce(nullif(trim(r.given_name || ' ' || r.family_name), ''),
    nullif(trim(k.given_name || ' ' || k.family_name), ''), g.typed_name) as participant,
  g.typed_name, g.relation, g.at, g.way, v.version, case when g.language = 'fr' then coalesce(nullif(v.text #>> '{title,fr}', ''), w.title) else w.title end as title,
  g.language, g.signed_text as text, g.sha256, n.number, n.hash as chain_hash,
  case when e.id is not null then jsonb_build_object('id', e.id, 'title', e.public_title) end as event, g.holds_until::text as holds_until,
  case when g.state = 'valid' and ((g.holds_until is not null and g.holds_until < $1::date) or (g.holds_until is null and e.id is not null
    and e.starts_at is not null and (coalesce(e.ends_at, e.starts_at) at time zone e.zone)::date < $1::date)) then 'expired' else g.state end as state,
  g.known_at is not null as known, case when g.revoked_at is not null then jsonb_build_object('by', g.revoked_by, 'why', g.revoked_why,
    'at', ${instant('g.revoked_at')}) end as revoked, exists (select 1 from signature_scans c where c.signature_id = g.id) as scan, g.drawn, g.copy_to, g.answers
from signatures g join waivers w on w.id = g.waiver_id join waiver_versions v on v.id = g.version_id join signature_chain n on n.signature_id = g.id
  left join events e on e.id = g.event_id left join registrations r on r.id = g.registration_id left join contacts k on k.id = g.contact_id`;

/** A signature; throws 404. */
export async function theSignature(tx: Queries, id: string, today: string): Promise<SignatureRead> {
  const row = await first<SignatureRead>(tx, `${signatureSql} where g.id = $2`, [today, id]);
  if (!row) throw notFound('This signature');
  return row;
}

/** Who signed in one go, for the letter with the copy. */
export const signerOfAct = async (tx: Queries, act: string) =>
  (await first<{ name: string; language: 'en' | 'fr'; eventId: string | null }>(
    tx,
    'select typed_name as name, language, event_id from signatures where act = $1 order by id limit 1',
    [act],
  ))!;

/** What was signed in one go, in the order it was. */
export const signaturesOfAct = (tx: Queries, act: string, today: string): Promise<SignatureRead[]> =>
  tx.query<SignatureRead>(`${signatureSql} where g.act = $2 order by n.number`, [today, act]);

/** Who signed a waiver for somebody, each name once, as far as it counts. */
export const signersFor = async (tx: Queries, waiverId: string, contactId: string): Promise<string[]> =>
  (
    await tx.query<{ name: string }>(
      "select distinct lower(typed_name) as name from signatures where waiver_id = $1 and contact_id = $2 and state = 'valid' and relation = 'guardian' order by 1",
      [waiverId, contactId],
    )
  ).map((r) => r.name);

/** Who signed a waiver, newest first, a page at a time. `before` is the number of the last one seen. */
export const signaturesOfWaiver = (
  tx: Queries,
  waiverId: string,
  today: string,
  { q, state, before, limit }: { q: string; state: string | null; before: number | null; limit: number },
): Promise<SignatureRead[]> =>
  tx.query<SignatureRead>(
    `select * from (${signatureSql} where g.waiver_id = $2 and ($4::int is null or n.number < $4)) s
     where ($3 = '' or lower(s.participant || ' ' || s.typed_name) like $3) and ($5::text is null or s.state = $5) order by s.number desc limit ${limit}`,
    [today, waiverId, q ? `%${q.toLowerCase().replace(/[\\%_]/gu, '\\$&')}%` : '', before, state],
  );

/** A confirmed seat of somebody at an event. */
export const seatOfContact = (tx: Queries, eventId: string, contactId: string) =>
  first<{ id: string; orderId: string }>(
    tx,
    "select id, order_id from registrations where event_id = $1 and contact_id = $2 and state = 'confirmed' order by id limit 1",
    [eventId, contactId],
  );

/** The one signature that was given by itself. */
export const signatureOfAct = async (tx: Queries, act: string): Promise<string> =>
  (await first<{ id: string }>(tx, 'select id from signatures where act = $1', [act]))!.id;

/** Keeps the scan of a signature on paper. */
export const keepScan = (
  tx: Queries,
  signatureId: string,
  scan: { name: string; mediaType: string; bytes: Buffer },
) =>
  tx.query(
    "insert into signature_scans (signature_id, name, media_type, content) values ($1, $2, $3, decode($4, 'base64'))",
    [signatureId, scan.name, scan.mediaType, scan.bytes.toString('base64')],
  );

export const readScan = (tx: Queries, signatureId: string) =>
  first<{ name: string; mediaType: string; content: Uint8Array }>(
    tx,
    'select name, media_type, content from signature_scans where signature_id = $1',
    [signatureId],
  );

/** Writes down that a copy was made: whoever has it can ask whether it is ours. */
export const keepCopy = (tx: Queries, sha256: string, act: string, now: string) =>
  tx.query('insert into signature_copies (sha256, act, at) values ($1, $2, $3) on conflict do nothing', [
    sha256,
    act,
    now,
  ]);

/** What was signed in one go that a copy with a hash is of; null where none is ours. */
export const actOfCopy = async (tx: Queries, sha256: string): Promise<string | null> =>
  (await first<{ act: string }>(tx, 'select act from signature_copies where sha256 = $1', [sha256]))?.act ??
  null;

/** It is known whose hand signed in one go. */
export const knowHand = (tx: Queries, act: string, now: string) =>
  tx.query('update signatures set known_at = $2 where act = $1 and known_at is null', [act, now]);

/** Whoever stands at the door is who signed for their seat, or whose guardian did. */
export const knowArrived = (tx: Queries, registrationId: string, now: string) =>
  tx.query(
    "update signatures set known_at = $2 where registration_id = $1 and known_at is null and state = 'valid'",
    [registrationId, now],
  );

/** When signatures next lose what they say about health. */
export const nextForgottenSql = `select (forget_on::timestamp at time zone (select zone from organization)) as at, id from signatures
  where forget_on is not null order by 1, 2 limit 1`;

/** Takes what is about health out of a signature; what else was answered stays. */
export const forgetHealth = (tx: Queries, id: string) =>
  tx.query(
    `update signatures set answers = coalesce((select jsonb_agg(a) from jsonb_array_elements(answers) a where not (a ->> 'health')::boolean), '[]'),
       answers_salt = '', forget_on = null where id = $1`,
    [id],
  );
