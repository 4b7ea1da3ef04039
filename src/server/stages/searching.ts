import type { contactsContract } from '#contract/contacts.ts';
import { cutLine, onlyUnit, partsOf } from '#core/access/contacts.ts';
import { stagesOf } from '#core/access/stages.ts';
import * as store from '../contacts/store.ts';
import { searchEvents } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';

/** The search of the top bar: people and events. */
export const searchHandlers: Pick<Handlers<typeof contactsContract>, 'GET /api/search'> = {
  'GET /api/search': async ({ tx, query, staff, now }) => {
    const unit = onlyUnit(staff);
    const parts = partsOf(staff, unit);
    const contacts = parts.has('name')
      ? await store.searchContacts(tx, query.q, 8, unit ? staff.unitId : null)
      : [];
    const events = query.q.trim() ? await searchEvents(tx, query.q, 20) : [];
    return {
      contacts: contacts.map((l) => cutLine(l, parts)),
      events: events
        .filter((e) => stagesOf(staff, e, now).size > 0)
        .slice(0, 5)
        .map(({ id, title, startsLocal, state }) => ({ id, title, startsLocal, state })),
    };
  },
};
