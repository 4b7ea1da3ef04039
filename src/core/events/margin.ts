import { type Amount, type Currency, sayAmount } from '#core/money/amount.ts';
import type { EventState, Stage } from './states.ts';

/** What the margin and the desk look at. All counts are of now. */
export interface MarginFacts {
  state: EventState;
  currency: Currency;
  /** Days from today to the event's date; null without one. Negative is past. */
  daysToStart: number | null;
  /** True from the end of the event on. */
  over: boolean;
  lacks: { text: string; stops: boolean }[];
  /** Days left until the last day to send; null when it was sent or has no date. */
  daysToSubmit: number | null;
  /** Steps with their approver, and by how many days each is overdue (0 when not). */
  stuck: { step: string; overdueDays: number }[];
  sentBack: string | null;
  conditions: { step: string; words: string }[];
  /** `unknown`: people whose age is not known, for whom a guardian has to sign until it is. */
  waiversMissing: { minors: number; adults: number; unknown: number };
  freeSeats: number | null;
  waiting: {
    parties: number;
    people: number;
    firstFit: { name: string; seats: number; orderId: string } | null;
  };
  offersOut: number;
  unfilled: { places: number; shifts: number; firstRole: string | null };
  messagesFailed: number;
  paymentsUnknown: number;
  owedBack: { orders: number; amount: Amount };
  owing: { orders: number; amount: Amount };
  /** Assignments of the past that nobody said were served or missed. */
  hoursOpen: number;
  survey: { asked: number; answered: number } | null;
  checksFailing: string[];
}

export interface Note {
  tone: 'stop' | 'need' | 'know';
  /** Sorts notes and desk entries: the higher, the more pressing. */
  urgency: number;
  /** When it has to be settled, in words for the desk. */
  when: string;
  headline: string;
  text: string;
  /** The stage it is about: it is shown to those who see that stage. */
  stage: Stage;
  action: { label: string; stage: Stage } | null;
}

const plural = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** Nearness adds pressure: the same lack weighs more the day before than a month before. */
const near = (days: number | null): number => (days === null ? 0 : Math.max(0, 30 - Math.max(0, days)));

/** Everything about an event that somebody should know or settle, most pressing first. */
export function marginOf(f: MarginFacts): Note[] {
  const notes: Note[] = [];
  const soon = near(f.daysToStart);
  const when =
    f.daysToStart === null
      ? ''
      : f.daysToStart < 0
        ? 'past'
        : f.daysToStart === 0
          ? 'today'
          : f.daysToStart === 1
            ? 'tomorrow'
            : `in ${f.daysToStart} days`;
  const note = (
    tone: Note['tone'],
    urgency: number,
    headline: string,
    text: string,
    /** What settles it and where; or only where it belongs. */
    of: { label: string; stage: Stage } | Stage,
    due = when,
  ) =>
    notes.push({
      tone,
      urgency,
      when: due,
      headline,
      text,
      stage: typeof of === 'string' ? of : of.stage,
      action: typeof of === 'string' ? null : of,
    });
  if (f.state === 'shelved' || f.state === 'called off') return notes;

  if (f.state === 'draft') {
    const stops = f.lacks.filter((l) => l.stops);
    if (f.sentBack)
      note('stop', 70 + soon, 'Sent back.', f.sentBack, { label: 'Read and mend', stage: 'clearance' });
    if (stops.length)
      note(
        'need',
        20 + soon,
        `Not ready: ${plural(stops.length, 'thing')} missing.`,
        stops.map((l) => l.text).join(' '),
        { label: 'Open the plan', stage: 'plan' },
      );
    if (f.daysToSubmit !== null) {
      if (f.daysToSubmit < 0)
        note(
          'stop',
          60 + soon,
          `${plural(-f.daysToSubmit, 'day')} late for clearance.`,
          'The steps may not be through in time; send it and say why.',
          { label: 'Send for clearance', stage: 'clearance' },
          `${plural(-f.daysToSubmit, 'day')} late`,
        );
      else if (f.daysToSubmit <= 10)
        note(
          'need',
          40 + 10 - f.daysToSubmit,
          f.daysToSubmit === 0
            ? 'Today is the last day to send it.'
            : `${plural(f.daysToSubmit, 'day')} left to send it for clearance.`,
          '',
          { label: 'Send for clearance', stage: 'clearance' },
          f.daysToSubmit === 0 ? 'today' : `${plural(f.daysToSubmit, 'day')} left`,
        );
    }
  }
  for (const s of f.stuck) {
    if (s.overdueDays > 0)
      note(
        'stop',
        65 + soon,
        `${s.step} has not decided.`,
        `It is ${plural(s.overdueDays, 'day')} overdue.`,
        { label: 'See the steps', stage: 'clearance' },
        `${plural(s.overdueDays, 'day')} late`,
      );
    else note('know', 10, `With ${s.step}.`, 'A decision is awaited.', 'clearance');
  }
  if (f.state === 'cleared')
    note(
      'need',
      45 + soon,
      'Cleared, and not open yet.',
      'Nobody can register before it is opened.',
      { label: 'Open registration', stage: 'registration' },
      'now',
    );
  for (const c of f.conditions) note('know', 15, `Condition by ${c.step}.`, c.words, 'clearance');
  if (f.over) addAfter();
  else addBefore();
  if (f.messagesFailed)
    note(
      'stop',
      75,
      `${plural(f.messagesFailed, 'message')} failed.`,
      'Those that can be are tried again by themselves.',
      { label: 'See which', stage: 'messages' },
      'now',
    );
  if (f.paymentsUnknown)
    note(
      'stop',
      72,
      `${plural(f.paymentsUnknown, 'payment')} without an answer.`,
      'The card processor has not said whether money moved. The seats are kept.',
      { label: 'See who', stage: 'registration' },
      'now',
    );
  if (f.owedBack.orders)
    note(
      'need',
      50,
      `${sayAmount(f.owedBack.amount, f.currency)} to pay back.`,
      `${plural(f.owedBack.orders, 'order')} paid more than is due now.`,
      { label: 'See who', stage: 'registration' },
      'this week',
    );
  return notes.sort((a, b) => b.urgency - a.urgency);

  function addBefore(): void {
    const { minors, adults, unknown } = f.waiversMissing;
    if (minors)
      note(
        'stop',
        55 + soon,
        `${plural(minors, 'child has', 'children have')} no guardian's signature.`,
        'They cannot take part without it.',
        { label: 'See who', stage: 'registration' },
      );
    if (unknown)
      note(
        'need',
        40 + soon,
        `The age of ${plural(unknown, 'person', 'people')} is not known.`,
        'Until it is, a guardian has to sign for them.',
        { label: 'See who', stage: 'registration' },
      );
    if (adults)
      note(
        'need',
        30 + soon,
        `${plural(adults, 'waiver')} still missing.`,
        f.daysToStart !== null && f.daysToStart > 3
          ? 'The reminder goes out by itself.'
          : 'Without it the door stops them.',
        { label: 'See who', stage: 'registration' },
      );
    const { parties, people, firstFit } = f.waiting;
    if (firstFit)
      note(
        'need',
        58 + soon,
        `A party of ${firstFit.seats} fits now.`,
        `${firstFit.name} is first that fits.`,
        { label: 'Offer the seats', stage: 'registration' },
        'now',
      );
    else if (parties)
      note(
        'know',
        12,
        `${plural(people, 'person', 'people')} waiting in ${plural(parties, 'party', 'parties')}.`,
        f.freeSeats === 0
          ? 'Every seat is taken.'
          : `${f.freeSeats ?? 0} free, too few for the first of them.`,
        'registration',
      );
    if (f.offersOut)
      note(
        'know',
        11,
        `${plural(f.offersOut, 'offer')} of seats out.`,
        'They lapse by themselves and go on to the next party.',
        'registration',
      );
    if (f.unfilled.places)
      note(
        'need',
        35 + soon,
        `${plural(f.unfilled.places, 'place')} unfilled in ${plural(f.unfilled.shifts, 'shift')}.`,
        f.unfilled.firstRole ? `First: ${f.unfilled.firstRole}.` : '',
        { label: 'Fill the shifts', stage: 'crew' },
      );
    if (f.owing.orders)
      note(
        'know',
        14,
        `${sayAmount(f.owing.amount, f.currency)} still owed.`,
        `By ${plural(f.owing.orders, 'order')}.`,
        { label: 'See who', stage: 'registration' },
      );
    for (const lack of f.lacks.filter((l) => !l.stops)) note('know', 5, '', lack.text, 'plan');
  }

  function addAfter(): void {
    if (f.hoursOpen)
      note(
        'need',
        38,
        `${plural(f.hoursOpen, 'shift')} without hours.`,
        'Say who served, so that hours count.',
        { label: 'Record hours', stage: 'crew' },
        'this week',
      );
    for (const check of f.checksFailing)
      note(
        'stop',
        68,
        'The figures do not agree.',
        check,
        { label: 'See the figures', stage: 'wrap-up' },
        'now',
      );
    if (f.survey?.asked)
      note('know', 8, `${f.survey.answered} of ${f.survey.asked} answered the survey.`, '', {
        label: 'Read the answers',
        stage: 'wrap-up',
      });
    if (f.state !== 'wrapped' && !f.hoursOpen)
      note(
        'need',
        25,
        'Over, and not wrapped up.',
        'Look at the figures and close the book.',
        { label: 'Wrap up', stage: 'wrap-up' },
        'this week',
      );
  }
}
