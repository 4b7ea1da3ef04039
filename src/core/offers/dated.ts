import { shiftAlong } from '#core/events/dated.ts';
import type { WallTime } from '#core/time/clock.ts';

interface DatedOffer {
  opensLocal: WallTime | null;
  closesLocal: WallTime | null;
  prices: readonly { untilLocal: WallTime | null }[];
}
interface DatedCode {
  fromLocal: WallTime | null;
  untilLocal: WallTime | null;
}
interface Dated {
  offers: readonly DatedOffer[];
  codes: readonly DatedCode[];
}

/** What is dated of offers and codes, at the same distance from another start: what an event sells moves to where its copy begins. */
export function shopAt<P extends Dated>(plan: P, from: WallTime | null, to: WallTime | null): P {
  if (!from || !to || from === to) return plan;
  const along = (wall: WallTime | null) => wall && shiftAlong(wall, from, to);
  return {
    ...plan,
    offers: plan.offers.map((o) => ({
      ...o,
      opensLocal: along(o.opensLocal),
      closesLocal: along(o.closesLocal),
      prices: o.prices.map((p) => ({ ...p, untilLocal: along(p.untilLocal) })),
    })),
    codes: plan.codes.map((c) => ({ ...c, fromLocal: along(c.fromLocal), untilLocal: along(c.untilLocal) })),
  };
}
