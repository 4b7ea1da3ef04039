import { sayShortDate, sayTime } from '#core/time/say.ts';
import { hoursOf } from './shift.ts';

/** A shift as it is said to whoever has it. */
export interface SaidShift {
  role: string;
  place: string;
  startsLocal: string;
  endsLocal: string;
  startsAt: string;
  endsAt: string;
}

/** "Canoe leader, Landing B, Sat 8 Aug 09:00–13:00 (4 h)". */
export function sayShift(s: SaidShift, language = 'en'): string {
  return `${[s.role, s.place].filter(Boolean).join(', ')}, ${sayShortDate(s.startsLocal, true, language)} ${sayTime(s.startsLocal, language)}–${sayTime(s.endsLocal, language)} (${hoursOf(s.startsAt, s.endsAt)} h)`;
}
