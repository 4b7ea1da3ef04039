import type { PublicCall, SaidBody } from '#contract/applying.ts';
import { availabilityOf, cellsIn } from '#core/crew/availability.ts';
import { cellKey } from '#web/kit/PaintGrid.tsx';

/** What somebody offers, as it is filled in. */
export interface SaidValues {
  /** How much they want each role, by its id: '' not at all, else '1' to '3'. */
  wishes: Record<string, string>;
  skills: Record<string, { has: boolean; number: string; until: string; fileId: string }>;
  /** Painted cells of the grid: day and hour. */
  cells: string[];
  shifts: string;
  hours: string;
  inARow: string;
  latest: string;
  company: string;
  shirt: string;
  birthDate: string;
  experience: string;
}

const shown = (n: number | null): string => (n === null ? '' : String(n));

/** What is known, as it stands in the form. */
export function typedSaid(call: PublicCall, said: SaidBody | null): SaidValues {
  const limits = said?.limits;
  return {
    wishes: Object.fromEntries(
      call.roles.map((r) => [r.id, shown(said?.wishes.find((w) => w.roleId === r.id)?.weight ?? null)]),
    ),
    skills: Object.fromEntries(
      call.skills.map((s) => {
        const own = said?.skills.find((x) => x.skillId === s.id);
        return [
          s.id,
          {
            has: Boolean(own),
            number: own?.number ?? '',
            until: own?.until ?? '',
            fileId: own?.fileId ?? '',
          },
        ];
      }),
    ),
    cells: said?.available
      ? cellsIn(said.available, call.grid.days).map((c) => cellKey(c.day, String(c.hour)))
      : [],
    shifts: shown(limits?.shifts ?? null),
    hours: shown(limits?.hours ?? null),
    inARow: shown(limits?.inARow ?? null),
    latest: limits?.latest ?? '',
    company: said?.company ?? '',
    shirt: said?.shirt ?? '',
    birthDate: said?.birthDate ?? '',
    experience: said?.experience ?? '',
  };
}

const number = (typed: string): number | null => (typed.trim() ? Number(typed) : null);

/** The skills that are ticked, in the order they stand. */
const ticked = (call: PublicCall, v: SaidValues) => call.skills.filter((s) => v.skills[s.id]?.has);

/** What the form says. */
export function saidIn(call: PublicCall, v: SaidValues): SaidBody {
  const asks = (what: PublicCall['asks'][number]) => call.asks.includes(what);
  return {
    wishes: call.roles.flatMap((r) => {
      const weight = number(v.wishes[r.id] ?? '');
      return weight ? [{ roleId: r.id, weight }] : [];
    }),
    skills: ticked(call, v).map((s) => ({
      skillId: s.id,
      number: v.skills[s.id]!.number,
      until: v.skills[s.id]!.until || null,
      fileId: v.skills[s.id]!.fileId || null,
    })),
    available: asks('availability')
      ? (availabilityOf(
          call.grid.kind,
          call.grid.days,
          v.cells.map((key) => {
            const [day = '', hour = ''] = key.split(' ');
            return { day, hour: Number(hour) };
          }),
        ) as SaidBody['available'])
      : null,
    limits: {
      shifts: number(v.shifts),
      hours: number(v.hours),
      inARow: number(v.inARow),
      latest: v.latest || null,
    },
    company: v.company,
    shirt: v.shirt as SaidBody['shirt'],
    birthDate: v.birthDate || null,
    experience: v.experience,
  };
}

/** Where what is wrong with a request stands in the form. */
export function fieldOfSaid(path: string, call: PublicCall, v: SaidValues): string {
  const within = path.replace(/^said\./u, '');
  const skill = /^skills\.(\d+)\.(\w+)$/u.exec(within);
  if (skill) return `skills.${ticked(call, v)[Number(skill[1])]?.id}.${skill[2]}`;
  if (within.startsWith('wishes')) return 'wishes';
  if (within.startsWith('available')) return 'cells';
  return within.replace(/^limits\./u, '').replace(/^person\./u, '');
}
