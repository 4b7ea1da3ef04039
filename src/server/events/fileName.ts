/** What a file about an event is called: what it is, and the address of the event. */
export const fileName = (of: string, event: { slug: string | null; id: string }, end: string): string =>
  `${of}-${event.slug ?? event.id}.${end}`;
