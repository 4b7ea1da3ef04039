import { alsoFollows, type Consequences, noConsequences } from '#core/events/consequences.ts';
import { insert } from '../db/database.ts';
import type { Work } from './app.ts';
import { type FactKind, type Facts, tellings } from './kinds.ts';
import type { Entry } from './telling.ts';

/**
 * Records that something happened: its line in the audit trail, whatever the words do on it, in the order they are listed,
 * and, once the transaction is kept, a sign to the pages that show it. Answers what followed.
 */
export async function record<K extends FactKind>(w: Work, kind: K, about: Facts[K]): Promise<Consequences> {
  const { entry, topics } = tellings[kind];
  const line = entry?.(about);
  if (line) await writeEntry(w, line);
  let all = noConsequences;
  for (const word of w.app.reactions) all = alsoFollows(all, (await word[kind]?.(w, about)) ?? {});
  w.afterwards(() => {
    for (const topic of topics(about)) w.app.announcer.announce(topic);
  });
  return all;
}

/** Writes a line of the audit trail, with who and from where. */
async function writeEntry(w: Work, { action, subject, detail = {} }: Entry): Promise<void> {
  await insert(w.tx, 'audit', {
    id: w.app.ids.id(),
    at: w.now,
    actor: w.actor.name,
    staffId: w.actor.staffId,
    action,
    subjectKind: subject.kind,
    subjectId: subject.id,
    detail,
    requestId: w.actor.requestId,
  });
}
