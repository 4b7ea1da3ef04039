import { z } from 'zod';
import { isZone } from '#core/time/wallTime.ts';
import { date } from './endpoint.ts';

const id = z.string().min(1).max(200);
const instant = z.iso.datetime({ offset: true }).or(z.iso.datetime({ local: false }));
const many = (most: number) => z.array(id).max(most);

/** Who there is, what there is to do, and what is agreed, as `npm run roster` reads it from a file. */
export const rosterFile = z.strictObject({
  people: z
    .array(
      z.strictObject({
        id,
        skills: many(200).default([]),
        /** Left out: always. */
        available: z
          .array(z.tuple([instant, instant]))
          .max(1000)
          .nullable()
          .default(null),
        maxHours: z.number().min(0).nullable().default(null),
        maxShifts: z.int().min(0).nullable().default(null),
        maxInARow: z.int().min(0).nullable().default(null),
        otherDays: z.array(date).max(400).default([]),
        wishes: z.record(z.string(), z.number().min(-1000).max(1000)).default({}),
        together: many(50).default([]),
        apart: many(200).default([]),
        minor: z.boolean().default(false),
      }),
    )
    .max(5000),
  shifts: z
    .array(
      z.strictObject({
        id,
        role: z.string().max(200).default(''),
        place: z.string().max(200).default(''),
        start: instant,
        end: instant,
        least: z.int().min(0).max(10_000),
        wished: z.int().min(0).max(10_000),
        importance: z.number().min(0).max(1000).default(1),
        needs: many(50).default([]),
      }),
    )
    .max(2000),
  fixed: z
    .array(z.tuple([id, id]))
    .max(100_000)
    .default([]),
  rules: z
    .strictObject({
      restHours: z.number().min(0).max(48).default(0),
      daily: z.boolean().default(false),
      placeMinutes: z.number().min(0).max(600).default(0),
      zone: z.string().max(60).refine(isZone, 'no-such-zone').default('UTC'),
    })
    .default({ restHours: 0, daily: false, placeMinutes: 0, zone: 'UTC' }),
  seconds: z.number().positive().max(3600).default(30),
});

/** What `npm run roster` answers. */
export interface RosterAnswer {
  assignments: [person: string, shift: string][];
  /** How many are on each shift. */
  filled: Record<string, number>;
  /** What it is worth, and what no roster can be worth more than: docs/roster.md says how the terms make one number. */
  objective: number;
  bound: number;
  /** How far the first term is from its bound that is not proven, as a share of it; 0: it is proven to be the best. */
  gap: number;
  seconds: number;
  terms: Record<'least' | 'wished' | 'wishes' | 'largest' | 'spread', number>;
  bounds: RosterAnswer['terms'];
  unfilled: {
    shift: string;
    missing: number;
    /** Whether it has what it takes at least, and lacks what is wished. */
    wish: boolean;
    why: string;
    cheapest: string | null;
    change: { kind: string; to: number; people: string[]; fills: number } | null;
  }[];
}
