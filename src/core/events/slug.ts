import slugify from '@sindresorhus/slugify';
import { fold } from '#core/contacts/names.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import type { Said } from '#core/words/filling.ts';
import type { ProblemCode } from '#core/words/problems.ts';

/** Words a public address may not be, because pages of the product live there. */
const reserved = new Set(['new', 'api', 'assets', 'shifts', 'calendar', 'admin', 'sign-in', 'setup']);

/** Proposes a public address from a title: "Fête de l'Étang 2026" → "fete-de-letang-2026". May be empty. */
export function proposeSlug(title: string): string {
  return slugify(fold(title), { decamelize: false }).slice(0, 60).replace(/-+$/u, '');
}

/** An address that ends with the date of its event, on another date: "paddle-2026-08-08" → "paddle-2026-08-15". Null where it names none. */
export function slugOn(slug: string, from: CalendarDate, to: CalendarDate): string | null {
  return from !== to && slug.endsWith(`-${from}`) ? `${slug.slice(0, -from.length)}${to}` : null;
}

/** Says what is wrong with a public address, or null. Two to sixty characters: a–z, 0–9 and single hyphens inside. */
export function problemWithSlug(slug: string): Said<ProblemCode> | null {
  if (slug.length < 2 || slug.length > 60) return { code: 'slug-length' };
  if (!/^[a-z0-9]+(?:-[a-z0-9]+)*$/u.test(slug)) {
    const better = proposeSlug(slug);
    return better.length > 1 ? { code: 'slug-letters-like', params: { better } } : { code: 'slug-letters' };
  }
  return reserved.has(slug) ? { code: 'slug-kept', params: { slug } } : null;
}
