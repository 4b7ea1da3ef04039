import './calendarWords.ts';
import { chakra } from '@chakra-ui/react';
import { CalendarPlus } from 'lucide-react';
import { useTranslation } from 'react-i18next';
import type { ListedEvent } from '#contract/publicEvent.ts';
import { inLanguage } from '#core/events/french.ts';
import { priceRange } from '#core/events/listing.ts';
import { sayRange } from '#core/time/say.ts';
import { addressOf } from '#web/api.ts';
import { TextLink } from '#web/kit/Button.tsx';
import { KindMark } from '../parts/KindMark.tsx';
import { Picture } from '../parts/Picture.tsx';
import { language } from './language.ts';
import { Small } from './parts.tsx';
import { useMoney } from './saying.ts';

/** What stands beside an event in a listing: that it is full or called off, or what it costs, from the least to the most. */
export function useCost(): (e: ListedEvent) => string {
  const { t } = useTranslation();
  const money = useMoney();
  return (e) => {
    const amount = (price: number) => (price === 0 ? t('free') : money(price, e.currency));
    if (e.registration === 'full') return t('full');
    const range = priceRange(e.lowest, e.highest);
    switch (range.kind) {
      case 'none':
        return '';
      case 'free':
        return t('free');
      case 'one':
        return amount(range.price);
      case 'range':
        return t('fromTo', { from: amount(range.from), to: amount(range.to) });
    }
  };
}

/** An event as its reader reads it. */
export const shownIn = (e: ListedEvent) => inLanguage(e, language());

/** A link that puts one event into the reader's own calendar. */
export function AddOne({ event }: { event: ListedEvent }) {
  const { t } = useTranslation();
  if (!event.startsAt) return null;
  return (
    <chakra.a
      href={addressOf('GET /api/public/events/:slug/calendar.ics', { slug: event.slug })}
      aria-label={t('addThis', { title: shownIn(event).title })}
      color="verdigris"
      display="inline-flex"
      gap="5px"
      alignItems="center"
      fontSize="small"
      padding="4px 0"
    >
      <CalendarPlus size={15} aria-hidden /> {t('addToCalendar')}
    </chakra.a>
  );
}

/** An event in short: its picture, when and where, and a sentence. */
export function Card({ event }: { event: ListedEvent }) {
  const e = shownIn(event);
  const cost = useCost();
  return (
    <>
      {event.picture && <Picture of={event.picture} language={language()} sizes="280px" ratio="5 / 2" />}
      <chakra.div padding="10px 12px 12px">
        <chakra.div fontFamily="title" fontWeight={500}>
          {e.title}
        </chakra.div>
        {event.startsLocal && <Small>{sayRange(event.startsLocal, event.endsLocal, language())}</Small>}
        <Small>{[event.place, cost(event)].filter(Boolean).join(' · ')}</Small>
        {e.summary && (
          <chakra.p fontSize="small" marginTop="6px">
            {e.summary}
          </chakra.p>
        )}
      </chakra.div>
    </>
  );
}

/** The name of an event with the mark of its kind, leading to its page. */
export function Named({ event, size = '19px' }: { event: ListedEvent; size?: string }) {
  return (
    <TextLink to={`/e/${event.slug}`} fontFamily="title" fontWeight={500} fontSize={size}>
      <KindMark mark={event.mark} />
      {shownIn(event).title}
    </TextLink>
  );
}
