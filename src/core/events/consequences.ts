import type { Params } from '#core/words/filling.ts';
import { say, words } from '#core/words/spoken.ts';

/** What follows from a change of an event, told before it is made and after. */
export interface Consequences {
  /** Messages that had not gone out and now go at another time. */
  messagesMoved: number;
  /** Messages that had not gone out and now do not. */
  messagesHeldBack: number;
  /** Shifts that are at another time. */
  shiftsMoved: number;
  /** Parties whose seats were held, offered or waited for, and are let go. */
  letGo: number;
  /** Clearance steps that have to be decided again. */
  reopened: string[];
  /** Parties that were offered a seat. */
  offered: string[];
}

export const noConsequences: Consequences = {
  messagesMoved: 0,
  messagesHeldBack: 0,
  shiftsMoved: 0,
  letGo: 0,
  reopened: [],
  offered: [],
};

/** Both together. */
export const alsoFollows = (a: Consequences, b: Partial<Consequences>): Consequences => ({
  messagesMoved: a.messagesMoved + (b.messagesMoved ?? 0),
  messagesHeldBack: a.messagesHeldBack + (b.messagesHeldBack ?? 0),
  shiftsMoved: a.shiftsMoved + (b.shiftsMoved ?? 0),
  letGo: a.letGo + (b.letGo ?? 0),
  reopened: [...a.reopened, ...(b.reopened ?? [])],
  offered: [...a.offered, ...(b.offered ?? [])],
});

const counts = ['messagesMoved', 'messagesHeldBack', 'shiftsMoved', 'letGo'] as const;

/** What follows, a line each; `done` says it as what has happened. Nothing where nothing follows. */
export function sayConsequences(c: Consequences, done: boolean): string[] {
  const { coming, done: happened } = words().consequences;
  const line = (name: keyof typeof coming, params: Params): string =>
    say((done ? happened : coming)[name], params);
  return [
    ...counts.filter((name) => c[name] > 0).map((name) => line(name, { count: c[name] })),
    ...(c.offered.length ? [line('offered', { count: c.offered.length })] : []),
    ...(c.reopened.length ? [line('reopened', { steps: c.reopened.join(', ') })] : []),
  ];
}
