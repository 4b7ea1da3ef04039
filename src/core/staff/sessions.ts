import type { Instant } from '#core/time/clock.ts';

/** Hours without a request after which a session ends, and days after which it ends in any case. */
export const sessionLimits = { idleHours: 12, absoluteDays: 14 } as const;

/** True while a session lasts. */
export const sessionLasts = (s: { createdAt: Instant; seenAt: Instant }, now: Instant): boolean =>
  Date.parse(now) - Date.parse(s.seenAt) < sessionLimits.idleHours * 3_600_000 &&
  Date.parse(now) - Date.parse(s.createdAt) < sessionLimits.absoluteDays * 86_400_000;

/** A browser and system in a few words, from what it says of itself; for telling one's own sessions apart. */
export function sayDevice(userAgent: string): string {
  const browser = /Edg\//u.test(userAgent)
    ? 'Edge'
    : /Firefox\//u.test(userAgent)
      ? 'Firefox'
      : /Chrom(?:e|ium)\//u.test(userAgent)
        ? 'Chrome'
        : /Safari\//u.test(userAgent)
          ? 'Safari'
          : 'Unknown browser';
  const system = /iPhone|iPad/u.test(userAgent)
    ? 'iOS'
    : /Android/u.test(userAgent)
      ? 'Android'
      : /Windows/u.test(userAgent)
        ? 'Windows'
        : /Mac OS/u.test(userAgent)
          ? 'macOS'
          : /Linux|X11/u.test(userAgent)
            ? 'Linux'
            : '';
  return system ? `${browser} on ${system}` : browser;
}
