import type { z } from 'zod';
import type { orderBody } from '#contract/registration.ts';

/** What is asked for when an order is placed. */
export type OrderRequest = z.output<typeof orderBody>;
