import type { QueryClient } from '@tanstack/react-query';
import type { NavigateFunction } from 'react-router';
import { addressOf } from '#web/api.ts';
import { keepDraftsOf } from '../kit/form/drafts.ts';
import { askAhead } from './places.ts';

/** Goes on as somebody who has just signed in, to where they are bound. Nothing is kept of whoever was here before. */
export function entered(client: QueryClient, email: string, to: string, navigate: NavigateFunction): void {
  keepDraftsOf(email.trim().toLowerCase());
  client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== addressOf('GET /api/setup') });
  if (to === '/desk') askAhead(client, 'Desk');
  navigate(to, { replace: true });
}
