import { chakra } from '@chakra-ui/react';
import { Chart, colour, quietChart } from '#web/parts/chart.tsx';
import { useLooks } from '#web/shell/state.ts';
import { phrase } from '#web/words/phrase.ts';
import { sayShare } from '../shares.ts';

interface Curve {
  curve: readonly { before: number; booked: number; withdrawn: number }[];
}

/** How much was booked, and given up again, by so many days before. The table below says the same. */
export default function TimingChart({ all }: { all: Curve }) {
  // Drawn anew when light turns to dark.
  useLooks((s) => s.light);
  const soft = colour('soft');
  const line = (of: 'booked' | 'withdrawn') => all.curve.map((c) => ({ x: -c.before, y: c[of] }));
  return (
    <chakra.figure margin="6px 0 4px">
      <Chart
        type="line"
        height={230}
        series={[
          { name: phrase('archive.bookedShare'), data: line('booked') },
          { name: phrase('archive.withdrawnShare'), data: line('withdrawn') },
        ]}
        options={{
          chart: quietChart,
          colors: [colour('verdigris'), colour('ochre')],
          stroke: { width: 2, curve: 'straight' },
          markers: { size: 3 },
          grid: { borderColor: colour('line') },
          xaxis: {
            type: 'numeric',
            tickAmount: 12,
            title: { text: phrase('archive.daysBefore'), style: { color: soft, fontWeight: 400 } },
            labels: {
              style: { colors: soft },
              formatter: (n: string) => String(Math.abs(Math.round(Number(n)))),
            },
          },
          yaxis: {
            min: 0,
            max: 1,
            tickAmount: 4,
            labels: { style: { colors: soft }, formatter: (n: number) => sayShare(n) },
          },
          legend: { position: 'right', labels: { colors: colour('ink') } },
          tooltip: { enabled: false },
        }}
      />
    </chakra.figure>
  );
}
