import { useEffect, useRef } from 'react';
import type { Answer } from '#web/api.ts';

type Shift = Answer<'GET /api/public/crew/:token'>['shifts'][number];

/** What of a shift matters to whoever looked at it before. */
const saidOf = ({ role, name, place, startsLocal, endsLocal, briefing, state }: Shift): string =>
  [role, name, place, startsLocal, endsLocal, briefing, state].join('\n');

/** Where a device keeps what was seen: by the end of the link, which alone leads nowhere. */
const placeOf = (token: string): string => `acolyte-shifts-${token.slice(-8)}`;

function readSeen(token: string): Record<string, string> | null {
  try {
    return JSON.parse(localStorage.getItem(placeOf(token)) ?? 'null') as Record<string, string> | null;
  } catch {
    return null;
  }
}

/** Says what is new, or another, since somebody last looked at their shifts on this device; nothing the first time. */
export function useSeenShifts(
  token: string,
  shifts: readonly Shift[],
): (shift: Shift) => 'new' | 'changed' | null {
  const before = useRef(readSeen(token));
  useEffect(() => {
    localStorage.setItem(
      placeOf(token),
      JSON.stringify(Object.fromEntries(shifts.map((s) => [s.assignmentId, saidOf(s)]))),
    );
  }, [token, shifts]);
  return (shift) => {
    const seen = before.current;
    if (!seen || shift.past) return null;
    if (!(shift.assignmentId in seen)) return 'new';
    return seen[shift.assignmentId] === saidOf(shift) ? null : 'changed';
  };
}
