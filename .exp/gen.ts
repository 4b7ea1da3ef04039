import type { RosterInstance } from '#core/roster/instance.ts';
export function rng(seed: number) { return () => { seed |= 0; seed = (seed + 0x6d2b79f5) | 0; let t = Math.imul(seed ^ (seed >>> 15), 1 | seed); t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t; return ((t ^ (t >>> 14)) >>> 0) / 4294967296; }; }
export function gen(P: number, S: number, days: number, seed: number, o: { avail?: number; rest?: number; daily?: boolean; minors?: number; pairs?: number } = {}): RosterInstance & {seconds:number} {
  const r = rng(seed); const int = (a: number, b: number) => a + Math.floor(r() * (b - a + 1)); const pick = <T>(x: readonly T[]) => x[Math.floor(r() * x.length)]!;
  const roles = ['Landing', 'Kitchen', 'First aid', 'Car park', 'Safety boat', 'Gate', 'Guide', 'Stage']; const need: Record<string, string[]> = { 'First aid': ['first aid'], 'Safety boat': ['helm'], Kitchen: ['food'] };
  const base = Date.parse('2026-08-06T00:00:00Z'); const at = (h: number) => new Date(base + h * 3600e3).toISOString();
  const shifts = Array.from({ length: S }, (_, n) => { const role = pick(roles); const d = int(0, days - 1); const st = d * 24 + int(14, 42) / 2; const len = pick([2, 3, 3, 4, 4, 5]); const wished = int(1, 6); return { id: `s${n}`, role, place: pick(['A', 'B', 'C']), start: at(st), end: at(st + len), least: Math.max(1, Math.round(wished * 0.6)), wished, importance: pick([1, 1, 2, 3, 5]), needs: need[role] ?? [] }; });
  const people = Array.from({ length: P }, (_, n) => { const available: [string, string][] = []; for (let d = 0; d < days; d++) { const k = r(); if (k < (o.avail ?? 0.6)) { const a = pick([6, 6, 12, 14]); available.push([at(d * 24 + a), at(d * 24 + a + pick([6, 8, 12, 18]))]); } }
    const wishes: Record<string, number> = {}; for (const role of roles) if (r() < 0.25) wishes[role] = int(1, 3);
    return { id: `p${n}`, skills: ['first aid', 'helm', 'food'].filter(() => r() < 0.2), available, maxHours: pick([6, 8, 8, 12, 16]), maxShifts: pick([2, 3, 4]), wishes, together: [] as string[], apart: [] as string[], minor: r() < (o.minors ?? 0.05) }; });
  for (let k = 0; k < (o.pairs ?? P / 30); k++) { const a = int(0, P - 1), b = int(0, P - 1); if (a !== b) (k % 3 ? people[a]!.together : people[a]!.apart).push(people[b]!.id); }
  return { people, shifts, fixed: [], rules: { restHours: o.rest ?? 10, daily: o.daily ?? true }, seconds: 30 };
}
