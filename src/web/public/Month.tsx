import { chakra, HoverCard, Portal } from '@chakra-ui/react';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import type { ListedEvent } from '#contract/registration.ts';
import { shiftMonth, weeksOf } from '#core/events/listing.ts';
import { sayLongDate, sayTime } from '#core/time/say.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { useAsk, useFrame } from './asking.ts';
import { Days } from './Days.tsx';
import { language } from './language.ts';
import { Card, shownIn } from './listed.tsx';
import { filterIn, type ListingAddress } from './listingAddress.ts';
import { Loaded } from './notices.tsx';
import { Soft } from './parts.tsx';

/** Monday or Sunday, as people here begin a week. */
const firstDay = (): number => (language() === 'fr' ? 1 : 7);
const locale = (): string => (language() === 'fr' ? 'fr-CA' : 'en-GB');
const named = (date: string, options: Intl.DateTimeFormatOptions): string =>
  new Intl.DateTimeFormat(locale(), { timeZone: 'UTC', ...options }).format(new Date(`${date}T00:00Z`));

/** One month of the calendar, with ways to any other; on a phone a line for each event, day by day. */
export default function Month({
  address,
  put,
}: {
  address: ListingAddress;
  put: (part: Partial<ListingAddress>) => void;
}) {
  const { t } = useTranslation();
  const frame = useFrame().data;
  const today = frame ? dateOf(frame.now, frame.organization.zone) : '';
  const month = /^(?:19|20|21)\d\d-(?:0[1-9]|1[0-2])$/u.test(address.month)
    ? address.month
    : today.slice(0, 7);
  const weeks = month ? weeksOf(month, firstDay()) : [];
  const listing = useAsk(
    'GET /api/public/events',
    {},
    {
      query: {
        ...filterIn(address),
        hide: 'none',
        from: weeks[0]?.[0] ?? '',
        to: weeks.at(-1)?.at(-1) ?? '',
        limit: 300,
      },
    },
  );
  const year = Number(month.slice(0, 4));
  const go = (to: string) => put({ month: to === today.slice(0, 7) ? '' : to });
  if (!month) return null;
  return (
    <>
      <chakra.div display="flex" flexWrap="wrap" gap="8px" alignItems="center" margin="14px 0 10px">
        <Button aria-label={t('monthBefore')} onClick={() => go(shiftMonth(month, -1))}>
          <ChevronLeft size={17} aria-hidden />
        </Button>
        <InlineChoice
          label={t('jumpMonth')}
          value={month.slice(5)}
          set={(m) => go(`${year}-${m}`)}
          choices={Array.from({ length: 12 }, (_, at) => {
            const value = String(at + 1).padStart(2, '0');
            return { value, label: named(`2026-${value}-01`, { month: 'long' }) };
          })}
        />
        <InlineChoice
          label={t('jumpYear')}
          value={String(year)}
          set={(y) => go(`${y}-${month.slice(5)}`)}
          choices={years(year, Number(today.slice(0, 4))).map((y) => ({
            value: String(y),
            label: String(y),
          }))}
        />
        <Button aria-label={t('monthAfter')} onClick={() => go(shiftMonth(month, 1))}>
          <ChevronRight size={17} aria-hidden />
        </Button>
        {month !== today.slice(0, 7) && (
          <Button look="plain" onClick={() => go(today.slice(0, 7))}>
            {t('thisMonth')}
          </Button>
        )}
      </chakra.div>
      <Loaded of={listing}>
        {({ events }) => {
          const inMonth = events.filter((e) => touches(e, `${month}-01`, `${month}-31`));
          return (
            <>
              <chakra.div hideBelow="md">
                <Grid weeks={weeks} month={month} today={today} events={events} />
              </chakra.div>
              <chakra.div hideFrom="md">
                {inMonth.length ? <Days events={inMonth} /> : <Soft>{t('nothingThisMonth')}</Soft>}
              </chakra.div>
            </>
          );
        }}
      </Loaded>
    </>
  );
}

const years = (shown: number, now: number): number[] => {
  const from = Math.min(shown, now - 4);
  const to = Math.max(shown, now + 3);
  return Array.from({ length: to - from + 1 }, (_, at) => from + at);
};

/** Whether an event takes place on a day from one to another. */
const touches = (e: ListedEvent, from: string, to: string): boolean => {
  const first = e.startsLocal?.slice(0, 10);
  return first !== undefined && first <= to && (e.endsLocal?.slice(0, 10) ?? first) >= from;
};

function Grid({
  weeks,
  month,
  today,
  events,
}: {
  weeks: readonly (readonly string[])[];
  month: string;
  today: string;
  events: readonly ListedEvent[];
}) {
  return (
    <chakra.table
      width={{ md: 'min(960px, 100vw - 60px)' }}
      marginInline={{ md: 'calc((100% - min(960px, 100vw - 60px)) / 2)' }}
      tableLayout="fixed"
      borderCollapse="collapse"
    >
      <chakra.caption srOnly>{named(`${month}-01`, { month: 'long', year: 'numeric' })}</chakra.caption>
      <thead>
        <tr>
          {weeks[0]!.map((day) => (
            <chakra.th
              key={day}
              scope="col"
              fontSize="small"
              fontWeight={400}
              color="soft"
              textAlign="left"
              padding="4px 6px"
            >
              {named(day, { weekday: 'short' })}
            </chakra.th>
          ))}
        </tr>
      </thead>
      <tbody>
        {weeks.map((week) => (
          <tr key={week[0]}>
            {week.map((day) => (
              <Day
                key={day}
                day={day}
                other={day.slice(0, 7) !== month}
                today={day === today}
                events={events.filter((e) => touches(e, day, day))}
              />
            ))}
          </tr>
        ))}
      </tbody>
    </chakra.table>
  );
}

function Day({
  day,
  other,
  today,
  events,
}: {
  day: string;
  /** Of another month. */
  other: boolean;
  today: boolean;
  events: readonly ListedEvent[];
}) {
  return (
    <chakra.td
      verticalAlign="top"
      height="92px"
      padding="4px 6px"
      border="1px solid"
      borderColor="line"
      background={other ? 'transparent' : 'sheet'}
      aria-current={today ? 'date' : undefined}
    >
      <chakra.span
        textStyle="figures"
        fontSize="small"
        color={today ? 'verdigris' : 'soft'}
        fontWeight={today ? 700 : 400}
      >
        {Number(day.slice(8))}
      </chakra.span>
      {events.map((e) => (
        <HoverCard.Root
          key={e.slug}
          openDelay={150}
          closeDelay={80}
          positioning={{ placement: 'right-start' }}
        >
          <HoverCard.Trigger asChild>
            <chakra.div fontSize="14px" lineHeight="1.25" marginTop="3px">
              <Link to={`/e/${e.slug}`} aria-label={`${shownIn(e).title}, ${sayLongDate(day, language())}`}>
                {e.startsLocal!.length > 10 && e.startsLocal!.startsWith(day) && (
                  <chakra.span textStyle="figures" color="soft">
                    {sayTime(e.startsLocal!, language())}{' '}
                  </chakra.span>
                )}
                {shownIn(e).title}
              </Link>
            </chakra.div>
          </HoverCard.Trigger>
          <Portal>
            <HoverCard.Positioner>
              <HoverCard.Content
                width="280px"
                background="sheet"
                border="1px solid"
                borderColor="rule"
                borderRadius="corner"
                overflow="hidden"
                zIndex={5}
              >
                <Card event={e} />
              </HoverCard.Content>
            </HoverCard.Positioner>
          </Portal>
        </HoverCard.Root>
      ))}
    </chakra.td>
  );
}
