import { followLink } from '../app/app.ts';
import type { Queries } from '../db/database.ts';
import { notFound } from '../http/problem.ts';

/** The order a personal link leads to. */
export async function orderByLink(tx: Queries, token: string): Promise<string> {
  const id = await followLink(tx, 'manage', token);
  if (!id) throw notFound('This booking');
  return id;
}
