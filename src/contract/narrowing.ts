import { z } from 'zod';
import { comparisons } from '#core/seats/narrowing.ts';

/** One condition that seats are narrowed by; `Condition` of core. */
export const condition = z.object({
  column: z.string().max(60),
  is: z.enum(comparisons),
  values: z.array(z.string().max(500)).max(60),
});
