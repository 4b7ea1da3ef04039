import { audit, type Consequences, type Work } from './app.ts';
import { type FactKind, type Facts, tellings } from './kinds.ts';

/**
 * Records that something happened: its line in the audit trail, whatever the words do on it, in the order they are listed,
 * and, once the transaction is kept, a sign to the pages that show it. Answers what followed.
 */
export async function record<K extends FactKind>(w: Work, kind: K, about: Facts[K]): Promise<Consequences> {
  const { entry, topics } = tellings[kind];
  const line = entry?.(about);
  if (line) await audit(w, line.action, line.subject, line.detail);
  const all: Consequences = { messagesMoved: 0, reopened: [], offered: [] };
  for (const word of w.app.reactions) {
    const followed = await word[kind]?.(w, about);
    if (!followed) continue;
    all.messagesMoved += followed.messagesMoved ?? 0;
    all.reopened.push(...(followed.reopened ?? []));
    all.offered.push(...(followed.offered ?? []));
  }
  w.afterwards(() => {
    for (const topic of topics(about)) w.app.announcer.announce(topic);
  });
  return all;
}
