import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import { weeksOf } from '#core/events/listing.ts';
import { sayTime } from '#core/time/say.ts';
import { phrase, spokenLanguage } from '#web/words/phrase.ts';
import { KindMark } from '../parts/KindMark.tsx';
import { firstDayOfWeek, MonthGrid, MonthJump, monthIn } from '../parts/MonthGrid.tsx';
import { type SeasonPicture, saySeats, stageFor } from './seasonAddress.ts';

/** One month of Season. */
export function SeasonMonth({ events, clashes, holidays, address, put, today, now }: SeasonPicture) {
  const language = spokenLanguage();
  const month = monthIn(address.month, today);
  const weeks = weeksOf(month, firstDayOfWeek(language));
  const on = (day: string) =>
    events.filter((e) => {
      const first = e.startsLocal?.slice(0, 10);
      return first !== undefined && first <= day && (e.endsLocal?.slice(0, 10) ?? first) >= day;
    });
  return (
    <section aria-label={phrase('season.month')}>
      <MonthJump
        month={month}
        today={today}
        go={(to) => put({ month: to === today.slice(0, 7) ? '' : to })}
        language={language}
        words={{
          before: phrase('season.monthBefore'),
          after: phrase('season.monthAfter'),
          month: phrase('season.jumpMonth'),
          year: phrase('season.jumpYear'),
          current: phrase('season.thisMonth'),
        }}
      />
      <chakra.div overflowX="auto">
        <chakra.div minWidth="640px">
          <MonthGrid
            month={month}
            weeks={weeks}
            today={today}
            holidays={new Set(holidays)}
            language={language}
          >
            {(day) => (
              <>
                {holidays.includes(day) && (
                  <chakra.span color="soft" fontSize="12px">
                    {' '}
                    {phrase('season.holiday')}
                  </chakra.span>
                )}
                {on(day).map((e) => {
                  const to = stageFor(e, now);
                  const words = (
                    <>
                      <KindMark mark={e.mark} size="11px" />
                      {e.startsLocal!.startsWith(day) && (
                        <span className="soft num">{sayTime(e.startsLocal!)} </span>
                      )}
                      {e.title} <span className="soft num">{saySeats(e)}</span>
                    </>
                  );
                  return (
                    <chakra.div
                      key={e.id}
                      fontSize="13px"
                      lineHeight="1.3"
                      marginTop="3px"
                      borderBottom={clashes.has(e.id) ? '2px solid' : undefined}
                      borderColor="madder"
                      textDecoration={e.state === 'called off' ? 'line-through' : undefined}
                    >
                      {to ? <Link to={to}>{words}</Link> : words}
                    </chakra.div>
                  );
                })}
              </>
            )}
          </MonthGrid>
        </chakra.div>
      </chakra.div>
    </section>
  );
}
