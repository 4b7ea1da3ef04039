import { dateOf } from '#core/time/wallTime.ts';
import type { RosterInstance } from './instance.ts';

/** Every rule that what was proposed breaks, said plainly. Written apart from what works rosters out, to check it by. */
export function broken(
  instance: RosterInstance,
  assignments: readonly (readonly [string, string])[],
): string[] {
  const fixed = new Set(instance.fixed.map((f) => f.join(' ')));
  const hour = (instant: string) => Date.parse(instant) / 3_600_000;
  const byId = new Map(instance.shifts.map((s) => [s.id, s]));
  const on = (id: string) => assignments.filter(([p]) => p === id).map(([, s]) => byId.get(s)!);
  const who = (id: string) => assignments.filter(([, s]) => s === id).map(([p]) => p);
  const isFixed = (p: string, s: string) => fixed.has(`${p} ${s}`);
  const out: string[] = [];
  if (new Set(assignments.map((a) => a.join(' '))).size < assignments.length)
    out.push('somebody is twice on a shift');
  for (const [p, s] of instance.fixed)
    if (!assignments.some(([a, b]) => a === p && b === s)) out.push(`${p} is not on ${s} any more`);
  for (const p of instance.people) {
    const own = on(p.id);
    const proposed = own.filter((s) => !isFixed(p.id, s.id));
    for (const s of proposed) {
      if (s.needs.some((need) => !p.skills.includes(need))) out.push(`${p.id} lacks a skill for ${s.id}`);
      // Minute by minute within what they said.
      if (p.available)
        for (let h = hour(s.start); h < hour(s.end); h += 0.5)
          if (!p.available.some(([a, b]) => hour(a) <= h && h + 0.5 <= hour(b))) {
            out.push(`${p.id} is not there for ${s.id}`);
            break;
          }
      for (const other of own) {
        if (other === s) continue;
        const [first, second] = hour(s.start) <= hour(other.start) ? [s, other] : [other, s];
        const gap = hour(second.start) - hour(first.end);
        const span = Math.max(hour(first.end), hour(second.end)) - hour(first.start);
        const { restHours, daily } = instance.rules;
        if (gap < 0) out.push(`${p.id} is at two places: ${s.id}, ${other.id}`);
        else if (s.place && other.place && s.place !== other.place && gap * 60 < instance.rules.placeMinutes)
          out.push(`${p.id} cannot get from ${first.place} to ${second.place}`);
        else if (gap < restHours && !(daily && span <= 24 - restHours))
          out.push(`${p.id} has no rest between ${s.id} and ${other.id}`);
      }
      for (const other of p.together)
        if (!who(s.id).includes(other)) out.push(`${p.id} is on ${s.id} without ${other}`);
      for (const other of p.apart)
        if (who(s.id).includes(other)) out.push(`${p.id} is with ${other} on ${s.id}`);
      if (p.minor && who(s.id).every((o) => instance.people.find((x) => x.id === o)!.minor))
        out.push(`${p.id} is alone on ${s.id}`);
    }
    const hours = own.reduce((sum, s) => sum + hour(s.end) - hour(s.start), 0);
    if (proposed.length && p.maxHours !== null && hours > p.maxHours) out.push(`${p.id} has ${hours} hours`);
    if (p.maxInARow !== null) {
      // Day by day, from midnight to midnight by the clock of the zone.
      const dates = (s: (typeof own)[number]) => {
        const on = new Set<string>();
        for (let h = hour(s.start); h < hour(s.end); h += 0.25)
          on.add(dateOf(new Date(h * 3_600_000).toISOString(), instance.rules.zone));
        return [...on];
      };
      const taken = new Set([...p.otherDays, ...own.flatMap(dates)]);
      const next = (date: string, by: number) =>
        new Date(Date.parse(`${date}T12:00Z`) + by * 86_400_000).toISOString().slice(0, 10);
      for (const date of proposed.flatMap(dates)) {
        let run = 1;
        for (let d = next(date, 1); taken.has(d); d = next(d, 1)) run += 1;
        for (let d = next(date, -1); taken.has(d); d = next(d, -1)) run += 1;
        if (run > p.maxInARow) out.push(`${p.id} has ${run} days in a row around ${date}`);
      }
    }
    if (proposed.length && p.maxShifts !== null && own.length > p.maxShifts)
      out.push(`${p.id} has ${own.length} shifts`);
  }
  for (const s of instance.shifts) {
    const proposed = who(s.id).filter((p) => !isFixed(p, s.id));
    if (proposed.length && who(s.id).length > s.wished) out.push(`${s.id} has more than are wished`);
  }
  return out;
}
