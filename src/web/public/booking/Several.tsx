import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import type { PublicEvent } from '#contract/publicEvent.ts';
import type { OrderPlaced } from '#contract/registration.ts';
import { sayRange } from '#core/time/say.ts';
import { TextLink } from '#web/kit/Button.tsx';
import { language } from '../language.ts';
import { Ends, Rows, Say, Title } from '../parts.tsx';
import { useMoney } from '../saying.ts';

/** Several dates were booked at once: each booking with where it stands, and the way to its page. */
export function Several({ placed, event }: { placed: OrderPlaced; event: PublicEvent }) {
  const { t } = useTranslation();
  const money = useMoney();
  const all = [
    { slug: event.slug, startsLocal: event.startsLocal, endsLocal: event.endsLocal, ...placed },
    ...placed.also.map((p) => ({
      startsLocal: null,
      endsLocal: null,
      ...event.series?.dates.find((d) => d.slug === p.slug),
      ...p,
    })),
  ].sort((a, b) => ((a.startsLocal ?? '') < (b.startsLocal ?? '') ? -1 : 1));
  const words = {
    asked: 'bookingAsked',
    held: 'bookingHeld',
    confirmed: 'bookingConfirmed',
    waitlisted: 'bookingWaits',
  } as const;
  return (
    <>
      <Title>{t('bookedDates', { count: all.length })}</Title>
      <Say tone="good" role="status">
        {t('bookedDatesText')}
      </Say>
      <Rows>
        {all.map((p) => (
          <li key={p.token}>
            <Ends>
              <TextLink to={`/m/${p.token}`}>
                {p.startsLocal ? sayRange(p.startsLocal, p.endsLocal, language()) : p.slug}
              </TextLink>
              <chakra.span whiteSpace="nowrap" color={p.standing === 'confirmed' ? 'soft' : 'ochre'}>
                {t(words[p.standing], { amount: money(p.total, p.currency) })}
              </chakra.span>
            </Ends>
          </li>
        ))}
      </Rows>
    </>
  );
}
