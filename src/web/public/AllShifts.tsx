import './holdingWords.ts';
import './calendarWords.ts';
import './helping/words.ts';
import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { weeksOf } from '#core/events/listing.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import type { Answer } from '#web/api.ts';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { useAddress } from '#web/kit/useAddress.ts';
import { firstDayOfWeek, MonthGrid, MonthJump, monthIn } from '../parts/MonthGrid.tsx';
import { useAsk } from './asking.ts';
import { narrowed, ShiftFilters, usualShifts } from './helping/ShiftFilters.tsx';
import { ShiftList } from './helping/ShiftList.tsx';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Soft, Title } from './parts.tsx';

type Page = Answer<'GET /api/public/shifts'>;

const usual = { ...usualShifts, show: 'list', month: '' };
/** As many shifts as a day of the month names. */
const mostNamed = 4;

/** Open shifts of every event, as a list or in a month. */
export default function AllShifts() {
  const page = useAsk('GET /api/public/shifts', {}, { everyMs: 30_000 });
  return <Loaded of={page}>{(shown) => <Shown page={shown} />}</Loaded>;
}

function Shown({ page: { shifts, today } }: { page: Page }) {
  const { t } = useTranslation();
  const [address, put] = useAddress(usual);
  const found = narrowed(shifts, address);
  return (
    <>
      <Title>{t('allShifts')}</Title>
      <Soft>{t(shifts.length ? 'allShiftsText' : 'allShiftsNone')}</Soft>
      {shifts.length > 0 && (
        <>
          <chakra.p margin="8px 0 0">
            <InlineChoice
              label={t('shiftsForms')}
              value={address.show === 'month' ? 'month' : 'list'}
              set={(show) => put({ show })}
              choices={[
                { value: 'list', label: t('shiftsAsList') },
                { value: 'month', label: t('shiftsAsMonth') },
              ]}
            />
          </chakra.p>
          <ShiftFilters shifts={shifts} address={address} put={put} />
          {found.length === 0 && <Soft role="status">{t('noShiftsLikeThat')}</Soft>}
        </>
      )}
      {address.show === 'month' ? (
        <ShiftMonth
          shifts={found}
          today={today}
          month={monthIn(address.month, shifts[0]?.startsLocal.slice(0, 10) ?? today)}
          go={(month) => put({ month })}
        />
      ) : (
        <ShiftList
          shifts={found}
          chosen={address.shift}
          choose={(shift) => put({ shift }, { typed: true })}
        />
      )}
    </>
  );
}

/** A month of open shifts; on a phone its days one under the other. */
function ShiftMonth({
  shifts,
  today,
  month,
  go,
}: {
  shifts: Page['shifts'];
  today: string;
  month: string;
  go: (month: string) => void;
}) {
  const { t } = useTranslation();
  const on = (day: string) => shifts.filter((s) => s.startsLocal.startsWith(day));
  return (
    <>
      <MonthJump
        month={month}
        today={today}
        go={go}
        language={language()}
        words={{
          before: t('monthBefore'),
          after: t('monthAfter'),
          month: t('jumpMonth'),
          year: t('jumpYear'),
          current: t('thisMonth'),
        }}
      />
      <chakra.div hideBelow="md">
        <chakra.div
          width="min(960px, 100vw - 60px)"
          marginInline="calc((100% - min(960px, 100vw - 60px)) / 2)"
        >
          <MonthGrid
            month={month}
            weeks={weeksOf(month, firstDayOfWeek(language()))}
            today={today}
            language={language()}
          >
            {(day) => (
              <>
                {on(day)
                  .slice(0, mostNamed)
                  .map((s) => (
                    <OfDay key={s.id} shift={s} />
                  ))}
                {on(day).length > mostNamed && (
                  <chakra.div fontSize="14px" marginTop="3px">
                    <Link to={`/shifts?day=${day}`}>
                      {t('shiftsMore', { count: on(day).length - mostNamed })}
                    </Link>
                  </chakra.div>
                )}
              </>
            )}
          </MonthGrid>
        </chakra.div>
      </chakra.div>
      <chakra.div hideFrom="md">
        {shifts
          .filter((s) => s.startsLocal.startsWith(month))
          .map((s) => (
            <OfDay key={s.id} shift={s} dated />
          ))}
      </chakra.div>
    </>
  );
}

/** One shift in a day; it leads to its form on the page of its event. */
function OfDay({ shift: s, dated = false }: { shift: Page['shifts'][number]; dated?: boolean }) {
  return (
    <chakra.div fontSize="14px" lineHeight="1.25" marginTop="3px">
      <Link
        to={`/e/${s.event.slug}/shifts?shift=${s.id}`}
        aria-label={`${s.startsLocal.slice(0, 10)} ${s.startsLocal.slice(11)}, ${s.role}, ${s.event.title}`}
      >
        <chakra.span textStyle="figures" color="soft">
          {dated && `${sayShortDate(s.startsLocal, true, language())} `}
          {sayTime(s.startsLocal, language())}{' '}
        </chakra.span>
        {s.role}
      </Link>
    </chakra.div>
  );
}
