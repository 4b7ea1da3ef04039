import type { z } from 'zod';
import type { Thanked, thanksContract } from '#contract/thanks.ts';
import { hideLinks, linkMark } from '#core/messages/links.ts';
import type { MergeValues } from '#core/messages/merge.ts';
import { type Currency, sayAmount } from '#core/money/amount.ts';
import { say, words } from '#core/words/spoken.ts';
import type { SignedIn, Work } from '../app/app.ts';
import type { EventRow } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { type Mailed, planOf, saidLeftOut, saidTo } from '../messages/mailed.ts';
import { writeMailing } from '../messages/mailings.ts';
import { readParts } from '../receipts/store.ts';
import { type Due, demandIssuer, dueOf, writeReceipt } from '../receipts/writing.ts';
import { countThanked, type Helped, readGiven, readPaidAt, readThanked, theEvent } from './store.ts';

type Wanted = z.output<(typeof thanksContract)['POST /api/events/:id/thanks/preview']['body']>;
type Preview = z.output<(typeof thanksContract)['POST /api/events/:id/thanks/preview']['response']>;

/** Thanks as they are about to go: to whom, what each reads, and the receipts that were written for them. */
interface Run {
  wanted: Parameters<typeof planOf>[2];
  as: ReadonlyMap<string, Thanked[]>;
  receipts: ReadonlyMap<string, { number: string; eligible: number; currency: Currency }>;
  noReceipt: { name: string; why: string }[];
}

const hoursOf = ({ role, hours }: Helped): string =>
  hours ? say(words().thanks.helped, { role, hours }) : role;

/**
 * Puts the thanks of an event together, and writes the receipts that go with them. Only whoever gets a mail gets a receipt here: the others
 * get theirs with those of the year.
 */
async function prepare(w: Work, event: EventRow, wanted: Wanted, staff: SignedIn): Promise<Run> {
  const { tx } = w;
  const people = await readThanked(tx, event.id);
  const as = new Map<string, Thanked[]>();
  for (const { contactId, as: how } of people) {
    if (!wanted.to.includes(how)) continue;
    as.set(contactId, [...(as.get(contactId) ?? []), how]);
  }
  const said = new Map<string, MergeValues>();
  const helped = new Map<string, string[]>();
  for (const shift of people.flatMap((p) => (p.helped ? [{ ...p.helped, contactId: p.contactId }] : [])))
    helped.set(shift.contactId, [...(helped.get(shift.contactId) ?? []), hoursOf(shift)]);
  const gave = new Map((await readGiven(tx, event.id, event.paidIn)).map((g) => [g.contactId, g.amount]));
  const ids = [...as.keys()];
  for (const id of ids)
    said.set(id, {
      helped: (helped.get(id) ?? []).join(', '),
      gave: gave.has(id) ? sayAmount(gave.get(id)!, event.paidIn as Currency) : '',
      receipt_amount: '',
      receipt_link: '',
    });
  const mailing = {
    ids,
    thanks: { eventId: event.id, to: said },
    without: [],
    topic: 'notice' as const,
    said: wanted.said,
  };
  if (!ids.length) throw refused('mailing-nobody');
  const plan = await planOf(tx, w.now, mailing, staff, 'writing');
  const written = wanted.receipts ? await receiptsFor(w, event, plan.planned, said) : nothing;
  return { wanted: mailing, as, ...written };
}

const nothing = { receipts: new Map(), noReceipt: [] };

/** Writes the receipts that some people are due for what they paid and gave at an event: for those of the newest year; each reads the link to theirs. */
async function receiptsFor(
  w: Work,
  event: EventRow,
  people: readonly Mailed[],
  said: Map<string, MergeValues>,
): Promise<Pick<Run, 'receipts' | 'noReceipt'>> {
  const paid = await readPaidAt(w.tx, event.id);
  const rows = (await readParts(w.tx, { now: w.now, contactIds: people.map((p) => p.contactId) })).filter(
    // A part is named by its kind and by the booking or gift it is of.
    ({ part }) => part.split(' ').some((word) => paid.has(word)),
  );
  const years = new Map<string, string>();
  for (const { contactId, on } of rows)
    if ((years.get(contactId) ?? '') < on.slice(0, 4)) years.set(contactId, on.slice(0, 4));
  const due = await dueOf(
    w.tx,
    rows.filter((r) => r.on.startsWith(years.get(r.contactId)!)),
  );
  const receipts = new Map<string, { number: string; eligible: number; currency: Currency }>();
  const noReceipt: Run['noReceipt'] = [];
  const writable = (d: Due) => d.assessed.lines.length > 0 && d.assessed.eligible > 0;
  if (due.some(writable)) await demandIssuer(w.tx);
  for (const one of due) {
    const { giver, assessed } = one;
    if (!writable(one) || !assessed.currency) {
      noReceipt.push({ name: giver.name, why: assessed.left.map((l) => l.why).join(' ') });
      continue;
    }
    const { id, number } = await writeReceipt(w, one, { year: Number(years.get(giver.id)), mail: false });
    receipts.set(giver.id, { number, eligible: assessed.eligible, currency: assessed.currency as Currency });
    said.set(giver.id, {
      ...said.get(giver.id),
      receipt_amount: sayAmount(assessed.eligible, assessed.currency as Currency, giver.language),
      receipt_link: linkMark('receipt', id),
    });
  }
  return { receipts, noReceipt };
}

/** What would go out, found by doing it: each mail as it would leave, each receipt under the number it would have. */
export async function previewThanks(
  w: Work,
  event: EventRow,
  wanted: Wanted,
  staff: SignedIn,
): Promise<Preview> {
  const run = await prepare(w, event, wanted, staff);
  const plan = await planOf(w.tx, w.now, run.wanted, staff, 'writing');
  return {
    people: plan.planned.map((to) => {
      const text = saidTo(w.app, run.wanted, plan, to);
      return {
        contactId: to.contactId,
        name: to.name,
        as: run.as.get(to.contactId) ?? [],
        subject: hideLinks(text.subject),
        body: hideLinks(text.body),
        receipt: run.receipts.get(to.contactId) ?? null,
      };
    }),
    leftOut: saidLeftOut(plan.leftOut),
    noReceipt: run.noReceipt,
    thankedBefore: await countThanked(w.tx, event.id),
  };
}

/** Thanks an event’s people in one transaction. Refused where other mails or receipts would go out than were seen. */
export async function sendThanks(
  w: Work,
  eventId: string,
  wanted: Wanted & { expect: { mails: number; receipts: number } },
  staff: SignedIn,
): Promise<{ mails: number; receipts: number }> {
  const event = await theEvent(w.tx, eventId);
  const run = await prepare(w, event, wanted, staff);
  const receipts = run.receipts.size;
  if (receipts !== wanted.expect.receipts)
    throw refused('thanks-changed', { count: receipts, expected: wanted.expect.receipts });
  const { id, planned } = await writeMailing(
    w,
    {
      ...run.wanted,
      name: say(words().thanks.name, { event: event.publicTitle }),
      expect: wanted.expect.mails,
    },
    staff,
  );
  await w.tx.query('update mailings set thanks_of = $2 where id = $1', [id, eventId]);
  return { mails: planned, receipts };
}
