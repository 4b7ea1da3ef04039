/** How something was changed, in the words of the audit trail. */
export interface Changed {
  how: string;
  detail?: object;
}

/** A line of the audit trail. */
export interface Entry {
  action: string;
  subject: { kind: string; id: string | null };
  detail?: object;
}

/** What a kind of fact leaves behind by itself. */
export interface Telling<About> {
  /** The line it leaves in the audit trail; none where another fact of the same change, or a row of its own, says it. */
  entry?: (about: About) => Entry | null;
  /** The open pages that show it. */
  topics: (about: About) => readonly string[];
}

export const ofEvent = ({ eventId }: { eventId: string | null }): readonly string[] =>
  eventId ? [`event ${eventId}`] : [];
/** No page shows it at once. */
export const nobody = (): readonly string[] => [];
export const event = (id: string) => ({ kind: 'event', id });
export const order = (id: string) => ({ kind: 'order', id });
export const changed = (kind: string, id: string | null, { how, detail }: Changed): Entry => ({
  action: how,
  subject: { kind, id },
  ...(detail ? { detail } : {}),
});
