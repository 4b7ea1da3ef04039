import type { Consequences, MessagesChanged } from '#core/events/consequences.ts';
import type { Concerned } from './letters.ts';

/** As much of a letter as is the same, or is counted, where several events are changed as one. */
interface Letter {
  to: Concerned;
  bySelf: boolean;
  told: boolean;
  count: number;
  leftOut: { name: string; why: string }[];
  sample: object | null;
  calendar: unknown;
}

/**
 * The letters of several events as one list: of each sort one, with everybody who gets it. Whoever is told by one event is told;
 * the one that is shown is that of the first event that has somebody to tell.
 */
export function lettersTogether<L extends Letter>(of: readonly (readonly L[])[]): L[] {
  const together = new Map<Concerned, L>();
  for (const letter of of.flat()) {
    const known = together.get(letter.to);
    together.set(
      letter.to,
      known
        ? {
            ...known,
            bySelf: known.bySelf || letter.bySelf,
            told: known.told || letter.told,
            count: known.count + letter.count,
            leftOut: [...known.leftOut, ...letter.leftOut],
            sample: known.sample ?? letter.sample,
            calendar: known.calendar ?? letter.calendar,
          }
        : letter,
    );
  }
  return [...together.values()];
}

/** What follows for several events, with what is the same of each said once: messages by step, steps of a clearance by name. */
export function followedTogether(of: Consequences): Consequences {
  const messages = new Map<string, MessagesChanged>();
  for (const m of of.messages) {
    const key = `${m.line}|${m.fate}|${m.why ?? ''}`;
    const known = messages.get(key);
    messages.set(
      key,
      known
        ? {
            ...known,
            count: known.count + m.count,
            // At different times it is not one moment that could be named.
            from: known.from === m.from ? m.from : null,
            to: known.to === m.to ? m.to : null,
          }
        : m,
    );
  }
  return { ...of, messages: [...messages.values()], reopened: [...new Set(of.reopened)] };
}
