import type { followingContract } from '#contract/following.ts';
import { splitName } from '#core/contacts/names.ts';
import { isEmail } from '#core/contacts/reach.ts';
import { titleFor } from '#core/events/french.ts';
import { sayTopic } from '#core/messages/closing.ts';
import { zoneOrNone } from '#core/time/wallTime.ts';
import { followLink } from '../app/app.ts';
import { linkPerson } from '../contacts/linking.ts';
import type { Queries } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { publicEventRow } from '../registration/public.ts';
import { theOrganization } from '../staff/store.ts';
import { askToFollow, type FollowerRow, followAs, readFollower, setStanding, shownFor } from './followers.ts';
import { goOut, isOut, wayOutBy } from './wayOut.ts';

async function followerBy(tx: Queries, token: string, lock: boolean): Promise<FollowerRow> {
  const id = await followLink(tx, 'follow', token);
  const row = id && (await readFollower(tx, id, lock));
  if (!row) throw notFound('This link');
  return row;
}

export const followingHandlers: Handlers<typeof followingContract> = {
  'POST /api/public/events/:slug/followers': async (c) => {
    const event = await publicEventRow(c, c.params.slug);
    const { of, zone, ...who } = c.body;
    if (!isEmail(who.email)) throw invalid([{ path: 'email', code: 'not-an-email' }]);
    if (of === 'series' && !event.seriesId) throw refused('no-series');
    await askToFollow(c, event, of, { ...who, zone: zoneOrNone(zone) });
    return { done: true };
  },

  'GET /api/public/follow/:token': async ({ tx, params, now }) => {
    const row = await followerBy(tx, params.token, false);
    const event = await shownFor(tx, row, now);
    return {
      of: row.eventId ? 'event' : 'series',
      title: titleFor(event, row.language),
      slug: event.slug,
      organization: (await theOrganization(tx)).name,
      name: row.name,
      language: row.language,
      follows: row.state === 'follows',
    };
  },

  'POST /api/public/follow/:token': async (c) => {
    const row = await followerBy(c.tx, c.params.token, true);
    if (!c.body.follows) await setStanding(c, row, 'out');
    else if (row.contactId) await setStanding(c, row, 'follows');
    else {
      // It is their address: who they are is settled now, and not before.
      const { given, family } = splitName(row.name);
      const { contactId } = await linkPerson(
        c,
        { given, family, email: row.email, phone: null, language: row.language },
        'followed an event',
        'outside',
      );
      await followAs(c, row, contactId);
    }
    return { done: true };
  },

  'GET /api/public/out/:token': async ({ tx, params }) => {
    const out = await wayOutBy(tx, params.token);
    const { name: organization } = await theOrganization(tx);
    const { language } = out;
    const standing = { organization, language, out: await isOut(tx, out) };
    if (out.of === 'topic') return { of: 'topic', title: sayTopic(out.topic, language), ...standing };
    // As it was called to them: not what another date is called.
    const title = titleFor(await readEvent(tx, out.eventId), language);
    return { of: out.followed.seriesId ? 'series' : 'event', title, ...standing };
  },

  'POST /api/public/out/:token': async (c) => {
    await goOut(c, await wayOutBy(c.tx, c.params.token), c.body.back, 'by the way out of a mail');
    return { done: true };
  },
};
