import { chakra } from '@chakra-ui/react';
import { sayFigure } from '#core/outcomes/measure.ts';
import { sayShortDate } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';
import { Chart, colour, quietChart } from '#web/parts/chart.tsx';
import { useLooks } from '#web/shell/state.ts';
import { phrase } from '#web/words/phrase.ts';
import { AsTable } from '../AsTable.tsx';
import type { Shown } from './initiative.ts';

const at = (day: string): number => Date.parse(`${day}T12:00Z`);

/** What a goal stood at by day, where it is heading, and the goal itself; the same as a table. */
export default function GoalChart({ goal, today }: { goal: Shown['goals'][number]; today: string }) {
  // Drawn anew when light turns to dark.
  useLooks((s) => s.light);
  const soft = colour('soft');
  const steps = goal.kind === 'latest' ? 'straight' : 'stepline';
  const ahead = goal.ahead
    ? [
        { x: at(today), y: goal.value ?? 0 },
        { x: at(goal.by), y: goal.ahead.value },
      ]
    : [];
  return (
    <chakra.figure margin={0}>
      <Chart
        type="line"
        height={210}
        series={[
          {
            name: readTexts(goal.name, 'en'),
            data: [
              ...(goal.kind === 'latest' ? [] : [{ x: at(goal.from), y: 0 }]),
              ...goal.days.map((d) => ({ x: at(d.on), y: d.value })),
              ...(goal.kind === 'latest' || goal.value === null || today > goal.by
                ? []
                : [{ x: at(today), y: goal.value }]),
            ],
          },
          { name: phrase('initiatives.asItGoes'), data: ahead },
        ]}
        options={{
          chart: quietChart,
          colors: [colour('verdigris'), colour('verdigris')],
          stroke: { width: [2, 2], curve: [steps, 'straight'], dashArray: [0, 5] },
          grid: { borderColor: colour('line') },
          annotations: {
            yaxis: [
              {
                y: goal.target,
                borderColor: colour('ink'),
                strokeDashArray: 0,
                label: {
                  text: `${phrase('initiatives.goal')} ${sayFigure(goal.target, goal)}`,
                  position: 'left',
                  textAnchor: 'start',
                  borderWidth: 0,
                  style: { background: 'transparent', color: colour('ink') },
                },
              },
            ],
          },
          xaxis: {
            type: 'datetime',
            min: at(goal.from),
            max: at(goal.by),
            labels: { style: { colors: soft } },
            tooltip: { enabled: false },
          },
          yaxis: {
            min: goal.kind === 'latest' ? undefined : 0,
            max: (most: number) => Math.max(most, goal.target, goal.ahead?.value ?? 0) * 1.05,
            tickAmount: 4,
            forceNiceScale: true,
            labels: { style: { colors: soft }, formatter: (n: number) => sayFigure(Math.round(n), goal) },
          },
          legend: { show: false },
          tooltip: { enabled: false },
        }}
      />
      <AsTable>
        <thead>
          <tr>
            <th scope="col">{phrase('initiatives.day')}</th>
            <th scope="col" className="n">
              {phrase('initiatives.stood')}
            </th>
          </tr>
        </thead>
        <tbody>
          {goal.days.map((d) => (
            <tr key={d.on}>
              <td>{`${sayShortDate(d.on)} ${d.on.slice(0, 4)}`}</td>
              <td className="n">{sayFigure(d.value, goal)}</td>
            </tr>
          ))}
        </tbody>
      </AsTable>
    </chakra.figure>
  );
}
