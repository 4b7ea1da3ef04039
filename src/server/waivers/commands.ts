import type { z } from 'zod';
import type { waiversContract } from '#contract/waivers.ts';
import { proposeSlug } from '#core/events/slug.ts';
import { isCalendarDate } from '#core/time/dates.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { problemsWithText, sameText, type WaiverText } from '#core/waivers/form.ts';
import { holdsUntil } from '#core/waivers/holding.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { invalid, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { isTitled, pagesOfWaivers, theWaiver } from './formStore.ts';
import { forgetHealth, theSignature } from './signatureStore.ts';

type Added = z.output<(typeof waiversContract)['POST /api/waivers']['body']>;
type Settings = Omit<Added, 'text'>;

/** What is wrong with how a waiver is asked and for how long it holds. */
async function problemsWithSettings(
  w: Work,
  { holds, standing, audience, guardians }: Settings,
): Promise<Wrong[]> {
  const { zone } = await theOrganization(w.tx);
  const today = dateOf(w.now, zone);
  return [
    ...(standing && holds.for === 'event' ? [wrongAt('standing', 'standing-needs-time')] : []),
    ...(holds.for === 'until' && isCalendarDate(holds.date) && !holdsUntil(holds, today)
      ? [wrongAt('holds.date', 'in-the-past')]
      : []),
    ...(guardians === 2 && audience === 'adults' ? [wrongAt('guardians', 'no-guardians-of-adults')] : []),
  ];
}

/** An address of its own that no other waiver has. */
async function freeSlug(w: Work, title: string): Promise<string> {
  const taken = await pagesOfWaivers(w.tx);
  const wanted = proposeSlug(title) || 'sign';
  for (let n = 1; ; n += 1) {
    const slug = n === 1 ? wanted : `${wanted}-${n}`;
    if (!taken.includes(slug)) return slug;
  }
}

const changed = (w: Work, id: string, how: string, detail: Record<string, unknown>) =>
  record(w, 'register grew', { kind: 'waiver', id, how, detail });

const addVersion = (
  w: Work,
  waiverId: string,
  of: { version: number; text: WaiverText; material: boolean },
): Promise<void> =>
  insert(w.tx, 'waiver_versions', {
    id: w.app.ids.id(),
    waiverId,
    ...of,
    madeAt: w.now,
    madeBy: w.actor.name,
  });

/** Adds a waiver with its first version. */
export async function addWaiver(w: Work, { text, ...settings }: Added): Promise<string> {
  const title = text.title.en.trim();
  const problems = [
    ...problemsWithText(text),
    ...(await problemsWithSettings(w, settings)),
    ...((await isTitled(w.tx, title, null)) ? [wrongAt('text.title.en', 'waiver-exists')] : []),
  ];
  if (problems.length) throw invalid(problems);
  const id = w.app.ids.id();
  await insert(w.tx, 'waivers', {
    id,
    title,
    ...settings,
    slug: settings.standing ? await freeSlug(w, title) : null,
    createdAt: w.now,
  });
  await addVersion(w, id, { version: 1, text, material: true });
  await changed(w, id, 'added a waiver', { title });
  return id;
}

/** Changes whom a waiver is for and for how long it holds. What was signed keeps how long it said it holds. */
export async function changeWaiver(w: Work, id: string, change: Partial<Settings>): Promise<void> {
  const waiver = await theWaiver(w.tx, id, true);
  const { audience, holds, guardians, forgetDays, standing } = waiver;
  const problems = await problemsWithSettings(w, {
    audience,
    holds,
    guardians,
    forgetDays,
    standing,
    ...change,
  });
  if (problems.length) throw invalid(problems);
  await update(w.tx, 'waivers', id, {
    ...change,
    // A page that was closed and opened again has the address it had: posters hang there.
    ...(change.standing && !waiver.slug ? { slug: await freeSlug(w, waiver.title) } : {}),
  });
  await changed(w, id, 'changed a waiver', { title: waiver.title, ...change });
}

/** Lets a waiver say something else from now on. Answers its newest version, which stays where nothing changed. */
export async function reword(
  w: Work,
  id: string,
  { text, material, after }: { text: WaiverText; material: boolean; after: number },
): Promise<number> {
  const waiver = await theWaiver(w.tx, id, true);
  if (waiver.version !== after) throw refused('waiver-reworded', { version: waiver.version });
  const title = text.title.en.trim();
  const problems = [
    ...problemsWithText(text),
    ...((await isTitled(w.tx, title, id)) ? [wrongAt('text.title.en', 'waiver-exists')] : []),
  ];
  if (problems.length) throw invalid(problems);
  if (sameText(waiver.text, text)) return waiver.version;
  const version = waiver.version + 1;
  await addVersion(w, id, { version, text, material });
  await update(w.tx, 'waivers', id, { title });
  await changed(w, id, material ? 'reworded a waiver, to be signed again' : 'reworded a waiver', {
    title,
    version,
  });
  return version;
}

/** Closes a waiver, or opens it again. What was signed stays. */
export async function closeWaiver(w: Work, id: string, closed: boolean): Promise<void> {
  const { title, closedAt } = await theWaiver(w.tx, id, true);
  if (closed === (closedAt !== null)) return;
  await update(w.tx, 'waivers', id, { closedAt: closed ? w.now : null });
  await changed(w, id, closed ? 'closed a waiver' : 'opened a waiver again', { title });
}

/** Revokes a signature: whoever it was for is asked again. Done twice it stays once. */
export async function revoke(w: Work, signatureId: string, why: string, by = w.actor.name): Promise<void> {
  const { zone } = await theOrganization(w.tx);
  const signature = await theSignature(w.tx, signatureId, dateOf(w.now, zone));
  if (signature.state === 'revoked') return;
  await update(w.tx, 'signatures', signatureId, {
    state: 'revoked',
    revokedAt: w.now,
    revokedBy: by,
    revokedWhy: why,
  });
  await record(w, 'signature revoked', {
    signatureId,
    eventId: signature.event?.id ?? null,
    orderId: signature.orderId,
    why,
  });
}

/** Deletes what a signature says about health, once its time is up. */
export async function forgetHealthOf(w: Work, signatureId: string): Promise<void> {
  await forgetHealth(w.tx, signatureId);
  await record(w, 'health forgotten', { signatureId });
}
