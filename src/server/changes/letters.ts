import type { Settling, WhatIf } from '#contract/changes.ts';
import type { aspectsOf } from '#core/changes/aspects.ts';
import {
  type Concerned,
  concerned,
  fieldsOfLetter,
  type LetterKind,
  letterTexts,
  sayWhatIsNew,
  type WhatIsNew,
  withoutGaps,
} from '#core/changes/letters.ts';
import { splitName } from '#core/contacts/names.ts';
import { sayShift } from '#core/crew/said.ts';
import { titleFor } from '#core/events/french.ts';
import { type CalendarEntry, writeCalendar } from '#core/exchange/calendar.ts';
import { hideLinks, linkMark } from '#core/messages/links.ts';
import { merge, problemsAmong, wrongIn } from '#core/messages/merge.ts';
import type { MessageText } from '#core/messages/texts.ts';
import { sayTime } from '#core/time/say.ts';
import { wrongAt } from '#core/words/problems.ts';
import { sayReason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { shiftSequence, shiftUid } from '../crew/calendar.ts';
import { entryOf } from '../events/calendar.ts';
import { sayPlace, sayWhen } from '../events/saying.ts';
import type { EventRow } from '../events/store.ts';
import { invalid } from '../http/problem.ts';
import { putOut } from '../messages/outbox.ts';
import { theOrganization } from '../staff/store.ts';
import type { Addressee } from './people.ts';
import { crewShifts, keepFiles, type ShiftOf } from './store.ts';

/** What has become of an event, as far as letters tell of it. */
export interface Happened {
  changeId: string;
  kind: LetterKind;
  aspects: ReturnType<typeof aspectsOf>;
  before: EventRow;
  after: EventRow;
  /** Whether somebody is told unless somebody says no. */
  bySelf: (to: Concerned) => boolean;
  people: readonly Addressee[];
  /** Orders whose seats went back to the waitlist. */
  losing: ReadonlySet<string>;
  /** What is said of the money of an order, by language; nothing of those that paid none. */
  money: ReadonlyMap<string, { en: string; fr: string }>;
}

export type Letters = WhatIf['letters'];
type Chosen = Settling['letters'][number];

/** The letter to some of those concerned: the draft, or what was written in its place. */
function textFor(kind: LetterKind, to: Concerned, chosen: Chosen | undefined): MessageText {
  const draft = letterTexts[kind][to];
  const with_ = (own: { en: string; fr?: string | undefined } | undefined, drafted: MessageText['body']) =>
    own?.en.trim()
      ? // French that nobody wrote is the English that somebody did, and not the draft that says something else.
        { en: own.en, fr: own.fr?.trim() ? own.fr : own.en === drafted.en ? drafted.fr : own.en }
      : drafted;
  return { subject: with_(chosen?.subject, draft.subject), body: with_(chosen?.body, draft.body) };
}

/** What is wrong with what was settled about the letters, before anything is done. */
export function checkLetters(
  letters: Settling['letters'],
  /** Whether somebody is told unless that is said. */
  bySelf: (to: Concerned) => boolean,
  trying: boolean,
): void {
  const wrong = letters.flatMap((letter, at) => {
    if (!letter.told && bySelf(letter.to) && letter.why.trim().length < 3 && !trying)
      return [wrongAt(`settle.letters.${at}.why`, 'why-untold')];
    return [letter.subject, letter.body].flatMap((of) =>
      [of?.en ?? '', of?.fr ?? ''].flatMap((text) =>
        wrongIn(`settle.letters.${at}.body`, problemsAmong(text, fieldsOfLetter(letter.to))),
      ),
    );
  });
  if (wrong.length) throw invalid(wrong);
}

/**
 * Writes to everybody concerned, each in their language, with old and new and a calendar file. What was settled says whom not to
 * tell. They wait until the change cannot be taken back any more. Answers the letters as they are.
 */
export async function writeLetters(w: Work, happened: Happened, settle: Settling): Promise<Letters> {
  const { before, after, kind, changeId } = happened;
  const { name: organization } = await theOrganization(w.tx);
  const shiftsNow = new Map(
    (kind === 'called off' ? [] : await crewShifts(w.tx, after.id, w.now)).map((c) => [
      c.contactId,
      c.shifts,
    ]),
  );
  const calendar = calendarOf(w, happened);
  // What is said of the event is the same to everybody who reads one language.
  const saidIn = once((language) => {
    const event = kind === 'called off' ? before : after;
    return {
      event: titleFor(event, language),
      when: sayWhen(event, language),
      place: sayPlace(event, language),
      news: newsOf(happened, language),
    };
  });
  const letters: Letters = [];
  const outgoing: Parameters<typeof putOut>[1][number][] = [];
  const setOf = (one: Addressee): Concerned =>
    one.to === 'registrants' && one.orderId && happened.losing.has(one.orderId) ? 'losing' : one.to;
  for (const to of concerned) {
    const people = happened.people.filter((one) => setOf(one) === to);
    if (!people.length) continue;
    const chosen = settle.letters.find((l) => l.to === to);
    const bySelf = happened.bySelf(to);
    const told = chosen ? chosen.told : bySelf;
    const text = textFor(kind, to, chosen);
    const fill = (one: Addressee) => {
      const { language } = one;
      const said = saidIn(language);
      const values = {
        name: splitName(one.name).given || one.name,
        event: said.event,
        when: said.when,
        place: said.place,
        organization,
        ...(one.orderId ? { manage_link: linkMark('manage', one.orderId) } : {}),
        ...(to === 'crew' ? { shifts_link: linkMark('crew', one.contactId!) } : {}),
      };
      const own = {
        changes: sayWhatIsNew(
          [...said.news, ...ownNews(one, kind, shiftsNow.get(one.contactId ?? '') ?? [])],
          language,
        ),
        words: settle.words.trim(),
        money: (one.orderId && happened.money.get(one.orderId)?.[language]) || '',
        page: `${w.app.origin}/events/${after.id}/clearance`,
      };
      return {
        subject: merge(text.subject[language], values, { own }),
        body: withoutGaps(merge(text.body[language], values, { own })),
      };
    };
    const sampled = people.find((one) => !one.whyNot);
    const sample = sampled && fill(sampled);
    const brings = calendar.brings(to);
    letters.push({
      to,
      bySelf,
      told,
      count: people.filter((one) => !one.whyNot).length,
      leftOut: people.flatMap((one) => (one.whyNot ? [{ name: one.name, why: sayReason(one.whyNot) }] : [])),
      draft: text,
      sample: sample ? { name: sampled.name, subject: sample.subject, body: hideLinks(sample.body) } : null,
      calendar: brings ? (kind === 'called off' ? 'strikes out' : 'moves') : null,
    });
    // What is only tried is taken back at once: nobody's letter is written out for that but the one that is shown.
    if (!told || w.change?.trying) continue;
    for (const one of people)
      outgoing.push({
        // To the team, not to people of the event: those are none of its messages.
        eventId: to === 'approvers' ? null : after.id,
        recipientKey: `change:${changeId}:${to}:${one.key}`,
        kind,
        contactId: one.contactId,
        name: one.name,
        address: one.email,
        language: one.language,
        reason: kind === 'called off' ? 'the event was called off' : 'something about the event changed',
        at: w.now,
        whyNot: one.whyNot,
        brings: !one.whyNot && brings && to !== 'crew',
        calendar:
          !one.whyNot && brings && to === 'crew'
            ? calendar.ofShifts(one, shiftsNow.get(one.contactId ?? '') ?? [])
            : null,
        ...fill(one),
      });
  }
  await putOut(w, outgoing);
  if (outgoing.some((m) => m.brings))
    await keepFiles(w.tx, changeId, { en: calendar.file('en'), fr: calendar.file('fr') });
  return letters;
}

/** Works something out once for each language. */
function once<T>(of: (language: 'en' | 'fr') => T): (language: 'en' | 'fr') => T {
  const known = new Map<string, T>();
  return (language) => {
    if (!known.has(language)) known.set(language, of(language));
    return known.get(language)!;
  };
}

/** What is new of an event: when and where. */
function newsOf({ before, after, kind }: Happened, language: 'en' | 'fr'): WhatIsNew[] {
  if (kind === 'called off') return [];
  const news: WhatIsNew[] = [];
  const compare = (of: WhatIsNew['of'], was: string, now: string) => {
    if (was !== now) news.push({ of, was, now });
  };
  // On another day they open as long before it as ever, unless somebody says otherwise.
  const doors = ({ doorsLocal }: EventRow) => (doorsLocal ? sayTime(doorsLocal, language) : '');
  compare('when', sayWhen(before, language), sayWhen(after, language));
  compare('doors', doors(before), doors(after));
  compare('where', sayPlace(before, language), sayPlace(after, language));
  return news;
}

/** What is new of somebody's own shifts. */
function ownNews(
  { shifts, language }: Addressee,
  kind: LetterKind,
  shiftsNow: readonly ShiftOf[],
): WhatIsNew[] {
  if (kind === 'called off') return [];
  return shifts.flatMap((shift): WhatIsNew[] => {
    const was = sayShift(shift, language);
    const there = shiftsNow.find((s) => s.assignmentId === shift.assignmentId);
    if (!there) return [{ of: 'shift gone', was, now: '' }];
    const now = sayShift(there, language);
    return now === was ? [] : [{ of: 'shift', was, now }];
  });
}

/** The calendar files that go along: an entry of the same identity and a higher number moves, or is struck out. */
function calendarOf(w: Work, { after, kind, aspects }: Happened) {
  const moves = kind === 'called off' || aspects.includes('time') || aspects.includes('place');
  const link = after.slug ? `${w.app.origin}/e/${after.slug}` : w.app.origin;
  const entry = (language: string): CalendarEntry | null =>
    entryOf(after, { summary: titleFor(after, language), url: link, description: '', language });
  const file = once((language): string | null => {
    const event = entry(language);
    return event && writeCalendar(event.summary, [event], w.now);
  });
  const ofShifts = (one: Addressee, shiftsNow: readonly ShiftOf[]): string | null => {
    const event = entry(one.language);
    if (!event || !one.shifts.length) return null;
    return writeCalendar(
      event.summary,
      one.shifts.map((was) => {
        const now = shiftsNow.find((s) => s.assignmentId === was.assignmentId);
        const { startsAt, endsAt, role, version } = now ?? was;
        return {
          ...event,
          days: undefined,
          uid: shiftUid(was.assignmentId),
          startsAt,
          endsAt,
          summary: `${role}: ${event.summary}`,
          sequence: shiftSequence(version, after.version),
          cancelled: !now,
        };
      }),
      w.now,
    );
  };
  return {
    brings: (to: Concerned): boolean => moves && (to === 'registrants' || to === 'crew' || to === 'speakers'),
    file,
    ofShifts,
  };
}
