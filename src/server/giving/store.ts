import type { GiftRow, GivingPage, PledgeRow, PublicGift, PublicPledge } from '#contract/giving.ts';
import type { Texts } from '#core/messages/texts.ts';
import { first, type Queries } from '../db/database.ts';

/** A page to give on as it is kept. */
export interface PageRow {
  id: string;
  slug: string;
  title: Texts;
  words: Texts;
  thanks: Texts;
  fundId: string;
  initiativeId: string | null;
  eventId: string | null;
  currency: string;
  goal: number | null;
  untilOn: string | null;
  suggested: number[];
  monthly: boolean;
  showsGivers: boolean;
  open: boolean;
  version: number;
}

const pageColumns =
  'id, slug, title, words, thanks, fund_id, initiative_id, event_id, currency, goal, until_on, to_jsonb(suggested) as suggested, monthly, shows_givers, open, version';

export const readPage = (tx: Queries, slug: string): Promise<PageRow | null> =>
  first<PageRow>(tx, `select ${pageColumns} from giving_pages where slug = $1`, [slug]);

export const readPageById = (tx: Queries, id: string, lock = false): Promise<PageRow | null> =>
  first<PageRow>(tx, `select ${pageColumns} from giving_pages where id = $1${lock ? ' for update' : ''}`, [
    id,
  ]);

/** What was given on a page so far, and by how many gifts. */
export const readGiven = async (tx: Queries, pageId: string): Promise<{ given: number; gifts: number }> =>
  (await first<{ given: number; gifts: number }>(
    tx,
    'select coalesce(sum(received), 0)::bigint as given, count(*)::int as gifts from gifts where page_id = $1 and received > 0',
    [pageId],
  ))!;

/** The latest who gave on a page; who wishes to stay unnamed has no name here. */
export const readGivers = (tx: Queries, pageId: string) =>
  tx.query<{
    given: string;
    family: string;
    anonymous: boolean;
    words: string;
    tribute: 'memory' | 'honour' | null;
    tributeTo: string;
  }>(
    `select given, family, anonymous, words, tribute, tribute_to from gifts where page_id = $1 and received > 0 and not hidden
     order by given_at desc, number desc limit 12`,
    [pageId],
  );

/** Names that a page says of what it is for. */
export const readNamesOf = (tx: Queries, page: Pick<PageRow, 'fundId' | 'initiativeId' | 'eventId'>) =>
  first<{
    fund: string;
    initiative: string | null;
    eventSlug: string | null;
    eventTitle: string | null;
    eventState: string | null;
    eventVisibility: string | null;
  }>(
    tx,
    `select f.name as fund, i.name as initiative, e.slug as event_slug, e.public_title as event_title, e.state as event_state, e.visibility as event_visibility
     from funds f left join initiatives i on i.id = $2 left join events e on e.id = $3 where f.id = $1`,
    [page.fundId, page.initiativeId, page.eventId],
  );

/** A gift with what its own page shows. */
export const readGiftShown = (tx: Queries, id: string) =>
  first<
    Omit<PublicGift, 'page' | 'payment' | 'thanks' | 'tribute' | 'monthly'> & {
      received: number;
      language: 'en' | 'fr';
      pageSlug: string | null;
      pageTitle: Texts | null;
      thanks: Texts | null;
      pledgeId: string | null;
      tribute: 'memory' | 'honour' | null;
      tributeTo: string;
      attempt: string | null;
    }
  >(
    tx,
    `select g.number, g.given, g.amount, g.currency, f.name as fund, g.state, g.received, g.language, p.slug as page_slug, p.title as page_title, p.thanks,
       g.pledge_id, g.tribute, g.tribute_to,
       (select a.state from payment_attempts a where a.gift_id = g.id order by a.asked_at desc, a.id desc limit 1) as attempt
     from gifts g join funds f on f.id = g.fund_id left join giving_pages p on p.id = g.page_id where g.id = $1`,
    [id],
  );

/** Whose gift it is and how they are reached. */
export interface GiverRow {
  id: string;
  number: number;
  given: string;
  family: string;
  email: string | null;
  phone: string | null;
  street: string;
  town: string;
  postalCode: string;
  country: string | null;
  language: 'en' | 'fr';
  contactId: string | null;
  channel: 'page' | 'staff' | 'pledge';
  pageId: string | null;
  pledgeId: string | null;
  instalment: string | null;
  fundId: string;
  fund: string;
  amount: number;
  received: number;
  currency: string;
  kind: 'money' | 'in kind';
  thing: string;
  tribute: 'memory' | 'honour' | null;
  tributeTo: string;
  tellName: string;
  tellEmail: string | null;
  thanks: Texts | null;
}

export const readGiver = async (tx: Queries, giftId: string): Promise<GiverRow> =>
  (await first<GiverRow>(
    tx,
    `select g.id, g.number, g.given, g.family, g.email, g.phone, g.street, g.town, g.postal_code, g.country, g.language, g.contact_id, g.channel,
       g.page_id, g.pledge_id, g.instalment, g.fund_id, f.name as fund, g.amount, g.received, g.currency, g.kind, g.thing, g.tribute, g.tribute_to,
       g.tell_name, g.tell_email, p.thanks
     from gifts g join funds f on f.id = g.fund_id left join giving_pages p on p.id = g.page_id where g.id = $1`,
    [giftId],
  ))!;

/** Who a gift, and what moved for it, belongs to. */
export async function saveGiver(tx: Queries, giftId: string, contactId: string): Promise<void> {
  await tx.query('update gifts set contact_id = $2 where id = $1', [giftId, contactId]);
  await tx.query('update payments set contact_id = $2 where gift_id = $1 and contact_id is null', [
    giftId,
    contactId,
  ]);
  await tx.query('update donations set contact_id = $2 where gift_id = $1 and contact_id is null', [
    giftId,
    contactId,
  ]);
  await tx.query(
    'update pledges p set contact_id = $2 from gifts g where g.id = $1 and p.id = g.pledge_id and p.contact_id is null',
    [giftId, contactId],
  );
}

/** A monthly gift as it is kept. */
export interface Pledge {
  id: string;
  number: number;
  pageId: string | null;
  contactId: string | null;
  given: string;
  family: string;
  email: string;
  language: 'en' | 'fr';
  fundId: string;
  initiativeId: string | null;
  anonymous: boolean;
  amount: number;
  currency: string;
  day: number;
  state: PublicPledge['state'];
  cardToken: string | null;
  cardEnding: string;
  cardExpires: string | null;
  instalment: string | null;
  nextAt: string | null;
  tries: number;
  toldExpiry: string | null;
}

export const readPledge = (tx: Queries, id: string, lock = false): Promise<Pledge | null> =>
  first<Pledge>(
    tx,
    `select id, number, page_id, contact_id, given, family, email, language, fund_id, initiative_id, anonymous, amount, currency, day, state,
       card_token, card_ending, card_expires, instalment, next_at, tries, told_expiry from pledges where id = $1${lock ? ' for update' : ''}`,
    [id],
  );

export const readInstalments = (tx: Queries, pledgeId: string): Promise<PublicPledge['gifts']> =>
  tx.query<PublicPledge['gifts'][number]>(
    'select number, instalment as on, amount, state from gifts where pledge_id = $1 order by instalment desc limit 60',
    [pledgeId],
  );

/** Monthly gifts that no card works for. */
export const countMissed = async (tx: Queries): Promise<number> =>
  (await first<{ n: number }>(tx, "select count(*)::int as n from pledges where state = 'missed'"))!.n;

/** Asks for monthly gifts of which an instalment is due. */
export const nextPledgeSql =
  'select next_at as at, id from pledges where next_at is not null order by next_at, id limit 1';

export const readPages = (tx: Queries): Promise<GivingPage[]> =>
  tx.query<GivingPage>(
    `select p.id, p.slug, p.title, p.words, p.thanks, p.fund_id, p.initiative_id, p.event_id, p.currency, p.goal, p.until_on,
       to_jsonb(p.suggested) as suggested, p.monthly, p.shows_givers, p.open, p.version, f.name as fund, i.name as initiative, e.public_title as event,
       coalesce(g.given, 0) as given, coalesce(g.gifts, 0) as gifts
     from giving_pages p join funds f on f.id = p.fund_id left join initiatives i on i.id = p.initiative_id left join events e on e.id = p.event_id
       left join (select page_id, sum(received)::bigint as given, count(*)::int as gifts from gifts where received > 0 group by page_id) g on g.page_id = p.id
     order by p.open desc, p.created_at desc`,
  );

export const readPledges = (tx: Queries): Promise<PledgeRow[]> =>
  tx.query<PledgeRow>(
    `select p.id, p.number, p.contact_id, trim(p.given || ' ' || p.family) as name, p.email, f.name as fund, p.amount, p.currency, p.state, p.day,
       case when p.next_at is null then null else p.instalment end as next, p.tries, p.card_expires,
       (select coalesce(sum(g.received), 0)::bigint from gifts g where g.pledge_id = p.id) as given
     from pledges p join funds f on f.id = p.fund_id where p.state <> 'begun'
     order by array_position(array['missed', 'running', 'paused', 'ended'], p.state), p.number limit 2000`,
  );

export const readGifts = (
  tx: Queries,
  { pageId, fundId }: { pageId?: string | undefined; fundId?: string | undefined },
  limit: number,
): Promise<GiftRow[]> =>
  tx.query<GiftRow>(
    `select g.id, g.number, coalesce(g.given_at, g.placed_at) as at, g.contact_id,
       coalesce(nullif(trim(c.given_name || ' ' || c.family_name), ''), trim(g.given || ' ' || g.family)) as name, g.kind, g.thing, f.name as fund,
       i.name as initiative, p.title ->> 'en' as page, e.public_title as event,
       g.tribute, g.tribute_to, g.anonymous, g.hidden, l.number as pledge,
       (select y.method from payments y where y.gift_id = g.id and y.amount > 0 order by y.at, y.id limit 1) as method,
       g.amount, g.received, g.currency, g.state
     from gifts g join funds f on f.id = g.fund_id left join initiatives i on i.id = g.initiative_id left join giving_pages p on p.id = g.page_id
       left join events e on e.id = g.event_id left join contacts c on c.id = g.contact_id left join pledges l on l.id = g.pledge_id
     where g.given_at is not null and ($1::uuid is null or g.page_id = $1) and ($2::uuid is null or g.fund_id = $2)
     order by g.given_at desc, g.number desc limit ${limit}`,
    [pageId ?? null, fundId ?? null],
  );

export const readGivingChoices = async (tx: Queries) => ({
  funds: await tx.query<{ id: string; name: string }>('select id, name from funds order by name'),
  initiatives: await tx.query<{ id: string; name: string }>('select id, name from initiatives order by name'),
  events: await tx.query<{ id: string; title: string }>(
    `select id, public_title || coalesce(', ' || left(starts_local::text, 10), '') as title from events
     where not is_template and state not in ('draft', 'shelved') and public_title <> '' order by starts_at desc nulls last limit 300`,
  ),
  pages: await tx.query<{ id: string; title: string }>(
    "select id, title ->> 'en' as title from giving_pages order by title ->> 'en'",
  ),
});

export const readFundName = async (tx: Queries, id: string): Promise<string> =>
  (await first<{ name: string }>(tx, 'select name from funds where id = $1', [id]))!.name;

/** Keeps a gift off its page, or shows it again. */
export const hideGift = (tx: Queries, id: string, hidden: boolean): Promise<unknown> =>
  tx.query('update gifts set hidden = $2 where id = $1', [id, hidden]);
