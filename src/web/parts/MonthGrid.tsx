import { chakra } from '@chakra-ui/react';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { shiftMonth } from '#core/events/listing.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice } from '#web/kit/Inline.tsx';

/** A day's name or a month's, in the language of whoever reads. */
const named = (date: string, options: Intl.DateTimeFormatOptions, language: string): string =>
  new Intl.DateTimeFormat(language === 'fr' ? 'fr-CA' : 'en-GB', { timeZone: 'UTC', ...options }).format(
    new Date(`${date}T00:00Z`),
  );

/** Monday or Sunday, as people here begin a week: 1 or 7. */
export const firstDayOfWeek = (language: string): number => (language === 'fr' ? 1 : 7);

/** A month that was typed into an address; the current one where it is none. */
export const monthIn = (typed: string, today: string): string =>
  /^(?:19|20|21)\d\d-(?:0[1-9]|1[0-2])$/u.test(typed) ? typed : today.slice(0, 7);

/** What the buttons say. */
export interface MonthWords {
  before: string;
  after: string;
  month: string;
  year: string;
  current: string;
}

const years = (shown: number, now: number): string[] => {
  const from = Math.min(shown, now - 4);
  const to = Math.max(shown, now + 3);
  return Array.from({ length: to - from + 1 }, (_, at) => String(from + at));
};

/** Ways from one month to another: one on or back, or straight to a month or a year. */
export function MonthJump({
  month,
  today,
  go,
  language,
  words,
}: {
  month: string;
  today: string;
  go: (month: string) => void;
  language: string;
  words: MonthWords;
}) {
  const [year = '', number = ''] = month.split('-');
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="8px" alignItems="center" margin="14px 0 10px">
      <Button aria-label={words.before} onClick={() => go(shiftMonth(month, -1))}>
        <ChevronLeft size={17} aria-hidden />
      </Button>
      <InlineChoice
        label={words.month}
        value={number}
        set={(m) => go(`${year}-${m}`)}
        choices={Array.from({ length: 12 }, (_, at) => {
          const value = String(at + 1).padStart(2, '0');
          return { value, label: named(`2026-${value}-01`, { month: 'long' }, language) };
        })}
      />
      <InlineChoice
        label={words.year}
        value={year}
        set={(y) => go(`${y}-${number}`)}
        choices={years(Number(year), Number(today.slice(0, 4))).map((y) => ({ value: y, label: y }))}
      />
      <Button aria-label={words.after} onClick={() => go(shiftMonth(month, 1))}>
        <ChevronRight size={17} aria-hidden />
      </Button>
      {month !== today.slice(0, 7) && (
        <Button look="plain" onClick={() => go(today.slice(0, 7))}>
          {words.current}
        </Button>
      )}
    </chakra.div>
  );
}

/** A month as a table of its weeks; what stands in a day is given. */
export function MonthGrid({
  month,
  weeks,
  today,
  holidays = new Set(),
  language,
  children,
}: {
  month: string;
  weeks: readonly (readonly string[])[];
  today: string;
  holidays?: ReadonlySet<string>;
  language: string;
  children: (day: string) => ReactNode;
}) {
  return (
    <chakra.table width="100%" tableLayout="fixed" borderCollapse="collapse">
      <chakra.caption srOnly>
        {named(`${month}-01`, { month: 'long', year: 'numeric' }, language)}
      </chakra.caption>
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
              {named(day, { weekday: 'short' }, language)}
            </chakra.th>
          ))}
        </tr>
      </thead>
      <tbody>
        {weeks.map((week) => (
          <tr key={week[0]}>
            {week.map((day) => (
              <chakra.td
                key={day}
                verticalAlign="top"
                height="92px"
                padding="4px 6px"
                border="1px solid"
                borderColor="line"
                background={day.slice(0, 7) !== month || holidays.has(day) ? 'transparent' : 'sheet'}
                aria-current={day === today ? 'date' : undefined}
              >
                <chakra.span
                  textStyle="figures"
                  fontSize="small"
                  color={day === today ? 'verdigris' : 'soft'}
                  fontWeight={day === today ? 700 : 400}
                >
                  {Number(day.slice(8))}
                </chakra.span>
                {children(day)}
              </chakra.td>
            ))}
          </tr>
        ))}
      </tbody>
    </chakra.table>
  );
}
