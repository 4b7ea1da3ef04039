import type { contactsContract } from '#contract/contacts.ts';
import { cutLine, partsOfAll } from '#core/access/contacts.ts';
import { demandParts } from '../contacts/seeing.ts';
import * as store from '../contacts/store.ts';
import type { Handlers } from '../http/handle.ts';
import { conditionOfSegment } from './asking.ts';

/** Lists of contacts, which may be those of a segment. */
export const listHandlers: Pick<
  Handlers<typeof contactsContract>,
  'GET /api/contacts' | 'GET /api/contacts/ids'
> = {
  'GET /api/contacts': async ({ tx, query, now, staff }) => {
    const parts = partsOfAll(staff);
    demandParts(parts, ['name']);
    // An order by what is not seen would tell it.
    const blind =
      (query.sort === 'postal' && !parts.has('address')) || (query.sort === 'seen' && !parts.has('presence'));
    const { contacts, total } = await store.listContacts(
      tx,
      blind ? { ...query, sort: 'name' } : query,
      query.segment ? await conditionOfSegment(tx, query.segment, now, staff) : null,
    );
    return { contacts: contacts.map((l) => cutLine(l, parts)), total };
  },

  'GET /api/contacts/ids': async ({ tx, query, now, staff }) => {
    demandParts(partsOfAll(staff), ['name']);
    return {
      ids: await store.idsOfContacts(
        tx,
        query,
        query.segment ? await conditionOfSegment(tx, query.segment, now, staff) : null,
      ),
    };
  },
};
