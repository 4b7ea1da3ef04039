import type { Zone } from '#core/time/clock.ts';
import { sayShortDate, sayTime, sayZone } from '#core/time/say.ts';
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

const timeOf: Record<string, (zone: string) => string> = {
  en: (zone) => `${zone} time`,
  fr: (zone) => `heure de ${zone}`,
};

/**
 * "Canoe leader, Landing B, Sat 8 Aug 09:00–13:00 (4 h)"; with by whose clock that is where the reader lives by another.
 * @param zones the zone of the event, and that of the reader where it is known
 */
export function sayShift(
  s: SaidShift,
  language = 'en',
  zones: { of: Zone; reader: Zone | null } | null = null,
): string {
  const elsewhere = zones?.reader && zones.reader !== zones.of;
  const clock = elsewhere ? `, ${(timeOf[language] ?? timeOf.en!)(sayZone(zones.of))}` : '';
  return `${[s.role, s.place].filter(Boolean).join(', ')}, ${sayShortDate(s.startsLocal, true, language)} ${sayTime(s.startsLocal, language)}–${sayTime(s.endsLocal, language)} (${hoursOf(s.startsAt, s.endsAt)} h)${clock}`;
}
