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

const counted = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

/** What follows, a line each; `done` says it as what has happened. Nothing where nothing follows. */
export function sayConsequences(c: Consequences, done: boolean): string[] {
  const become = (n: number, verb: string) =>
    done ? `${n === 1 ? 'was' : 'were'} ${verb}` : `will be ${verb}`;
  const lines: string[] = [];
  if (c.messagesMoved)
    lines.push(
      `${counted(c.messagesMoved, 'planned message', 'planned messages')} ${become(c.messagesMoved, 'moved')}`,
    );
  if (c.messagesHeldBack)
    lines.push(
      `${counted(c.messagesHeldBack, 'planned message', 'planned messages')} ${become(c.messagesHeldBack, 'held back')}`,
    );
  if (c.shiftsMoved)
    lines.push(`${counted(c.shiftsMoved, 'shift', 'shifts')} ${become(c.shiftsMoved, 'moved along')}`);
  if (c.letGo)
    lines.push(
      `${counted(c.letGo, 'party', 'parties')} without a confirmed seat ${become(c.letGo, 'let go')}`,
    );
  if (c.offered.length)
    lines.push(
      `${counted(c.offered.length, 'party', 'parties')} from the waitlist ${become(c.offered.length, 'offered seats')}`,
    );
  if (c.reopened.length)
    lines.push(`${done ? 'Reopened' : 'Will be reopened'} for clearance: ${c.reopened.join(', ')}`);
  return lines;
}
