import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import { weeksOf } from '#core/events/listing.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { phrase, spokenLanguage } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';
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
  // On a phone the days that have something, one below the other.
  const days = weeks.flat().filter((day) => day.startsWith(month) && on(day).length > 0);
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
      <chakra.div hideBelow="md">
        <MonthGrid month={month} weeks={weeks} today={today} holidays={new Set(holidays)} language={language}>
          {(day) => (
            <>
              {holidays.includes(day) && (
                <chakra.span color="soft" fontSize="12px">
                  {' '}
                  {phrase('season.holiday')}
                </chakra.span>
              )}
              {on(day).map((e) => (
                <chakra.div key={e.id} fontSize="13px" lineHeight="1.3" marginTop="3px">
                  <Shown event={e} day={day} now={now} clashes={clashes.has(e.id)} />
                </chakra.div>
              ))}
            </>
          )}
        </MonthGrid>
      </chakra.div>
      <chakra.div hideFrom="md">
        {days.length === 0 && <Empty>{phrase('season.nothingThisMonth')}</Empty>}
        {days.map((day) => (
          <chakra.section key={day} padding="8px 0" borderBottom="1px solid" borderColor="line">
            <chakra.h3 fontSize="small" fontWeight={500} color={day === today ? 'verdigris' : 'soft'}>
              {sayShortDate(day, true)}
              {holidays.includes(day) && `, ${phrase('season.holiday')}`}
            </chakra.h3>
            {on(day).map((e) => (
              <chakra.div key={e.id} padding="3px 0">
                <Shown event={e} day={day} now={now} clashes={clashes.has(e.id)} />
              </chakra.div>
            ))}
          </chakra.section>
        ))}
      </chakra.div>
    </section>
  );
}

/** An event on one of its days. */
function Shown({
  event: e,
  day,
  now,
  clashes,
}: {
  event: SeasonPicture['events'][number];
  day: string;
  now: string;
  clashes: boolean;
}) {
  const to = stageFor(e, now);
  const words = (
    <>
      <KindMark mark={e.mark} size="11px" />
      {e.startsLocal!.startsWith(day) && <span className="soft num">{sayTime(e.startsLocal!)} </span>}
      {e.title} <span className="soft num">{saySeats(e)}</span>
    </>
  );
  return (
    <chakra.span
      borderBottom={clashes ? '2px solid' : undefined}
      borderColor="madder"
      textDecoration={e.state === 'called off' ? 'line-through' : undefined}
    >
      {to ? <Link to={to}>{words}</Link> : words}
    </chakra.span>
  );
}
