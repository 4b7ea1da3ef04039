import slugify from '@sindresorhus/slugify';
import type { GivingPageFields, PublicGivingPage } from '#contract/giving.ts';
import { sayTribute, shownAs } from '#core/giving/gift.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Language } from '#core/words/language.ts';
import { wrongAt } from '#core/words/problems.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { type PageRow, readGiven, readGivers, readNamesOf, readPage, readPageById } from './store.ts';

/** Whether gifts are taken on a page on a day. */
export const isOpen = (page: Pick<PageRow, 'open' | 'untilOn'>, today: string): boolean =>
  page.open && (page.untilOn === null || today <= page.untilOn);

/** A page as the public sees it. What somebody wrote beside a gift without a name is theirs alone. */
export async function showPage(
  tx: Queries,
  slug: string,
  language: Language,
  now: string,
): Promise<PublicGivingPage> {
  const page = await readPage(tx, slug);
  if (!page) throw notFound('This page');
  const names = (await readNamesOf(tx, page))!;
  const { zone } = await theOrganization(tx);
  // An event that not everybody may see is not named here.
  const shown = names.eventSlug && names.eventVisibility === 'everyone' && names.eventState !== 'draft';
  return {
    slug,
    title: readTexts(page.title, language),
    words: readTexts(page.words, language),
    fund: names.fund,
    initiative: names.initiative,
    event: shown ? { slug: names.eventSlug!, title: names.eventTitle! } : null,
    currency: page.currency,
    goal: page.goal,
    ...(await readGiven(tx, page.id)),
    untilOn: page.untilOn,
    suggested: page.suggested,
    monthly: page.monthly,
    open: isOpen(page, dateOf(now, zone)),
    givers: page.showsGivers
      ? (await readGivers(tx, page.id)).map((g) => ({
          name: shownAs(g),
          words: g.words,
          tribute: sayTribute(g, language),
        }))
      : [],
  };
}

interface PageMade {
  id: string;
  slug: string;
  version: number;
}

/** What is wrong with a page: amounts that repeat, a title that is missing, something it names that is not there. */
async function checkPage(w: Work, fields: GivingPageFields): Promise<void> {
  const wrong = [
    ...(fields.title.en.trim() ? [] : [wrongAt('title.en', 'giving-untitled')]),
    ...(new Set(fields.suggested).size === fields.suggested.length
      ? []
      : [wrongAt('suggested', 'suggested-twice')]),
    ...((await first(w.tx, 'select 1 from funds where id = $1', [fields.fundId]))
      ? []
      : [wrongAt('fundId', 'fund-needed')]),
  ];
  if (wrong.length) throw invalid(wrong);
  if (
    fields.initiativeId &&
    !(await first(w.tx, 'select 1 from initiatives where id = $1', [fields.initiativeId]))
  )
    throw notFound('Initiative');
}

const rowOf = ({ suggested, ...fields }: GivingPageFields) => ({
  ...fields,
  suggested: `{${[...suggested].sort((a, b) => a - b).join(',')}}`,
});

/** Makes a page, in the currency of its event, or else that of the organization. */
export async function makePage(w: Work, fields: GivingPageFields): Promise<PageMade> {
  await checkPage(w, fields);
  const { currency } = fields.eventId
    ? { currency: (await readEvent(w.tx, fields.eventId)).paidIn }
    : await theOrganization(w.tx);
  const base = slugify(fields.title.en).slice(0, 60) || 'give';
  let slug = base;
  for (let n = 2; await readPage(w.tx, slug); n += 1) slug = `${base}-${n}`;
  const id = w.app.ids.id();
  await insert(w.tx, 'giving_pages', {
    id,
    slug,
    ...rowOf(fields),
    currency,
    createdAt: w.now,
    updatedAt: w.now,
  });
  await record(w, 'giving page changed', { pageId: id, title: fields.title.en, how: 'made' });
  return { id, slug, version: 1 };
}

/** Changes a page. Somebody else’s change in between is refused; what it is paid in stays. */
export async function changePage(
  w: Work,
  id: string,
  { version, ...fields }: GivingPageFields & { version: number },
): Promise<PageMade> {
  const page = await readPageById(w.tx, id, true);
  if (!page) throw notFound('This page');
  if (page.version !== version) throw refused('changed-by-somebody');
  await checkPage(w, fields);
  await update(w.tx, 'giving_pages', id, { ...rowOf(fields), version: version + 1, updatedAt: w.now });
  await record(w, 'giving page changed', { pageId: id, title: fields.title.en, how: 'changed' });
  return { id, slug: page.slug, version: version + 1 };
}
