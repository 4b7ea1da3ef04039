import { chakra } from '@chakra-ui/react';
import type { EventFiguresShown } from '#contract/archive.ts';
import { sayFigure } from '#core/outcomes/measure.ts';
import { sayShortDate } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { sayCount, useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { saveTable } from '../saveTable.ts';
import { sayShare, sayTimes } from '../shares.ts';

/** Events side by side: a column each, a row for everything they came to, and above it what differs most. */
export function Compare({ of }: { of: string }) {
  const ids = of.split(',').filter(Boolean);
  if (!ids.length) return <Empty>{phrase('archive.noneChosen')}</Empty>;
  if (ids.length > 60) return <Empty>{phrase('archive.onlySixty')}</Empty>;
  return <Compared of={of} />;
}

function Compared({ of }: { of: string }) {
  const compared = useAsk('GET /api/records/events', { query: { ids: of } });
  const rowsOf = useRows();
  return (
    <>
      <p>
        <TextLink to="/records">{phrase('archive.backToEvents')}</TextLink>
      </p>
      <Loaded of={compared}>
        {({ events, differs }) => {
          const rows = rowsOf(events);
          return (
            <>
              {differs.length > 0 && (
                <section>
                  <h2>{phrase('archive.differsMost')}</h2>
                  <chakra.ul className="lines" marginBottom="12px">
                    {differs.map((said) => (
                      <li key={said}>{said}</li>
                    ))}
                  </chakra.ul>
                </section>
              )}
              <div className="spread">
                <h2>{phrase('archive.sideBySide')}</h2>
                <Button
                  onClick={() =>
                    saveTable('side-by-side.csv', [
                      ['', ...events.map((e) => `${e.title} ${e.on}`)],
                      ...rows.map((r) => [r.label, ...r.cells]),
                    ])
                  }
                >
                  {phrase('archive.asCsv')}
                </Button>
              </div>
              <chakra.div className="table still" overflowX="auto">
                <table>
                  <thead>
                    <tr>
                      <th scope="col">
                        <chakra.span srOnly>{phrase('reports.figure')}</chakra.span>
                      </th>
                      {events.map((e) => (
                        <th key={e.id} scope="col" className="n">
                          <TextLink to={`/events/${e.id}/wrap-up`}>{e.title}</TextLink>
                          <br />
                          <span className="soft num">
                            {sayShortDate(e.on)} {e.on.slice(0, 4)}
                            {!e.over && `, ${phrase('archive.toCome')}`}
                          </span>
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody>
                    {rows.map((row) => (
                      <tr key={row.label}>
                        <chakra.th
                          scope="row"
                          textAlign="left"
                          color="ink"
                          borderBottom="1px solid"
                          borderColor="line"
                          fontWeight={row.under ? 400 : 600}
                          paddingLeft={row.under ? '14px' : '0'}
                        >
                          {row.label}
                        </chakra.th>
                        {row.cells.map((cell, at) => (
                          <td key={events[at]!.id} className="n">
                            {cell}
                          </td>
                        ))}
                      </tr>
                    ))}
                  </tbody>
                </table>
              </chakra.div>
            </>
          );
        }}
      </Loaded>
    </>
  );
}

interface Row {
  label: string;
  /** Part of what stands above it. */
  under?: boolean;
  cells: string[];
}

/** The rows of the comparison; one that says nothing of any event is left out. */
function useRows(): (events: readonly EventFiguresShown[]) => Row[] {
  const { money } = useSaying();
  return (events) => {
    const row = (label: string, cell: (e: EventFiguresShown) => string, under = false): Row => ({
      label,
      under,
      cells: events.map(cell),
    });
    const share = (n: number, of: number) => (of ? sayShare(n / of) : '');
    const amount = (of: (m: NonNullable<EventFiguresShown['money']>) => number) => (e: EventFiguresShown) => {
      if (!e.money) return phrase('archive.notTold');
      const value = of(e.money);
      return value ? money(value, e.currency) : '';
    };
    const measures = new Map(events.flatMap((e) => e.outcomes).map((o) => [o.measureId, o]));
    const rows = [
      row(phrase('archive.registered'), (e) => sayCount(e.registered)),
      row(phrase('archive.came'), (e) => (e.over ? sayCount(e.came) : '')),
      row(
        phrase('archive.turnUp'),
        (e) => (e.over ? share(e.registered - e.missed, e.registered) : ''),
        true,
      ),
      row(phrase('archive.firstTimers'), (e) => share(e.firstTimers, e.people), true),
      row(phrase('archive.walkedIn'), (e) => (e.walkedIn ? sayCount(e.walkedIn) : ''), true),
      row(phrase('archive.missed'), (e) => (e.missed ? sayCount(e.missed) : '')),
      row(phrase('archive.withdrawn'), (e) => (e.withdrawn ? sayCount(e.withdrawn) : '')),
      row(phrase('archive.members'), (e) => share(e.members ?? 0, e.registered)),
      row(phrase('archive.capacity'), (e) => (e.capacity === null ? '' : sayCount(e.capacity))),
      row(phrase('archive.fill'), (e) => (e.fill === null ? '' : sayShare(e.fill)), true),
      row(
        phrase('archive.seatsMoney'),
        amount((m) => m.seats),
      ),
      row(
        phrase('archive.extrasMoney'),
        amount((m) => m.extras),
      ),
      row(
        phrase('archive.gifts'),
        amount((m) => m.gifts),
      ),
      row(
        phrase('archive.costs'),
        amount((m) => -m.costs),
      ),
      row(
        phrase('archive.result'),
        amount((m) => m.seats + m.extras + m.gifts - m.costs),
      ),
      row(phrase('archive.perHead'), (e) =>
        e.money && e.came ? amount((m) => Math.round((m.seats + m.extras + m.gifts) / e.came))(e) : '',
      ),
      row(phrase('archive.hours'), (e) => (e.hours ? sayTimes(e.hours) : '')),
      ...[...measures.values()].map((m) =>
        row(readTexts(m.name, 'en'), (e) => {
          const own = e.outcomes.find((o) => o.measureId === m.measureId);
          return own ? sayFigure(own.total, own) : '';
        }),
      ),
      row(phrase('archive.wouldRecommend'), (e) =>
        e.recommend
          ? phrase('archive.ofN', {
              share: sayShare(e.recommend.would / Math.max(1, e.recommend.n)),
              n: e.recommend.n,
            })
          : '',
      ),
    ];
    return rows.filter((r) => r.cells.some(Boolean));
  };
}
