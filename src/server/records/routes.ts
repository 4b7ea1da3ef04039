import type { recordsContract, SegmentReason, SegmentSummary } from '#contract/records.ts';
import { cutLine, partsOfAll } from '#core/access/contacts.ts';
import { fullName } from '#core/contacts/names.ts';
import { evaluate, type Reasoned } from '#core/records/evaluate.ts';
import { isQuestion, readSegment, type Segment } from '#core/records/segment.ts';
import { type Names, sayPart, saySegment } from '#core/records/sentence.ts';
import type { Asked } from '#core/records/window.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { inTransaction, type SignedIn } from '../app/app.ts';
import { contactsCsv, contactsVCard } from '../contacts/exporting.ts';
import { readContact, readLines, resolveContact } from '../contacts/store.ts';
import type { Queries } from '../db/database.ts';
import { File, type Handlers } from '../http/handle.ts';
import { invalid, notFound } from '../http/problem.ts';
import {
  type Context,
  conditionOf,
  conditionOfQuestions,
  context,
  demandSegment,
  isReadable,
  seesSegment,
  segmentFor,
  soon,
} from './asking.ts';
import { changeMembers, changeSegment, keepSegment, removeSegment } from './commands.ts';
import {
  countAndSample,
  countContacts,
  idsWhere,
  readChoices,
  readFactsOf,
  readSegmentRow,
  readSegments,
  type SegmentRow,
} from './store.ts';

/** Reads a segment from outside, or says at which question it is wrong. */
function given(value: unknown): Segment {
  const read = readSegment(value);
  if ('problems' in read)
    throw invalid(read.problems.map((p) => ({ ...p, path: p.path ? `segment.${p.path}` : 'segment' })));
  return read.segment;
}

/** How many people a segment has; null when that cannot be found out: one bad segment spoils no list. */
async function countOf(tx: Queries, row: SegmentRow, asked: Asked, by: number): Promise<number | null> {
  if (performance.now() > by) return null;
  try {
    return await countContacts(tx, await conditionOf(tx, row, asked, by));
  } catch {
    return null;
  }
}

async function summaryOf(
  tx: Queries,
  row: SegmentRow,
  { asked, names }: Context,
  by = soon(),
): Promise<SegmentSummary> {
  return {
    ...row,
    segment: row.segment as unknown as Record<string, unknown>,
    sentence: row.byHand
      ? sayReason(because('put together by hand'))
      : isReadable(row.segment)
        ? saySegment(row.segment, names)
        : sayReason(because('questions unreadable')),
    count: await countOf(tx, row, asked, by),
  };
}

function listed(r: Reasoned, names: Names, depth = 0): SegmentReason[] {
  const own: SegmentReason = { depth, holds: r.holds, words: sayPart(r.segment, names), found: r.found };
  // A lone question under “not” is said with it.
  if ('not' in r.segment && isQuestion(r.segment.not)) return [{ ...own, found: r.of[0]!.found }];
  return [own, ...r.of.flatMap((x) => listed(x, names, depth + 1))];
}

async function idsOf(tx: Queries, id: string, now: string, staff: SignedIn): Promise<string[]> {
  const row = await segmentFor(tx, id, staff);
  const { asked } = await context(tx, now);
  return idsWhere(tx, await conditionOf(tx, row, asked));
}

export const recordsHandlers: Handlers<typeof recordsContract> = {
  'GET /api/segments': async ({ tx, now, staff }) => {
    const summaries: SegmentSummary[] = [];
    const asking = await context(tx, now);
    const by = soon();
    for (const row of await readSegments(tx))
      if (seesSegment(staff, row.segment)) summaries.push(await summaryOf(tx, row, asking, by));
    return summaries;
  },

  'POST /api/segments': async (c) => {
    const { body, staff } = c;
    const segment = given(body.ids ? { all: [] } : body.segment);
    demandSegment(staff, segment);
    const id = await keepSegment(c, { name: body.name, segment, members: body.ids ?? null });
    return { id };
  },

  'GET /api/segments/choices': ({ tx }) => readChoices(tx),

  'GET /api/segments/:id': async ({ tx, params, now, staff }) =>
    summaryOf(tx, await segmentFor(tx, params.id, staff), await context(tx, now)),

  'PATCH /api/segments/:id': async (c) => {
    const { app, tx, params, body, now } = c;
    const before = await segmentFor(tx, params.id, c.staff);
    const segment = body.segment ? given(body.segment) : before.segment;
    demandSegment(c.staff, segment);
    if (before.byHand && (body.segment || body.frozen === false))
      throw invalid([{ path: 'segment', code: 'segment-by-hand' }]);
    if (before.frozenAt && body.segment && body.frozen !== false)
      throw invalid([
        {
          path: 'segment',
          code: 'segment-frozen',
        },
      ]);
    const asking = await context(tx, now);
    // Found before anything is written, as everybody's writes wait for one another.
    const members =
      body.frozen && !before.frozenAt
        ? await idsWhere(tx, await conditionOfQuestions(tx, segment, asking.asked, soon()))
        : null;
    await inTransaction(app, c.actor, (w) =>
      changeSegment(
        w,
        before,
        { name: body.name ?? before.name, segment, frozen: body.frozen, members },
        Object.keys(body),
      ),
    );
    app.wake();
    return summaryOf(tx, await readSegmentRow(tx, params.id), asking);
  },

  'DELETE /api/segments/:id': async (c) => {
    const row = await segmentFor(c.tx, c.params.id, c.staff);
    await removeSegment(c, row);
    return { done: true };
  },

  'POST /api/segments/:id/members': async (c) => {
    const { tx, params, body } = c;
    const row = await segmentFor(tx, params.id, c.staff);
    const changed = await changeMembers(c, row, body.ids, Boolean(body.remove));
    return { changed };
  },

  'POST /api/segments/count': async ({ tx, body, now, staff }) => {
    const segment = given(body.segment);
    demandSegment(staff, segment);
    const { asked, names } = await context(tx, now);
    const began = performance.now();
    const { count, sample } = await countAndSample(
      tx,
      await conditionOfQuestions(tx, segment, asked, soon()),
      12,
    );
    const all = await countContacts(tx, { sql: 'true', params: [] });
    return {
      count,
      of: all,
      sample: (await readLines(tx, sample)).map((l) => cutLine(l, partsOfAll(staff))),
      sentence: saySegment(segment, names),
      ms: Math.round(performance.now() - began),
    };
  },

  'POST /api/segments/why': async ({ tx, body, now, staff }) => {
    const segment = given(body.segment);
    demandSegment(staff, segment);
    const contactId = await resolveContact(tx, body.contactId);
    const contact = contactId && (await readContact(tx, contactId));
    const facts = contactId && (await readFactsOf(tx, contactId));
    if (!contact || !facts) throw notFound('This contact');
    const { asked, names } = await context(tx, now);
    const reasoned = evaluate(segment, facts, asked);
    return {
      holds: reasoned.holds,
      name: fullName({ given: contact.givenName, family: contact.familyName }),
      reasons: listed(reasoned, names),
    };
  },

  'GET /api/segments/:id/contacts': async ({ tx, params, query, now, staff }) => {
    const ids = await idsOf(tx, params.id, now, staff);
    const lines = await readLines(tx, ids.slice(query.offset, query.offset + query.limit));
    return {
      contacts: lines.map((l) => cutLine(l, partsOfAll(staff))),
      total: ids.length,
    };
  },

  'GET /api/segments/:id/compare/:other': async ({ tx, params, now, staff }) => {
    const [a, b] = [
      await idsOf(tx, params.id, now, staff),
      new Set(await idsOf(tx, params.other, now, staff)),
    ];
    const both = a.filter((id) => b.has(id)).length;
    return { both, onlyThis: a.length - both, onlyOther: b.size - both };
  },

  'GET /api/segments/:id/contacts.csv': async ({ tx, params, now, staff }) => {
    const { name } = await readSegmentRow(tx, params.id);
    return new File(`${name}.csv`, await contactsCsv(tx, await idsOf(tx, params.id, now, staff)));
  },

  'GET /api/segments/:id/contacts.vcf': async ({ tx, params, now, staff }) => {
    const { name } = await readSegmentRow(tx, params.id);
    return new File(`${name}.vcf`, await contactsVCard(tx, await idsOf(tx, params.id, now, staff), now));
  },
};
