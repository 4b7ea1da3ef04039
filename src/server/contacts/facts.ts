import { splitName } from '#core/contacts/names.ts';
import type { Reactions } from '../app/app.ts';
import { update } from '../db/database.ts';
import { linkPerson } from './linking.ts';

export const contactsReactions: Reactions = {
  /** Somebody on the staff is a contact too, made when there is none: what they do is part of their record. */
  async 'joined the team'(w, { staffId, name, email }) {
    const linked = await linkPerson(w, { ...splitName(name), email }, 'joined the team', 'staff');
    await update(w.tx, 'staff', staffId, { contactId: linked.contactId });
  },
};
