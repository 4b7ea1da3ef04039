import { fullName } from '#core/contacts/names.ts';
import { readReach } from '#core/contacts/reach.ts';
import { type AnswerValue, isEmpty, problemWith, readNumber } from '#core/questions/answering.ts';
import type { Question } from '#core/questions/question.ts';
import { askedOfOrder, askedOfSeat, type OrderForm } from '#core/questions/showing.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { ageOn } from '#core/time/dates.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';

/** How an order came in. Staff may register after the public window closed, and let people pay later. */
export type Channel = 'public' | 'staff' | 'door';

/** What an order says of people, as it is filled in. */
export interface FilledIn {
  buyer: { email: string; phone: string };
  /** One a seat, in the order of the lines; a name can be given later. */
  attendees: readonly {
    given: string;
    family: string;
    birthDate: CalendarDate | null;
    email?: string;
    /** Their birth date is on record, and not told here. */
    onRecord?: boolean;
    answers: Readonly<Record<string, unknown>>;
  }[];
  answers: Readonly<Record<string, unknown>>;
}

/** An offer as far as ages go. */
export interface OfAges {
  name: string;
  /** Whether it matters how old whoever takes it is. */
  asksAge: boolean;
  fromAge: number | null;
  toAge: number | null;
}

/** What the event asks for. */
export interface Asked {
  questions: readonly Question[];
  /** Whether the age of everybody named has to be known. */
  needsBirthDate: boolean;
  /** The offer of each seat, in the order of the lines. */
  offerOfSeat: readonly string[];
  /** Ages that offers are for, on the day of the event. */
  ages?: ReadonlyMap<string, OfAges>;
  /** The day of the event; null where it has none yet. */
  eventDate?: CalendarDate | null;
  country: string;
  today: CalendarDate;
  channel: Channel;
}

/** What is wrong with what is said of one person who comes. Where nobody is named yet, nothing is asked of them. */
export function seatProblems(
  attendee: FilledIn['attendees'][number],
  asked: Omit<Asked, 'offerOfSeat'> & { offerId: string; order: OrderForm },
  path = '',
): Wrong[] {
  const { questions, offerId, channel } = asked;
  const problems: Wrong[] = [...readReach({ email: attendee.email ?? null }, asked.country, path).problems];
  if (attendee.birthDate && attendee.birthDate > asked.today)
    problems.push({ path: `${path}birthDate`, code: 'in-the-future' });
  // Guests are named later, and asked then; the staff knows why it leaves something out.
  if (!fullName(attendee) || channel !== 'public') return problems;
  const ages = asked.ages?.get(offerId);
  const shown = askedOfSeat(questions, { offerId, answers: attendee.answers }, asked.order);
  const birth = asksBirthDate(shown);
  if (
    (asked.needsBirthDate || ages?.asksAge || birth === 'required') &&
    !attendee.birthDate &&
    !attendee.onRecord
  )
    problems.push({ path: `${path}birthDate`, code: 'birth-date-needed' });
  if (ages && asked.eventDate)
    problems.push(...ageProblems(attendee.birthDate, ages, asked.eventDate, `${path}birthDate`));
  for (const q of shown) {
    if (q.keeps === 'birthDate') continue;
    const wrong = problemWith(q, attendee.answers[q.id] as AnswerValue | undefined, asked);
    if (wrong) problems.push({ path: `${path}answers.${q.id}`, ...wrong });
  }
  return problems;
}

/** What speaks against somebody's age having an offer, on the day of the event; nothing where it is not known. */
export function ageProblems(
  birthDate: CalendarDate | null,
  { name, fromAge, toAge }: Omit<OfAges, 'asksAge'>,
  eventDate: CalendarDate,
  path: string,
): Wrong[] {
  if (!birthDate) return [];
  const age = ageOn(birthDate, eventDate);
  if (fromAge !== null && age < fromAge) return [wrongAt(path, 'too-young', { name, age: fromAge })];
  return toAge !== null && age > toAge ? [wrongAt(path, 'too-old', { name, age: toAge })] : [];
}

/**
 * What is wrong with what an order says of people: addresses, dates, answers. Asked before it is sent and when it
 * arrives alike; at the door less is asked.
 */
export function orderProblems(order: FilledIn, asked: Asked): Wrong[] {
  const { questions, offerOfSeat, country, channel } = asked;
  const problems: Wrong[] = [...readReach(order.buyer, country, 'buyer.').problems];
  if (channel === 'public' && !order.buyer.email.trim())
    problems.push({ path: 'buyer.email', code: 'email-for-confirmation' });
  if (order.attendees.length > offerOfSeat.length)
    problems.push({
      path: 'attendees',
      code: 'more-named-than-seats',
      params: { count: offerOfSeat.length, named: order.attendees.length },
    });
  const form = { offerIds: offerOfSeat, answers: order.answers };
  for (const q of channel === 'door' ? [] : askedOfOrder(questions, form)) {
    const phone = q.keeps === 'phone';
    const wrong = problemWith(
      q,
      phone ? order.buyer.phone : (order.answers[q.id] as AnswerValue | undefined),
      asked,
    );
    // What is wrong with a telephone that is there was said above.
    if (phone && wrong && order.buyer.phone.trim()) continue;
    if (wrong) problems.push({ path: phone ? 'buyer.phone' : `answers.${q.id}`, ...wrong });
  }
  for (const [seat, attendee] of order.attendees.entries())
    problems.push(
      ...seatProblems(
        attendee,
        { ...asked, offerId: offerOfSeat[seat] ?? '', order: form },
        `attendees.${seat}.`,
      ),
    );
  const known = new Set(questions.map((q) => q.id));
  for (const id of [...Object.keys(order.answers), ...order.attendees.flatMap((a) => Object.keys(a.answers))])
    if (!known.has(id)) problems.push({ path: `answers.${id}`, code: 'question-not-asked' });
  return problems;
}

/** Whether somebody is asked when they were born, by the questions they are shown. */
export function asksBirthDate(
  shown: readonly Pick<Question, 'keeps' | 'required'>[],
): 'no' | 'asked' | 'required' {
  const q = shown.find((x) => x.keeps === 'birthDate');
  return !q ? 'no' : q.required ? 'required' : 'asked';
}

/** The answers to what is asked, as they are kept: a number as it is written plainly, nothing where nothing was answered. */
export const answersTo = (
  shown: readonly Question[],
  given: Readonly<Record<string, unknown>>,
): Record<string, AnswerValue> =>
  Object.fromEntries(
    shown.flatMap((q) => {
      const value = given[q.id] as AnswerValue | undefined;
      if (isEmpty(q, value)) return [];
      return [[q.id, q.kind === 'number' ? String(readNumber(value as string)) : value!]];
    }),
  );

/** The same order with only the answers to what was asked: what was typed before something else hid it is let go. */
export function answersKept<O extends Pick<FilledIn, 'attendees' | 'answers'>>(
  order: O,
  { questions, offerOfSeat }: Pick<Asked, 'questions' | 'offerOfSeat'>,
): O {
  const form = { offerIds: offerOfSeat, answers: order.answers };
  return {
    ...order,
    answers: answersTo(askedOfOrder(questions, form), order.answers) as O['answers'],
    attendees: order.attendees.map((attendee, seat) => ({
      ...attendee,
      answers: answersTo(
        askedOfSeat(questions, { offerId: offerOfSeat[seat] ?? '', answers: attendee.answers }, form),
        attendee.answers,
      ),
    })),
  };
}
