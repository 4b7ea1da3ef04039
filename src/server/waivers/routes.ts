import type { waiversContract } from '#contract/waivers.ts';
import { factsOf } from '#core/access/stages.ts';
import { followLink } from '../app/app.ts';
import { sha256 } from '../db/ids.ts';
import { readEvent } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound, refused } from '../http/problem.ts';
import { signWaiver } from './signing.ts';
import { readSignatures, readSigner } from './store.ts';

export const waiversHandlers: Handlers<typeof waiversContract> = {
  'POST /api/public/orders/:token/signatures': async (c) => {
    const { tx, params, body } = c;
    const orderId = await followLink(tx, 'manage', params.token);
    if (!orderId) throw notFound('This booking');
    const { waiverId, seats, typedName, ticked } = body;
    const signed: { registrationId: string; sha256: string }[] = [];
    for (const { registrationId, relation } of seats) {
      const seat = await readSigner(tx, registrationId);
      if (seat?.orderId !== orderId) throw notFound('This seat');
      signed.push({
        registrationId,
        sha256: await signWaiver(c, seat, { waiverId, typedName, ticked, relation }),
      });
    }
    return { signed };
  },

  'GET /api/registrations/:id/signatures': async (c) => {
    const { tx, params } = c;
    const seat = await readSigner(tx, params.id);
    if (!seat) throw notFound('This registration');
    const event = await readEvent(tx, seat.eventId);
    if (!factsOf(c.staff, event, c.now).has('signature')) throw refused('not-your-waivers', {}, 403);
    return (await readSignatures(tx, params.id)).map((row) => ({
      ...row,
      matches: sha256(row.text) === row.sha256,
    }));
  },
};
