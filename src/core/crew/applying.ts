import type { CalendarDate } from '#core/time/clock.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { type Availability, problemsWithAvailability } from './availability.ts';
import { type Limits, noLimits } from './limits.ts';

/**
 * The states of an application, in the order they happen. `invited`: somebody known was written to and has said nothing yet. Whoever
 * rests is not thought of until they, or the crew lead, say so.
 */
export const applicationStates = ['invited', 'new', 'accepted', 'declined', 'resting'] as const;
export type ApplicationState = (typeof applicationStates)[number];

/** What a call can ask beside who somebody is and which roles they want. */
export const callAsks = [
  'availability',
  'skills',
  'limits',
  'company',
  'shirt',
  'birth date',
  'experience',
] as const;
export type CallAsk = (typeof callAsks)[number];

/** Sizes of shirts; empty where nothing was said. */
export const shirtSizes = ['', 'XS', 'S', 'M', 'L', 'XL', '2XL', '3XL'] as const;
export type ShirtSize = (typeof shirtSizes)[number];

/** What somebody says in an application. */
export interface Said {
  wishes: { roleId: string; weight: number }[];
  skills: { skillId: string; number: string; until: CalendarDate | null; fileId: string | null }[];
  /** Null where it is not asked. */
  available: Availability | null;
  limits: Limits;
  /** With whom, in their own words. */
  company: string;
  shirt: ShirtSize;
  birthDate: CalendarDate | null;
  experience: string;
}

/** What a call offers and asks. */
export interface Offered {
  roles: readonly string[];
  skills: readonly { id: string; certificate: boolean }[];
  asks: readonly CallAsk[];
  /** The days of its grid: dates, or days of the week. */
  kind: Availability['kind'];
}

/** What is wrong with what somebody said, each at its path. What a call does not ask is not looked at. */
export function problemsWithSaid(said: Said, of: Offered, today: CalendarDate): Wrong[] {
  const wrong: Wrong[] = [];
  if (!said.wishes.length) wrong.push(wrongAt('wishes', 'wish-needed'));
  for (const [at, { roleId }] of said.wishes.entries())
    if (!of.roles.includes(roleId)) wrong.push(wrongAt(`wishes.${at}.roleId`, 'role-gone'));
  const asks = (what: CallAsk) => of.asks.includes(what);
  if (asks('skills'))
    for (const [at, { skillId }] of said.skills.entries())
      if (!of.skills.some((s) => s.id === skillId)) wrong.push(wrongAt(`skills.${at}.skillId`, 'skill-gone'));
  if (asks('availability')) {
    if (said.available?.kind !== of.kind || !said.available.stretches.length)
      wrong.push(wrongAt('available', 'available-needed'));
    else
      wrong.push(
        ...problemsWithAvailability(said.available).map((p) => ({ ...p, path: `available.${p.path}` })),
      );
  }
  if (asks('birth date') && said.birthDate && said.birthDate > today)
    wrong.push(wrongAt('birthDate', 'in-the-future'));
  return wrong;
}

/** What is kept of what somebody said: only what the call asks. A skill that is no certificate has no number and no last day. */
export function keptOf(said: Said, of: Offered): Said {
  const asks = (what: CallAsk) => of.asks.includes(what);
  const isCertificate = (id: string) => of.skills.find((s) => s.id === id)?.certificate === true;
  return {
    wishes: said.wishes,
    skills: asks('skills')
      ? said.skills.map((s) =>
          isCertificate(s.skillId) ? s : { skillId: s.skillId, number: '', until: null, fileId: null },
        )
      : [],
    available: asks('availability') ? said.available : null,
    limits: asks('limits') ? said.limits : noLimits,
    company: asks('company') ? said.company : '',
    shirt: asks('shirt') ? said.shirt : '',
    birthDate: asks('birth date') ? said.birthDate : null,
    experience: asks('experience') ? said.experience : '',
  };
}

/** Why an application cannot become what is wanted; null where it can. Whoever said nothing yet cannot be decided on. */
export const decisionRefused = (
  from: ApplicationState,
  to: Exclude<ApplicationState, 'invited' | 'new'>,
): 'not-applied' | 'is-so-already' | null =>
  from === 'invited' ? 'not-applied' : from === to ? 'is-so-already' : null;

/** Whether somebody may still say something else by their own link: not once they were declined. */
export const maySay = (state: ApplicationState): boolean => state !== 'declined';

/** What an application becomes when whoever made it says something by their own link. Who was accepted stays so. */
export const afterSaying = (state: ApplicationState): ApplicationState =>
  state === 'accepted' ? 'accepted' : 'new';
