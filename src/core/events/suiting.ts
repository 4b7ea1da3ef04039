import type { Instant, WallTime } from '#core/time/clock.ts';

/** What an event is like, as far as somebody’s liking for it goes. */
export interface Kind {
  /** The first event it goes back to: what takes place again and again has the same one. */
  firstOf: string | null;
  category: string;
  unitId: string | null;
  startsLocal: WallTime | null;
}

/** An event that somebody could come to. */
export interface Coming extends Kind {
  id: string;
  startsAt: Instant;
}

/** An event that somebody came to, or had a seat for. */
export interface Been extends Kind {
  /** Whether they came; who had a seat wanted to. */
  came: boolean;
}

/** How much each thing in common says, where everything in somebody’s history has it. */
const weights = { firstOf: 4, category: 2, unit: 1, day: 1, hour: 1 } as const;
/** A seat that was not used says half as much as one that was. */
const missedWeighs = 0.5;
/** Days after which a date counts half: what is far off is no answer to having missed something now. */
const halfLife = 60;

/** Monday to Friday, or the weekend. */
const dayOf = (at: WallTime): string =>
  [0, 6].includes(new Date(`${at.slice(0, 10)}T00:00Z`).getUTCDay()) ? 'weekend' : 'week';
const hourOf = (at: WallTime): string => {
  const hour = Number(at.slice(11, 13));
  return hour < 12 ? 'morning' : hour < 17 ? 'afternoon' : 'evening';
};

/**
 * The event among those coming that suits somebody best by what they came to and had seats for: of the same kind, category, unit, day
 * of the week and time of day, each by the share of their history that has it; the sooner, the better. Null where none is left, or where
 * none has anything in common with what they know. Of two alike the earlier.
 */
export function suiting(coming: readonly Coming[], been: readonly Been[], now: Instant): Coming | null {
  const weightOf = (b: Been) => (b.came ? 1 : missedWeighs);
  const total = been.reduce((sum, b) => sum + weightOf(b), 0);
  if (!total) return null;
  const share = (same: (b: Been) => boolean) =>
    been.filter(same).reduce((sum, b) => sum + weightOf(b), 0) / total;
  const likingOf = (e: Coming) =>
    weights.firstOf * share((b) => e.firstOf !== null && b.firstOf === e.firstOf) +
    weights.category * share((b) => e.category !== '' && b.category === e.category) +
    weights.unit * share((b) => e.unitId !== null && b.unitId === e.unitId) +
    weights.day * share((b) => bothAt(e, b, dayOf)) +
    weights.hour * share((b) => bothAt(e, b, hourOf));
  const scored = coming
    .filter((e) => e.startsAt > now)
    .map((e) => ({
      e,
      score: likingOf(e) * 0.5 ** ((Date.parse(e.startsAt) - Date.parse(now)) / 86_400_000 / halfLife),
    }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score || (a.e.startsAt < b.e.startsAt ? -1 : 1));
  return scored[0]?.e ?? null;
}

const bothAt = (a: Kind, b: Kind, part: (at: WallTime) => string): boolean =>
  a.startsLocal !== null && b.startsLocal !== null && part(a.startsLocal) === part(b.startsLocal);
