import { expiresBefore, nextInstalment, tryAgainOn } from '#core/giving/pledge.ts';
import { dateOf, instantOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { update } from '../db/database.ts';
import { notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { tellPledge } from './letters.ts';
import { type GiverRow, type Pledge, readPledge } from './store.ts';

/** The hour of the organization's day at which instalments are asked for. */
const hour = 'T09:00';

async function when(w: Work): Promise<{ today: string; at: (date: string) => string }> {
  const { zone } = await theOrganization(w.tx);
  return { today: dateOf(w.now, zone), at: (date) => instantOf(`${date}${hour}`, zone) };
}

/** Puts the instalment after one in line, and tells whoever gives where their card runs out before it. */
async function advance(w: Work, pledge: Pledge, after: string): Promise<void> {
  const { at, today } = await when(w);
  // What fell into the time in which no card worked is not asked for afterwards: nobody gives twice on a day.
  const instalment = nextInstalment(pledge.day, after > today ? after : today);
  await update(w.tx, 'pledges', pledge.id, {
    state: 'running',
    instalment,
    nextAt: at(instalment),
    tries: 0,
  });
  if (!expiresBefore(pledge.cardExpires, instalment) || pledge.toldExpiry === pledge.cardExpires) return;
  await update(w.tx, 'pledges', pledge.id, { toldExpiry: pledge.cardExpires });
  await tellPledge(w, pledge, 'card runs out', pledge.cardExpires ?? '', { next: instalment });
}

/** An instalment came in: the next one is in line. */
export async function instalmentCame(w: Work, gift: GiverRow): Promise<void> {
  const pledge = await readPledge(w.tx, gift.pledgeId!, true);
  if (!pledge || !gift.instalment || pledge.instalment !== gift.instalment) return;
  const began = pledge.state === 'begun';
  if (pledge.state === 'ended') return;
  if (pledge.state === 'paused') {
    await update(w.tx, 'pledges', pledge.id, { instalment: nextInstalment(pledge.day, gift.instalment) });
    return;
  }
  await advance(w, pledge, gift.instalment);
  if (!began) return;
  const { instalment } = (await readPledge(w.tx, pledge.id))!;
  await tellPledge(w, pledge, 'pledge began', 'once', { next: instalment });
}

/** An instalment was declined: it is tried again some days later, and then it is missed until there is another card. */
export async function instalmentDeclined(w: Work, gift: GiverRow): Promise<void> {
  const pledge = await readPledge(w.tx, gift.pledgeId!, true);
  // The first one is paid by whoever is there.
  if (pledge?.state !== 'running' || !pledge.instalment || pledge.instalment !== gift.instalment) return;
  const { today, at } = await when(w);
  const tries = pledge.tries + 1;
  const again = tryAgainOn(pledge.instalment, tries, today);
  await update(w.tx, 'pledges', pledge.id, {
    tries,
    state: again ? 'running' : 'missed',
    nextAt: again && at(again),
    ...(!again && { missedAt: w.now }),
  });
  await tellPledge(w, pledge, 'instalment missed', `${pledge.instalment}:${tries}`, { again });
  if (!again) await record(w, 'pledge changed', { pledgeId: pledge.id, how: 'missed an instalment of' });
}

/** Changes a monthly gift as whoever gives wishes. */
export async function changePledge(
  w: Work,
  id: string,
  change: { amount?: number | undefined; state?: 'running' | 'paused' | 'ended' | undefined },
): Promise<void> {
  const pledge = await readPledge(w.tx, id, true);
  if (!pledge) throw notFound('This gift');
  if (pledge.state === 'ended') throw refused('pledge-ended');
  if (pledge.state === 'begun') throw refused('pledge-not-begun');
  if (change.amount) await update(w.tx, 'pledges', id, { amount: change.amount });
  if (change.state === 'ended') {
    await update(w.tx, 'pledges', id, { state: 'ended', nextAt: null, endedAt: w.now });
    await tellPledge(w, pledge, 'pledge ended', 'once');
  } else if (change.state === 'paused') await update(w.tx, 'pledges', id, { state: 'paused', nextAt: null });
  else if (change.state === 'running' && pledge.state !== 'running') await goOn(w, pledge);
  await record(w, 'pledge changed', { pledgeId: id, how: change.state === 'ended' ? 'ended' : 'changed' });
}

/** Goes on with a monthly gift that was paused or missed: what was missed meanwhile is not asked for, the next instalment is. */
async function goOn(w: Work, pledge: Pledge): Promise<void> {
  const { today, at } = await when(w);
  // One that was missed is asked for now, with the card there is by then.
  if (pledge.state === 'missed') {
    await update(w.tx, 'pledges', pledge.id, { state: 'running', tries: 0, nextAt: w.now });
    return;
  }
  const instalment =
    pledge.instalment && pledge.instalment > today ? pledge.instalment : nextInstalment(pledge.day, today);
  await update(w.tx, 'pledges', pledge.id, {
    state: 'running',
    tries: 0,
    instalment,
    nextAt: at(instalment),
  });
}

/** Another card was given: one that was missed is asked for at once. */
export async function cardGiven(w: Work, id: string): Promise<void> {
  const pledge = (await readPledge(w.tx, id, true))!;
  if (pledge.state === 'missed' || (pledge.state === 'running' && pledge.tries > 0))
    await update(w.tx, 'pledges', id, { state: 'running', tries: 0, nextAt: w.now });
  await record(w, 'pledge changed', { pledgeId: id, how: 'gave another card for' });
}
