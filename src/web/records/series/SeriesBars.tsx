import { chakra } from '@chakra-ui/react';
import { Chart, colour, quietChart } from '#web/parts/chart.tsx';
import { useLooks } from '#web/shell/state.ts';
import { phrase } from '#web/words/phrase.ts';

interface Time {
  on: string;
  registered: number;
  came: number;
}

/** Who came each time out of who registered, as small bars with the years below. */
export default function SeriesBars({ times, label }: { times: readonly Time[]; label: string }) {
  // Drawn anew when light turns to dark.
  useLooks((s) => s.light);
  const yearAt = (n: number) => {
    const year = times[n]?.on.slice(0, 4);
    return year && times[n - 1]?.on.slice(0, 4) !== year ? year : '';
  };
  return (
    <chakra.div role="img" aria-label={label}>
      <Chart
        type="bar"
        height={110}
        series={[
          { name: phrase('archive.came'), data: times.map((t) => t.came) },
          { name: phrase('archive.missed'), data: times.map((t) => Math.max(0, t.registered - t.came)) },
        ]}
        options={{
          chart: { ...quietChart, stacked: true, parentHeightOffset: 0 },
          colors: [colour('verdigris'), colour('line')],
          plotOptions: { bar: { columnWidth: times.length > 6 ? '70%' : '30%' } },
          dataLabels: { enabled: false },
          grid: { show: false, padding: { left: 0, right: 0, top: -18, bottom: -8 } },
          xaxis: {
            categories: times.map((_, n) => yearAt(n)),
            labels: {
              rotate: 0,
              hideOverlappingLabels: false,
              trim: false,
              style: { colors: colour('soft') },
            },
            axisTicks: { show: false },
            axisBorder: { color: colour('line') },
          },
          yaxis: {
            tickAmount: 2,
            forceNiceScale: true,
            labels: { style: { colors: colour('soft') }, formatter: (n: number) => String(Math.round(n)) },
          },
          legend: { show: false },
          tooltip: { enabled: false },
          states: { hover: { filter: { type: 'none' } } },
        }}
      />
    </chakra.div>
  );
}
