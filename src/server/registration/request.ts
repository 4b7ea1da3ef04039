import type { z } from 'zod';
import type { orderBody } from '#contract/registration.ts';

/** What is asked for when an order is placed. */
export type OrderRequest = z.output<typeof orderBody>;

/** How an order came in. Staff may register after the public window closed, and let people pay later. */
export type Channel = 'public' | 'staff' | 'door';
