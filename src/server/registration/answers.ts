import { readReach } from '#core/contacts/reach.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import { sayAnswer } from '#core/questions/answering.ts';
import { isDetail, languageChoices } from '#core/questions/details.ts';
import type { Question } from '#core/questions/question.ts';
import type { Work } from '../app/app.ts';
import { columnKey } from '../contacts/columns.ts';
import { setValue } from '../contacts/fields.ts';
import { refreshFound } from '../contacts/keys.ts';
import type { Teller } from '../contacts/linking.ts';
import { keepPhone, proposeAnswers, type Said } from '../contacts/proposals.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { theOrganization } from '../staff/store.ts';
import { claimFiles } from './answerFiles.ts';
import type { OrderRow } from './store.ts';

type Answers = Readonly<Record<string, AnswerValue>>;

/** The language somebody chose to be written to in, where the order asks that. */
export function languageIn(questions: readonly Question[], answers: Answers): 'en' | 'fr' | null {
  const q = questions.find((x) => x.keeps === 'language' && x.scope === 'order');
  return (q && languageChoices[answers[q.id] as string]) || null;
}

/** Writes down what was answered, of an order or of one of its seats; files become the order's. */
export async function writeAnswers(
  w: Work,
  orderId: string,
  eventId: string,
  questions: readonly Question[],
  given: readonly { registrationId: string | null; answers: Answers }[],
): Promise<void> {
  const rows = given.flatMap(({ registrationId, answers }) =>
    Object.entries(answers).map(([questionId, value]) => ({
      id: w.app.ids.id(),
      orderId,
      registrationId,
      questionId,
      value,
    })),
  );
  await insert(w.tx, 'answers', rows);
  const asksFile = new Set(questions.filter((q) => q.kind === 'file').map((q) => q.id));
  const files = rows.filter((row) => asksFile.has(row.questionId)).map((row) => row.value as string);
  await claimFiles(w, eventId, orderId, files);
}

/** What was answered of an order, by seat; of the booking itself by null. */
export async function answersOf(
  tx: Queries,
  orderId: string,
): Promise<ReadonlyMap<string | null, Record<string, AnswerValue>>> {
  const rows = await tx.query<{ registrationId: string | null; questionId: string; value: AnswerValue }>(
    `select a.registration_id, a.question_id, a.value from answers a join questions q on q.id = a.question_id
     where a.order_id = $1 and q.removed_at is null order by q.position`,
    [orderId],
  );
  const of = new Map<string | null, Record<string, AnswerValue>>();
  for (const { registrationId, questionId, value } of rows)
    of.set(registrationId, { ...of.get(registrationId), [questionId]: value });
  return of;
}

/** Puts other answers in the place of those of a seat, or of the booking; what was answered to a question that is gone stays. */
export async function replaceAnswers(
  w: Work,
  order: Pick<OrderRow, 'id' | 'eventId'>,
  registrationId: string | null,
  questions: readonly Question[],
  answers: Answers,
): Promise<void> {
  await w.tx.query(
    `delete from answers where order_id = $1 and registration_id is not distinct from $2 and question_id = any($3)`,
    [order.id, registrationId, questions.map((q) => q.id)],
  );
  await writeAnswers(w, order.id, order.eventId, questions, [{ registrationId, answers }]);
}

/** Somebody of an order whose answers are kept on their record. */
export interface Answering {
  contactId: string;
  /** Nobody knew them before. */
  created: boolean;
  /** Their seat; null for whoever booked. */
  registrationId: string | null;
}

/**
 * Brings answers that belong to a record there. What nobody knew of somebody is written; what an order from outside says of
 * people we know is put up for a decision, and what staff say fills blanks.
 */
export async function keepAnswers(
  w: Work,
  orderId: string,
  people: readonly Answering[],
  teller: Teller,
  source: string,
): Promise<void> {
  const rows = await w.tx.query<{ registrationId: string | null; keeps: string; value: AnswerValue }>(
    `select a.registration_id, q.keeps, a.value from answers a join questions q on q.id = a.question_id
     where a.order_id = $1 and q.keeps is not null order by q.position`,
    [orderId],
  );
  if (!rows.length) return;
  const { country } = await theOrganization(w.tx);
  for (const person of people) {
    const said: Said[] = [];
    for (const row of rows.filter((r) => r.registrationId === person.registrationId)) {
      const kept = await keptAs(w, row.keeps, sayAnswer(row.value), country);
      if (!kept) continue;
      const before = await standsAt(w, person.contactId, kept);
      if (before === kept.after) continue;
      if (person.created || (teller === 'staff' && before === '')) await setKept(w, person.contactId, kept);
      else said.push({ ...kept, before });
    }
    if (said.length) await proposeAnswers(w, person.contactId, said, source);
  }
}

type Kept = Pick<Said, 'field' | 'after' | 'fieldId'>;

/** An answer as a record keeps it; null where that has no such field any more, or it says nothing. */
async function keptAs(w: Work, keeps: string, answer: string, country: string): Promise<Kept | null> {
  const after = answer.trim();
  if (!after) return null;
  if (!isDetail(keeps))
    return (await first(w.tx, 'select 1 as x from custom_fields where id = $1', [keeps]))
      ? { field: 'custom', fieldId: keeps, after: after.slice(0, 500) }
      : null;
  if (keeps === 'language')
    return languageChoices[after] ? { field: keeps, after: languageChoices[after] } : null;
  if (keeps !== 'phone') return { field: keeps, after };
  const { phone } = readReach({ phone: after }, country);
  return phone ? { field: keeps, after: phone } : null;
}

/** What a record has there now; empty where it has nothing. Of telephones the same one, or none. */
async function standsAt(w: Work, contactId: string, kept: Kept): Promise<string> {
  if (kept.field === 'custom') {
    const row = await first<{ value: string }>(
      w.tx,
      'select value from custom_values where contact_id = $1 and field_id = $2',
      [contactId, kept.fieldId],
    );
    return row?.value ?? '';
  }
  if (kept.field === 'phone') {
    const row = await first(w.tx, 'select 1 as x from contact_phones where contact_id = $1 and phone = $2', [
      contactId,
      kept.after,
    ]);
    return row ? kept.after : '';
  }
  const row = await first<Record<string, string | null>>(
    w.tx,
    'select street, postal_code, language, pronouns, dietary, birth_date::text from contacts where id = $1',
    [contactId],
  );
  return row?.[columnKey(kept.field as 'street')] ?? '';
}

async function setKept(w: Work, contactId: string, kept: Kept): Promise<void> {
  if (kept.field === 'custom') return setValue(w.tx, contactId, kept.fieldId!, kept.after);
  if (kept.field === 'phone') await keepPhone(w.tx, w.app.ids.id(), contactId, kept.after);
  else
    await update(w.tx, 'contacts', contactId, {
      [columnKey(kept.field as 'street')]: kept.after,
      updatedAt: w.now,
    });
  await refreshFound(w.tx, [contactId]);
}
