import { z } from 'zod';
import { registrationStates } from '#core/registration/states.ts';
import { amount, contract, idParams } from './endpoint.ts';

export const outcomesContract = contract({
  'GET /api/events/:id/figures': {
    summary:
      "An event's figures: seats, attendance, money, hours and survey, with the sums that have to agree",
    who: 'staff',
    params: idParams,
    response: z.object({
      seatsByState: z.record(z.enum(registrationStates), z.int()),
      seats: z.int(),
      arrived: z.int(),
      walkIns: z.int(),
      missed: z.int(),
      expected: z.int(),
      money: z.object({ seats: amount, donations: amount, refunds: amount, net: amount, waived: amount }),
      hoursServed: z.number(),
      survey: z.object({ asked: z.int(), answered: z.int(), share: z.number() }).nullable(),
      checks: z.array(z.object({ text: z.string(), holds: z.boolean() })),
    }),
  },
});
