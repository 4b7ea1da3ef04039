import type { Reactions } from '../app/app.ts';
import { copyTeam } from './store.ts';

export const dutiesReactions: Reactions = {
  // Who organized it last time organizes it again; whoever begins it takes them off who do not.
  'event begun': async ({ tx, now, actor }, { eventId, from }) => {
    if (from) await copyTeam(tx, from, eventId, now, actor.name);
  },
};
