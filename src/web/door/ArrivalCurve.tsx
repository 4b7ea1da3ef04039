import { chakra } from '@chakra-ui/react';
import type { Answer } from '#web/api.ts';
import { Chart, colour, quietChart } from '#web/parts/chart.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { useLooks } from '#web/shell/state.ts';
import { phrase } from '#web/words/phrase.ts';

/** How many had come by when, beside how many were to be expected by then. */
export default function ArrivalCurve({
  curve,
  forecast,
}: {
  curve: Answer<'GET /api/events/:id/doors/live'>['curve'];
  forecast: boolean;
}) {
  // Drawn anew when light turns to dark.
  useLooks((s) => s.light);
  const { timeOfDay } = useSaying();
  const series = [
    { name: phrase('door.came'), data: curve.map((p) => ({ x: Date.parse(p.at), y: p.came })) },
    ...(forecast
      ? [{ name: phrase('door.toExpect'), data: curve.map((p) => ({ x: Date.parse(p.at), y: p.forecast })) }]
      : []),
  ];
  // Marks on the hour and the half hour.
  const span = (Date.parse(curve.at(-1)!.at) - Date.parse(curve[0]!.at)) / 60_000;
  const each = [15, 30, 60, 120, 240].find((step) => span / step <= 8) ?? 480;
  const last = curve.filter((p) => p.came !== null).at(-1);
  return (
    <chakra.figure
      margin="6px 0"
      aria-label={phrase('door.curveSays', {
        came: last?.came ?? 0,
        expected: last?.forecast ?? 0,
        time: last ? timeOfDay(last.at) : '',
      })}
    >
      <Chart
        type="line"
        height={220}
        series={series}
        options={{
          chart: quietChart,
          colors: [colour('verdigris'), colour('soft')],
          stroke: { width: [2.5, 1.5], curve: 'straight', dashArray: [0, 5] },
          grid: { borderColor: colour('line') },
          xaxis: {
            type: 'numeric',
            tickAmount: Math.max(1, Math.round(span / each)),
            labels: {
              style: { colors: colour('soft') },
              formatter: (x: string) => timeOfDay(new Date(Number(x)).toISOString()),
            },
          },
          yaxis: {
            min: 0,
            forceNiceScale: true,
            labels: { style: { colors: colour('soft') }, formatter: (y: number) => String(Math.round(y)) },
          },
          legend: { show: series.length > 1, position: 'top', labels: { colors: colour('ink') } },
          tooltip: { enabled: false },
        }}
      />
    </chakra.figure>
  );
}
