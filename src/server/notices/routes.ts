import type { noticesContract } from '#contract/notices.ts';
import { mayBeTold, noticedKinds, usualMorning } from '#core/notices/notices.ts';
import { record } from '../app/record.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { keepWishes, readWisher, readWishes, type Told } from './store.ts';

export const noticesHandlers: Handlers<typeof noticesContract> = {
  'GET /api/account/notices': async ({ tx, staff }) => {
    const wishes = new Map((await readWishes(tx, staff.id)).map((w) => [w.what, w.when]));
    const { onlyMine, leastGift } = (await readWisher(tx, staff.id))!;
    const { quietHours } = await theOrganization(tx);
    return {
      wishes: noticedKinds
        .filter((what) => mayBeTold(staff, what))
        .map((what) => ({ what, when: wishes.get(what) ?? ('never' as const) })),
      onlyMine,
      leastGift,
      morning: quietHours?.until ?? usualMorning,
    };
  },

  'PUT /api/account/notices': async (c) => {
    const { wishes, ...how } = c.body;
    const wanted = wishes.filter((w): w is typeof w & { when: Told } => w.when !== 'never');
    const not = wanted.findIndex(({ what }) => !mayBeTold(c.staff, what));
    if (not >= 0) throw invalid([{ path: `wishes.${wishes.indexOf(wanted[not]!)}.what`, code: 'not-told' }]);
    await keepWishes(c.tx, c.staff.id, wanted, how);
    await record(c, 'account changed', {
      staffId: c.staff.id,
      how: 'said what they want to be told of by email',
    });
    return { done: true };
  },
};
