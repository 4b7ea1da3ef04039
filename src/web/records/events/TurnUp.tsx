import { chakra } from '@chakra-ui/react';
import type { SeasonEvent } from '#contract/events.ts';
import { Chart, colour, quietChart } from '#web/parts/chart.tsx';
import { useLooks } from '#web/shell/state.ts';
import { phrase } from '#web/words/phrase.ts';

/** How many registered and how many came, by year; the title says the finding. */
export default function TurnUp({ events }: { events: SeasonEvent[] }) {
  // Drawn anew when light turns to dark.
  useLooks((s) => s.light);
  const years = [...new Set(events.map((e) => e.startsLocal!.slice(0, 4)))].sort();
  const sum = (year: string, of: (e: SeasonEvent) => number) =>
    events.filter((e) => e.startsLocal!.startsWith(year)).reduce((total, e) => total + of(e), 0);
  const registered = years.map((y) => sum(y, (e) => e.confirmed));
  const came = years.map((y) => sum(y, (e) => e.arrived));
  const shares = years.map((_, at) => Math.round((came[at]! / Math.max(1, registered[at]!)) * 100));
  const last = shares.length - 1;
  const title = phrase('records.ofThoseWhoRegistered', {
    years: years[last]!,
    shares: shares[last]!,
    years2: years[0]!,
    shares2: shares[0]!,
  });
  return (
    <chakra.figure margin="10px 0 4px">
      <chakra.figcaption className="name" fontSize="16px">
        {title}
      </chakra.figcaption>
      <Chart
        type="bar"
        height={230}
        series={[
          { name: phrase('records.registered'), data: registered },
          { name: phrase('records.came'), data: came },
        ]}
        options={{
          chart: quietChart,
          colors: [colour('line'), colour('verdigris')],
          plotOptions: { bar: { horizontal: true, barHeight: '74%', dataLabels: { position: 'top' } } },
          dataLabels: {
            enabled: true,
            textAnchor: 'start',
            style: { colors: [colour('ink')], fontWeight: 400 },
            background: { enabled: false },
            offsetX: 8,
          },
          grid: { borderColor: colour('line') },
          xaxis: {
            categories: years,
            title: { text: phrase('ledger.seats'), style: { color: colour('soft'), fontWeight: 400 } },
            labels: { style: { colors: colour('soft') } },
          },
          yaxis: { labels: { style: { colors: colour('ink') } } },
          legend: { position: 'right', labels: { colors: colour('ink') } },
          tooltip: { enabled: false },
        }}
      />
    </chakra.figure>
  );
}
