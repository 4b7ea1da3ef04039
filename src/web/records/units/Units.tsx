import { sayFigure } from '#core/outcomes/measure.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { ListViews } from '#web/kit/ListViews.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { sayCount, useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { saveTable } from '../saveTable.ts';
import { sayShare, sayTimes } from '../shares.ts';

type UnitYear = Answer<'GET /api/records/units'>[number];

/** What the events of each unit came to in one year, chosen above. */
export function Units({ year, setYear }: { year: string; setYear: (year: string) => void }) {
  const { money } = useSaying();
  return (
    <Loaded of={useAsk('GET /api/records/units')}>
      {(all) => {
        const years = [...new Set(all.map((r) => r.year))];
        const shownYear = years.includes(year) ? year : (years[0] ?? '');
        const rows = all.filter((r) => r.year === shownYear);
        if (!rows.length) return <Empty>{phrase('archive.noUnits')}</Empty>;
        const net = (r: UnitYear) =>
          r.money ? r.money.seats + r.money.extras + r.money.gifts - r.money.costs : 0;
        const said = (r: UnitYear) =>
          r.outcomes.map((o) => `${readTexts(o.name, 'en')}: ${sayFigure(o.total, o)}`).join('; ');
        const name = (r: UnitYear) => r.unit || phrase('archive.wholeOrganization');
        const count = (
          id: keyof UnitYear & string,
          heading: string,
          of: (r: UnitYear) => number,
        ): Column<UnitYear> => ({
          id,
          heading,
          number: true,
          sortBy: of,
          cell: (r) => sayCount(of(r)),
          total: (shown) => sayCount(shown.reduce((n, r) => n + of(r), 0)),
        });
        const columns: Column<UnitYear>[] = [
          {
            id: 'unit',
            phone: 'title',
            heading: phrase('archive.unit'),
            sortBy: name,
            cell: (r) => <span className="name">{name(r)}</span>,
          },
          count('events', phrase('archive.nEvents'), (r) => r.events),
          count('registered', phrase('archive.registered'), (r) => r.registered),
          count('came', phrase('archive.came'), (r) => r.came),
          {
            id: 'turnUp',
            heading: phrase('archive.turnUp'),
            number: true,
            sortBy: (r) => 1 - r.missed / Math.max(1, r.registered),
            cell: (r) => (r.registered ? sayShare(1 - r.missed / r.registered) : ''),
          },
          // People of several units are counted in each: there is no sum of them.
          {
            id: 'people',
            heading: phrase('archive.different'),
            number: true,
            sortBy: (r) => r.people,
            cell: (r) => sayCount(r.people),
          },
          count('firstTimers', phrase('archive.firstTimers'), (r) => r.firstTimers),
          {
            id: 'hours',
            heading: phrase('archive.hours'),
            number: true,
            sortBy: (r) => r.hours,
            cell: (r) => sayTimes(r.hours),
            total: (shown) => sayTimes(shown.reduce((n, r) => n + r.hours, 0)),
          },
          {
            id: 'net',
            heading: phrase('archive.net'),
            number: true,
            sortBy: net,
            cell: (r) => (r.money ? money(net(r), r.currency) : ''),
            total: (shown) =>
              money(
                shown.reduce((n, r) => n + net(r), 0),
                rows[0]!.currency,
              ),
          },
          { id: 'outcomes', heading: phrase('archive.outcomes'), cell: said },
        ];
        return (
          <>
            <div className="spread">
              <ListViews
                label={phrase('archive.year')}
                value={shownYear}
                set={setYear}
                views={years.map((y) => ({ value: y, label: y }))}
              />
              <Button
                onClick={() =>
                  saveTable(`units-${shownYear}.csv`, [
                    columns.map((c) => c.heading),
                    ...rows.map((r) => [
                      name(r),
                      ...[r.events, r.registered, r.came].map(String),
                      sayShare(1 - r.missed / Math.max(1, r.registered)),
                      String(r.people),
                      String(r.firstTimers),
                      String(r.hours),
                      r.money ? String(net(r) / 100) : '',
                      said(r),
                    ]),
                  ])
                }
              >
                {phrase('archive.asCsv')}
              </Button>
            </div>
            <Table
              label={phrase('archive.units')}
              name="unit-years"
              rows={rows}
              columns={columns}
              keyOf={(r) => r.unitId ?? 'none'}
              empty=""
            />
          </>
        );
      }}
    </Loaded>
  );
}
