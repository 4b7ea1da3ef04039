import type { App } from './app.ts';

/** The furthest back that what is told later may lie, in hours. */
const latestTold = 36;

/** When something was that is told now: as the device says, not in the future and not long ago. */
export function toldFor(app: Pick<App, 'movable'>, now: string, at: string | undefined): string {
  // The demonstration's clock is not that of the device.
  if (!at || app.movable) return now;
  const until = Date.parse(now);
  const told = Math.max(until - latestTold * 3_600_000, Math.min(until, Date.parse(at)));
  return new Date(told).toISOString();
}
