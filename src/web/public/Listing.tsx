import './calendarWords.ts';
import { chakra } from '@chakra-ui/react';
import { lazy, Suspense, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import type { PublicListing } from '#contract/publicEvent.ts';
import { kindIn } from '#core/events/kinds.ts';
import { sayRange } from '#core/time/say.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { ChoiceField, TextField } from '#web/kit/Field.tsx';
import { Loading } from '#web/kit/notices.tsx';
import { useAsk } from './asking.ts';
import { Days } from './Days.tsx';
import { language } from './language.ts';
import { AddOne, Named, shownIn, useCost } from './listed.tsx';
import { type ListingAddress, queryIn, useListingAddress, usualListing } from './listingAddress.ts';
import { Loaded } from './notices.tsx';
import { Ends, Rows, Small, Soft, Title, Two } from './parts.tsx';
import { Subscribe } from './Subscribe.tsx';

const Month = lazy(() => import('./Month.tsx'));
const forms = ['list', 'month', 'agenda'] as const;
const formNames = { list: 'asList', month: 'asMonth', agenda: 'asAgenda' } as const;
/** How many are shown before somebody asks for more. */
const pageSize = 60;

type Put = ReturnType<typeof useListingAddress>[1];

/** The public's calendar: a list, a month or an agenda, narrowed as its reader likes, to be had in their own. */
export default function Listing() {
  const { t } = useTranslation();
  const [address, put] = useListingAddress();
  const [limit, setLimit] = useState(pageSize);
  const asked = { ...queryIn(address), ...(limit === pageSize ? {} : { limit }) };
  const query = Object.keys(asked).length ? asked : undefined;
  const listing = useAsk('GET /api/public/events', {}, { ...(query ? { query } : {}) });
  const form = forms.find((f) => f === address.show) ?? 'list';
  return (
    <>
      <chakra.div
        display="flex"
        flexWrap="wrap"
        justifyContent="space-between"
        alignItems="baseline"
        gap="0 20px"
      >
        <Title>{t('comingEvents')}</Title>
        <chakra.div role="group" aria-label={t('forms')} display="flex" gap="4px 18px">
          {forms.map((f) => (
            <Form key={f} aria-pressed={form === f} onClick={() => put({ show: f })}>
              {t(formNames[f])}
            </Form>
          ))}
        </chakra.div>
      </chakra.div>
      <Loaded of={listing}>
        {(shown) => (
          <>
            <Filters listing={shown} address={address} put={put} />
            {form === 'month' ? (
              <Suspense fallback={<Loading />}>
                <Month address={address} put={put} />
              </Suspense>
            ) : shown.events.length === 0 ? (
              <Soft role="status">
                {query ? (
                  <>
                    {t('noneFound')} <TextLink to="/">{t('showAll')}</TextLink>
                  </>
                ) : (
                  t('noEvents')
                )}
              </Soft>
            ) : (
              <>
                <Soft role="status" fontSize="small">
                  {t('found', { count: shown.total })}
                </Soft>
                {form === 'agenda' ? <Days events={shown.events} /> : <List events={shown.events} />}
                {shown.more && (
                  <chakra.p marginTop="14px">
                    <Button onClick={() => setLimit(Math.min(300, limit + pageSize))}>
                      {t('moreEvents')}
                    </Button>
                  </chakra.p>
                )}
              </>
            )}
            <Subscribe address={address} />
            <chakra.p marginTop="10px">
              <Link to="/shifts">{t('openShifts')}</Link>
            </chakra.p>
          </>
        )}
      </Loaded>
    </>
  );
}

function List({ events }: { events: PublicListing['events'] }) {
  const cost = useCost();
  return (
    <Rows>
      {events.map((e) => (
        <li key={e.slug}>
          <Ends>
            <Named event={e} />
            <chakra.span textStyle="figures" whiteSpace="nowrap">
              {cost(e)}
            </chakra.span>
          </Ends>
          {e.startsLocal && <div>{sayRange(e.startsLocal, e.endsLocal, language())}</div>}
          <Small>{[e.place, shownIn(e).summary].filter(Boolean).join(' · ')}</Small>
          <AddOne event={e} />
        </li>
      ))}
    </Rows>
  );
}

/** What the calendar is narrowed by: kinds and what attracts people as links, the rest behind a line. */
function Filters({ listing, address, put }: { listing: PublicListing; address: ListingAddress; put: Put }) {
  const { t } = useTranslation();
  const marks = [...new Set([...listing.kinds, ...listing.draws])].sort((a, b) => a.localeCompare(b));
  const more = (['q', 'unit', 'place', 'price', 'open', 'hide', 'sort'] as const).filter(
    (name) => address[name] !== usualListing[name],
  ).length;
  return (
    <>
      {marks.length > 1 && (
        <chakra.nav aria-label={t('showOnly')} display="flex" flexWrap="wrap" gap="8px" margin="10px 0 6px">
          {['', ...marks].map((mark) => (
            <Mark
              key={mark}
              to={addressWith(address, { with: mark })}
              aria-current={mark === address.with ? 'true' : undefined}
            >
              {mark ? kindIn(mark, listing.inFrench, language()) : t('allEvents')}
            </Mark>
          ))}
        </chakra.nav>
      )}
      <chakra.details open={more > 0} margin="4px 0 10px">
        <chakra.summary cursor="pointer" color="verdigris" padding="6px 0">
          {more ? t('filtersOn', { count: more }) : t('filters')}
        </chakra.summary>
        <TextField
          label={t('search')}
          type="search"
          value={address.q}
          set={(q) => put({ q }, { typed: true })}
        />
        <Two>
          <ChoiceField
            label={t('unit')}
            value={address.unit}
            set={(unit) => put({ unit })}
            empty={t('any')}
            choices={named(listing.units, address.unit)}
          />
          <ChoiceField
            label={t('venue')}
            value={address.place}
            set={(place) => put({ place })}
            empty={t('any')}
            choices={named(listing.places, address.place)}
          />
          <ChoiceField
            label={t('price')}
            value={address.price}
            set={(price) => put({ price })}
            empty={t('any')}
            choices={[
              { value: 'free', label: t('freeOnes') },
              { value: 'paid', label: t('paidOnes') },
            ]}
          />
          <ChoiceField
            label={t('hide')}
            value={address.hide}
            set={(hide) => put({ hide })}
            choices={[
              { value: 'ended', label: t('hideEnded') },
              { value: 'begun', label: t('hideBegun') },
              { value: 'none', label: t('hideNone') },
            ]}
          />
          <ChoiceField
            label={t('sort')}
            value={address.sort}
            set={(sort) => put({ sort })}
            choices={[
              { value: 'date', label: t('byDate') },
              { value: 'title', label: t('byTitle') },
            ]}
          />
        </Two>
        <Tick checked={address.open === '1'} set={(on) => put({ open: on ? '1' : '' })}>
          {t('seatsFree')}
        </Tick>
      </chakra.details>
    </>
  );
}

/** What can be chosen, with what is chosen although nothing is like it. */
const named = (names: readonly string[], chosen: string) =>
  [...new Set([...names, ...(chosen ? [chosen] : [])])].map((value) => ({ value, label: value }));

/** The address of the same calendar, with a part of it changed. */
function addressWith(address: ListingAddress, part: Partial<ListingAddress>): string {
  const all = Object.entries({ ...address, ...part }).filter(
    ([name, value]) => value !== usualListing[name as keyof ListingAddress],
  );
  return all.length ? `/?${new URLSearchParams(all)}` : '/';
}

const Mark = chakra(Link, {
  base: {
    border: '1px solid',
    borderColor: 'rule',
    borderRadius: 'corner',
    padding: '6px 11px',
    fontSize: 'medium',
    '&[aria-current]': { borderColor: 'verdigris', color: 'verdigris', fontWeight: 600 },
  },
});
const Form = chakra(
  'button',
  {
    base: {
      font: 'inherit',
      background: 'none',
      border: 'none',
      borderBottom: '2px solid transparent',
      padding: '6px 2px',
      color: 'verdigris',
      cursor: 'pointer',
      '&[aria-pressed=true]': { borderColor: 'verdigris', color: 'ink', fontWeight: 600 },
    },
  },
  { defaultProps: { type: 'button' } },
);
