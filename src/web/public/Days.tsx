import './calendarWords.ts';
import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import type { ListedEvent } from '#contract/publicEvent.ts';
import { sayLongDate, sayTime } from '#core/time/say.ts';
import { language } from './language.ts';
import { Named, useCost } from './listed.tsx';
import { Small } from './parts.tsx';

/** Events under the day they begin on, a line each: the whole of a season to be read down. */
export function Days({ events }: { events: readonly ListedEvent[] }) {
  const { t } = useTranslation();
  const cost = useCost();
  const days = new Map<string, ListedEvent[]>();
  for (const e of events) {
    const day = e.startsLocal?.slice(0, 10) ?? '';
    days.set(day, [...(days.get(day) ?? []), e]);
  }
  return [...days].map(([day, those]) => (
    <chakra.section key={day} marginTop="18px">
      <chakra.h2 fontSize="small" fontFamily="inherit" fontWeight={600} color="soft">
        {day ? sayLongDate(day, language()) : t('withoutDate')}
      </chakra.h2>
      <chakra.ul listStyleType="none" margin="0" padding="0">
        {those.map((e) => (
          <chakra.li
            key={e.slug}
            display="grid"
            gridTemplateColumns="64px 1fr auto"
            gap="0 10px"
            alignItems="baseline"
            padding="7px 0"
            borderBottom="1px solid"
            borderColor="line"
          >
            <chakra.span textStyle="figures" color="soft">
              {e.startsLocal && e.startsLocal.length > 10 ? sayTime(e.startsLocal, language()) : ''}
            </chakra.span>
            <span>
              <Named event={e} size="17px" />
              {e.place && <Small>{e.place}</Small>}
            </span>
            <chakra.span textStyle="figures" whiteSpace="nowrap" color="soft">
              {cost(e)}
            </chakra.span>
          </chakra.li>
        ))}
      </chakra.ul>
    </chakra.section>
  ));
}
