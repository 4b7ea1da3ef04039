import './calendarWords.ts';
import { chakra, HoverCard, Portal } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import type { ListedEvent } from '#contract/publicEvent.ts';
import { weeksOf } from '#core/events/listing.ts';
import { sayLongDate, sayTime } from '#core/time/say.ts';
import { firstDayOfWeek, MonthGrid, MonthJump, monthIn } from '../parts/MonthGrid.tsx';
import { useAsk, useFrame } from './asking.ts';
import { Days } from './Days.tsx';
import { language } from './language.ts';
import { Card, shownIn } from './listed.tsx';
import { filterIn, type ListingAddress } from './listingAddress.ts';
import { Loaded } from './notices.tsx';
import { Soft } from './parts.tsx';

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
  const today = frame?.today ?? '';
  const month = today && monthIn(address.month, today);
  const weeks = month ? weeksOf(month, firstDayOfWeek(language())) : [];
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
  if (!month) return null;
  return (
    <>
      <MonthJump
        month={month}
        today={today}
        go={(to) => put({ month: to === today.slice(0, 7) ? '' : to })}
        language={language()}
        words={{
          before: t('monthBefore'),
          after: t('monthAfter'),
          month: t('jumpMonth'),
          year: t('jumpYear'),
          current: t('thisMonth'),
        }}
      />
      <Loaded of={listing}>
        {({ events }) => {
          const inMonth = events.filter((e) => touches(e, `${month}-01`, `${month}-31`));
          return (
            <>
              <chakra.div hideBelow="md">
                <chakra.div
                  width="min(960px, 100vw - 60px)"
                  marginInline="calc((100% - min(960px, 100vw - 60px)) / 2)"
                >
                  <MonthGrid month={month} weeks={weeks} today={today} language={language()}>
                    {(day) => <Day day={day} events={events.filter((e) => touches(e, day, day))} />}
                  </MonthGrid>
                </chakra.div>
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

/** Whether an event takes place on a day from one to another. */
const touches = (e: ListedEvent, from: string, to: string): boolean => {
  const first = e.startsLocal?.slice(0, 10);
  return first !== undefined && first <= to && (e.endsLocal?.slice(0, 10) ?? first) >= from;
};

/** What takes place on a day, each with a card on hover and focus. */
function Day({ day, events }: { day: string; events: readonly ListedEvent[] }) {
  return events.map((e) => (
    <HoverCard.Root key={e.slug} openDelay={150} closeDelay={80} positioning={{ placement: 'right-start' }}>
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
  ));
}
