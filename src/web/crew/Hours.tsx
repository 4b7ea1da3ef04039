import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import { type HourKey, hourKeys } from '#core/crew/hourTotals.ts';
import { isCalendarDate } from '#core/time/dates.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice, InlineText } from '#web/kit/Inline.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { useAddress } from '#web/kit/useAddress.ts';
import { useAsk } from '#web/parts/ask.ts';
import { Person } from '#web/parts/Person.tsx';
import { sayCount, sayFigure, useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

type Hours = Answer<'GET /api/hours'>;
type Row = Hours['rows'][number];

const usual = { from: '', until: '', by: 'person' };
const byWords: Readonly<Record<HourKey, string>> = {
  person: phrase('crew.hoursByPerson'),
  event: phrase('crew.hoursByEvent'),
  role: phrase('crew.hoursByRole'),
};

/** What volunteers served between two days: by person, event or role, over the years, and what it is worth. */
export default function Hours() {
  const { today } = useSaying();
  const [address, put] = useAddress(usual);
  const year = today.slice(0, 4);
  const from = isCalendarDate(address.from) ? address.from : `${year}-01-01`;
  const until = isCalendarDate(address.until) ? address.until : `${year}-12-31`;
  const by = hourKeys.find((k) => k === address.by) ?? 'person';
  const query = { from, until, by };
  const hours = useAsk('GET /api/hours', { query });
  const years = [0, 1, 2, 3].map((back) => String(Number(year) - back));
  const chosen = years.find((y) => from === `${y}-01-01` && until === `${y}-12-31`);
  return (
    <div className="page">
      <div className="spread">
        <h1>{phrase('crew.hoursTitle')}</h1>
        <Button onClick={() => window.open(addressOf('GET /api/hours.csv', {}, query), '_self')}>
          {phrase('crew.asTable')}
        </Button>
      </div>
      <chakra.div display="flex" flexWrap="wrap" gap="8px 12px" alignItems="center" margin="8px 0 12px">
        <InlineChoice
          label={phrase('crew.hoursBy')}
          value={by}
          set={(to) => put({ by: to })}
          choices={hourKeys.map((value) => ({ value, label: byWords[value] }))}
        />
        <InlineChoice
          label={phrase('crew.hoursYear')}
          value={chosen ?? ''}
          set={(y) => put(y ? { from: `${y}-01-01`, until: `${y}-12-31` } : { from: '', until: '' })}
          choices={years.map((value) => ({ value, label: value }))}
          empty={phrase('crew.hoursOther')}
        />
        <InlineText
          type="date"
          label={phrase('crew.hoursFrom')}
          value={from}
          set={(to) => put({ from: to, until }, { typed: true })}
        />
        <InlineText
          type="date"
          label={phrase('crew.hoursUntil')}
          value={until}
          set={(to) => put({ until: to, from }, { typed: true })}
        />
      </chakra.div>
      <Loaded of={hours}>{(answer) => <Shown hours={answer} query={query} />}</Loaded>
    </div>
  );
}

function Shown({ hours: h, query }: { hours: Hours; query: { from: string; until: string; by: HourKey } }) {
  const { money } = useSaying();
  // As many decimals in all of them as one needs, so that they line up.
  const digits = h.rows.some((r) => Math.round(r.hours * 100) % 50)
    ? 2
    : h.rows.some((r) => r.hours % 1)
      ? 1
      : 0;
  const figure = (hours: number) => sayFigure(hours, digits);
  const columns: Column<Row>[] = [
    {
      id: 'label',
      phone: 'title',
      heading: byWords[query.by],
      sortBy: (r) => r.label.toLowerCase(),
      cell: (r) =>
        query.by === 'person' ? (
          <Person id={r.key} name={r.label} />
        ) : query.by === 'event' ? (
          <Link to={`/events/${r.key}/crew`}>{r.label}</Link>
        ) : (
          r.label
        ),
      total: () => phrase('crew.hoursInAll'),
    },
    ...(query.by === 'person'
      ? []
      : [
          {
            id: 'people',
            heading: phrase('crew.people'),
            number: true,
            sortBy: (r: Row) => r.people,
            cell: (r: Row) => sayCount(r.people),
            total: () => sayCount(h.people),
          },
        ]),
    {
      id: 'shifts',
      heading: phrase('crew.hoursShifts'),
      number: true,
      sortBy: (r) => r.shifts,
      cell: (r) => sayCount(r.shifts),
      total: () => sayCount(h.shifts),
    },
    ...(h.years.length > 1 && query.by !== 'event' ? h.years : []).map(
      (year): Column<Row> => ({
        id: year,
        heading: year,
        number: true,
        sortBy: (r) => r.years[year] ?? 0,
        cell: (r) => (r.years[year] ? figure(r.years[year]!) : ''),
      }),
    ),
    {
      id: 'hours',
      phone: 'bare',
      heading: phrase('crew.hoursHours'),
      number: true,
      sortBy: (r) => r.hours,
      cell: (r) => figure(r.hours),
      total: () => figure(h.hours),
    },
    ...(query.by === 'person'
      ? [
          {
            id: 'letter',
            heading: phrase('crew.hoursLetter'),
            cell: (r: Row) => (
              <a
                href={addressOf(
                  'GET /api/contacts/:id/hours.pdf',
                  { id: r.key },
                  { from: query.from, until: query.until },
                )}
                target="_blank"
                rel="noreferrer"
                aria-label={phrase('crew.hoursLetterOf', { name: r.label })}
              >
                {phrase('crew.hoursPdf')}
              </a>
            ),
          },
        ]
      : []),
  ];
  return (
    <>
      <p className="num">
        {phrase('crew.hoursSum', { hours: h.hours, people: h.people, shifts: h.shifts })}{' '}
        <span className="soft">
          {h.value !== null && h.hourValue !== null
            ? phrase('crew.hoursWorth', { value: money(h.value), each: money(h.hourValue) })
            : phrase('crew.hoursNoWorth')}
        </span>
      </p>
      <Table
        label={phrase('crew.hoursTitle')}
        rows={h.rows}
        columns={columns}
        keyOf={(r) => r.key}
        empty={phrase('crew.hoursNone')}
      />
    </>
  );
}
