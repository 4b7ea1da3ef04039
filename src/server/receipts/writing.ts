import { createHash } from 'node:crypto';
import type { ReceiptPerson, ReceiptSettings } from '#contract/receipts.ts';
import { type Assessed, assess, type Issuer, missingOf, type ReceiptContent } from '#core/receipts/year.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { canonical } from '#core/words/canonical.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, type Queries } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { tellReceipt } from './letters.ts';
import {
  lockReceipt,
  nextNumber,
  type PartRow,
  readGivers,
  readParts,
  readReceipt,
  readReceiptParts,
  readSettings,
} from './store.ts';

type GiverRow = Awaited<ReturnType<typeof readGivers>>[number];

/** Somebody with what of their payments is receipted, and what not. */
export interface Due {
  giver: GiverRow;
  parts: PartRow[];
  assessed: Assessed;
}

/** Works out who gets a receipt for what, of parts that have none yet. */
export async function dueOf(tx: Queries, rows: readonly PartRow[]): Promise<Due[]> {
  const { country } = await theOrganization(tx);
  const { indexed } = await readSettings(tx);
  const of = new Map<string, PartRow[]>();
  for (const row of rows) {
    if (row.receipted) continue;
    const known = of.get(row.contactId);
    if (known) known.push(row);
    else of.set(row.contactId, [row]);
  }
  const givers = await readGivers(tx, [...of.keys()]);
  return givers
    .map((giver) => {
      const parts = of.get(giver.id)!;
      return { giver, parts, assessed: assess(country, giver, parts, indexed) };
    })
    .sort((a, b) => a.giver.name.localeCompare(b.giver.name, 'en'));
}

/** How somebody is shown before receipts are written. */
export const personOf = ({ giver, parts, assessed }: Due): ReceiptPerson => ({
  contactId: giver.id,
  name: giver.name,
  currency: assessed.currency ?? parts[0]!.currency,
  amount: assessed.lines.length ? assessed.amount : parts.reduce((sum, p) => sum + p.amount, 0),
  advantage: assessed.advantage,
  eligible: assessed.eligible,
  left: assessed.left.map(({ what, amount, why }) => ({ what, amount, why })),
});

/** What receipts say of the organization, as it was set up. */
export const issuerOf = ({ addressLines, ...settings }: ReceiptSettings): Issuer => ({
  ...settings,
  address: addressLines,
});

/** Throws where the organization has not said yet what a receipt has to say of it. */
export async function demandIssuer(tx: Queries): Promise<void> {
  if (missingOf(issuerOf(await readSettings(tx))).length) throw refused('receipts-not-set-up');
}

interface Writing {
  year: number;
  batchId?: string | null;
  replaces?: { id: string; number: string } | null;
  mail: boolean;
}

/**
 * Writes a receipt for what somebody is due: its number is the next of its year, without gaps, because it is taken in the transaction that
 * keeps the receipt. What it says is kept as it was said, with its hash.
 */
export async function writeReceipt(
  w: Work,
  { giver, assessed, parts }: Due,
  { year, batchId = null, replaces = null, mail }: Writing,
): Promise<{ id: string; number: string }> {
  const { tx, app, now, actor } = w;
  const { rules, currency } = assessed;
  if (!assessed.lines.length || !rules || !currency) throw refused('nothing-to-receipt');
  const {
    legalName,
    addressLines: address,
    registration,
    place,
    signer,
    signerRole,
  } = await readSettings(tx);
  const { zone } = await theOrganization(tx);
  const number = `${year}-${String(await nextNumber(tx, String(year))).padStart(5, '0')}`;
  const content: ReceiptContent = {
    number,
    issuedOn: dateOf(now, zone),
    country: rules.country,
    issuer: { legalName, address, registration, place, signer, signerRole },
    giver: { name: giver.name, address: giver.address },
    lines: assessed.lines.map(({ part: _, ...line }) => line),
    amount: assessed.amount,
    advantage: assessed.advantage,
    eligible: assessed.eligible,
    currency,
    replaces: replaces?.number ?? null,
    abroad: assessed.abroad,
  };
  const id = app.ids.id();
  await insert(tx, 'receipts', {
    id,
    number,
    year,
    contactId: giver.id,
    issuedAt: now,
    issuedBy: actor.name,
    language: giver.language,
    content,
    sha256: createHash('sha256').update(canonical(content)).digest('hex'),
    amount: content.amount,
    advantage: content.advantage,
    eligible: content.eligible,
    currency,
    batchId,
    replaces: replaces?.id ?? null,
    state: 'issued',
  });
  const amounts = new Map(parts.map((p) => [p.part, p.amount]));
  await insert(
    tx,
    'receipt_parts',
    assessed.lines.map(({ part }) => ({ receiptId: id, part, amount: amounts.get(part)! })),
  );
  await record(w, 'receipt written', { receiptId: id, number, contactId: giver.id });
  if (mail) await tellReceipt(w, id, giver);
  return { id, number };
}

/** Writes one receipt for somebody: for a year, or for one gift of theirs. */
export async function writeOne(
  w: Work,
  of: { contactId: string; year: number; giftId: string | null; mail: boolean },
): Promise<{ id: string; number: string }> {
  await demandIssuer(w.tx);
  const rows = await readParts(w.tx, {
    now: w.now,
    year: of.year,
    contactIds: [of.contactId],
    parts: of.giftId ? [`gift ${of.giftId}`] : null,
  });
  const [due] = await dueOf(w.tx, rows);
  if (!due?.assessed.lines.length) throw refused('nothing-to-receipt');
  return writeReceipt(w, due, of);
}

/** Voids a receipt: it is kept, and what it was for can be receipted anew. */
export async function voidReceipt(w: Work, id: string, why: string): Promise<void> {
  const receipt = await lockReceipt(w.tx, id);
  if (!receipt) throw notFound('Receipt');
  if (receipt.state === 'void') throw refused('receipt-void');
  await w.tx.query(
    "update receipts set state = 'void', voided_at = $2, void_why = $3, voided_by = $4 where id = $1",
    [id, w.now, why, w.actor.name],
  );
  await w.tx.query('update receipt_parts set live = false where receipt_id = $1', [id]);
  const { number } = (await readReceipt(w.tx, id))!;
  await record(w, 'receipt voided', { receiptId: id, number, why });
}

/** Voids a receipt and writes another for the same, as it stands now; it says which number it replaces. */
export async function replaceReceipt(
  w: Work,
  id: string,
  why: string,
): Promise<{ id: string; number: string }> {
  await demandIssuer(w.tx);
  await voidReceipt(w, id, why);
  const old = (await readReceipt(w.tx, id))!;
  const rows = await readParts(w.tx, { now: w.now, parts: await readReceiptParts(w.tx, id) });
  const [due] = await dueOf(w.tx, rows);
  if (!due?.assessed.lines.length) throw refused('nothing-to-receipt');
  return writeReceipt(w, due, { year: old.year, replaces: { id, number: old.number }, mail: false });
}
