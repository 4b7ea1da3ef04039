/** What a contact can be. */
export const contactKinds = ['person', 'organization'] as const;
export type ContactKind = (typeof contactKinds)[number];

/** What the list of contacts can be ordered by. */
export const contactOrders = ['name', 'email', 'postal', 'seen', 'added'] as const;
export type ContactOrder = (typeof contactOrders)[number];

/** How the list of contacts is filtered and ordered. */
export interface ListFilter {
  q: string;
  tag: string;
  kind: ContactKind | null;
  segment: string | null;
  sort: ContactOrder;
  reverse: boolean;
}

/** The list as it is before anything is said. */
export const everybody: ListFilter = {
  q: '',
  tag: '',
  kind: null,
  segment: null,
  sort: 'name',
  reverse: false,
};
