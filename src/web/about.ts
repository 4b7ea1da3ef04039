import type { Key } from './api.ts';

/** What a query says of itself: its endpoint. What that is about is looked up where something changed (topics.ts). */
export const about = (key: Key): { key: Key } => ({ key });
