import type { Instant, WallTime } from '#core/time/clock.ts';
import type { Params } from '#core/words/filling.ts';
import { say, words } from '#core/words/spoken.ts';

/** Messages of one line of the plan that had not gone out, and what becomes of them. */
export interface MessagesChanged {
  /** The line's name. */
  line: string;
  fate: 'moved' | 'held back';
  count: number;
  /** When the first of them would have gone, and when it goes now. Null where it had been held back, or is now. */
  from: Instant | null;
  to: Instant | null;
  /** Why they are held back; of several reasons the first. */
  why: string | null;
}

/** A shift that is at another time, by the clock where the event is. */
export interface ShiftMoved {
  role: string;
  from: { startsLocal: WallTime; endsLocal: WallTime } | null;
  to: { startsLocal: WallTime; endsLocal: WallTime };
}

/** A party, with how many seats it is about. */
export interface PartyConcerned {
  name: string;
  seats: number;
}

/** What follows from a change of an event, told before it is made and after. */
export interface Consequences {
  messages: MessagesChanged[];
  shifts: ShiftMoved[];
  /** Parties whose seats were held, offered or waited for, and are let go. */
  letGo: PartyConcerned[];
  /** Clearance steps that have to be decided again. */
  reopened: string[];
  /** Parties that were offered a seat. */
  offered: string[];
}

export const noConsequences: Consequences = {
  messages: [],
  shifts: [],
  letGo: [],
  reopened: [],
  offered: [],
};

/** Both together. */
export const alsoFollows = (a: Consequences, b: Partial<Consequences>): Consequences => ({
  messages: [...a.messages, ...(b.messages ?? [])],
  shifts: [...a.shifts, ...(b.shifts ?? [])],
  letGo: [...a.letGo, ...(b.letGo ?? [])],
  reopened: [...a.reopened, ...(b.reopened ?? [])],
  offered: [...a.offered, ...(b.offered ?? [])],
});

/** True where anything follows. */
export const follows = (c: Consequences): boolean => Object.values(c).some((of) => of.length > 0);

/** How many messages become what. */
export const countOf = (c: Pick<Consequences, 'messages'>, fate: MessagesChanged['fate']): number =>
  c.messages.filter((m) => m.fate === fate).reduce((sum, m) => sum + m.count, 0);

/** What follows, a line each; `done` says it as what has happened. Nothing where nothing follows. */
export function sayConsequences(c: Consequences, done: boolean): string[] {
  const { coming, done: happened } = words().consequences;
  const line = (name: keyof typeof coming, params: Params): string =>
    say((done ? happened : coming)[name], params);
  const counts = {
    messagesMoved: countOf(c, 'moved'),
    messagesHeldBack: countOf(c, 'held back'),
    shiftsMoved: c.shifts.length,
    letGo: c.letGo.length,
    offered: c.offered.length,
  };
  return [
    ...(Object.keys(counts) as (keyof typeof counts)[])
      .filter((name) => counts[name] > 0)
      .map((name) => line(name, { count: counts[name] })),
    ...(c.reopened.length ? [line('reopened', { steps: c.reopened.join(', ') })] : []),
  ];
}
