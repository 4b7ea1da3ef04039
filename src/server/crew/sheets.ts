import type { CrewShift } from '#contract/crew.ts';
import type { SheetKind } from '#core/crew/sheetKinds.ts';
import { sheetOf } from '#core/crew/sheets.ts';
import { hoursOf } from '#core/crew/shift.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayLongDate, sayShortDate } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import type { EventRow } from '../events/store.ts';
import { groupedPdf, type PrintedColumn } from '../print/lists.ts';

const about: Readonly<Record<SheetKind, string>> = {
  day: 'crew by day',
  role: 'crew by role',
  place: 'crew by place',
  person: 'crew by person',
  'sign in': 'crew, to sign in',
};

const open = '– open –';
const columns: Readonly<
  Record<
    SheetKind,
    readonly (PrintedColumn & { of: 'when' | 'day' | 'what' | 'where' | 'who' | 'lead' | 'none' })[]
  >
> = {
  day: [
    { heading: 'Time', width: 105, of: 'when' },
    { heading: 'Role', width: 140, of: 'what' },
    { heading: 'Place', width: 105, of: 'where' },
    { heading: 'Who', width: 145, of: 'who' },
  ],
  role: [
    { heading: 'Day', width: 60, of: 'day' },
    { heading: 'Time', width: 105, of: 'when' },
    { heading: 'Place', width: 145, of: 'where' },
    { heading: 'Who', width: 185, of: 'who' },
  ],
  place: [
    { heading: 'Day', width: 60, of: 'day' },
    { heading: 'Time', width: 105, of: 'when' },
    { heading: 'Role', width: 145, of: 'what' },
    { heading: 'Who', width: 185, of: 'who' },
  ],
  person: [
    { heading: 'Day', width: 60, of: 'day' },
    { heading: 'Time', width: 105, of: 'when' },
    { heading: 'Role', width: 140, of: 'what' },
    { heading: 'Place', width: 95, of: 'where' },
    { heading: 'Lead', width: 95, of: 'lead' },
  ],
  'sign in': [
    { heading: 'Who', width: 150, of: 'who' },
    { heading: 'Time', width: 100, of: 'when' },
    { heading: 'Role', width: 115, of: 'what' },
    { heading: 'In', width: 65, of: 'none' },
    { heading: 'Out', width: 65, of: 'none' },
  ],
};

/** The crew of an event on paper. */
export function crewPdf(
  event: EventRow,
  shifts: readonly CrewShift[],
  kind: SheetKind,
  now: string,
): Promise<Buffer> {
  const groups = sheetOf(shifts, kind);
  const heading = (text: string) =>
    kind === 'day' || kind === 'sign in' ? sayLongDate(text, 'en') : text || 'No place';
  return groupedPdf(
    {
      title: event.publicTitle || event.teamTitle,
      about: `${about[kind]} · printed ${sayLongDate(wallOf(now, event.zone), 'en')}`,
    },
    columns[kind],
    groups.map((g) => ({
      heading: heading(g.heading),
      rows: g.lines.map(({ shift, on }) => {
        const said = {
          when: sayFromTo(shift, 'en'),
          day: sayShortDate(shift.startsLocal, false, 'en'),
          what: [shift.name, shift.role].filter(Boolean).join(', '),
          where: shift.place,
          who: on?.name ?? open,
          lead: shift.lead ?? '',
          none: '',
        };
        return columns[kind].map((c) => said[c.of]);
      }),
    })),
  );
}

/** The crew of an event as a table: a row for everybody on a shift, and for every open place. */
export const crewCsv = (shifts: readonly CrewShift[]): string =>
  writeCsv(
    [
      'Day',
      'From',
      'To',
      'Hours',
      'Role',
      'Shift',
      'Place',
      'At least',
      'Wished',
      'Who',
      'State',
      'Hours served',
    ],
    sheetOf(shifts, 'day').flatMap((g) =>
      g.lines.map(({ shift: s, on }) => {
        return [
          g.heading,
          s.startsLocal.slice(11),
          s.endsLocal.slice(11),
          String(hoursOf(s.startsAt, s.endsAt)),
          s.role,
          s.name,
          s.place,
          String(s.least),
          String(s.wished),
          on?.name ?? '',
          on?.state ?? 'open',
          on?.hours == null ? '' : String(on.hours),
        ];
      }),
    ),
  );
