import { chakra } from '@chakra-ui/react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Facts } from '#web/kit/Facts.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { SlideOver } from '#web/kit/SlideOver.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { Chart, colour, quietChart } from '#web/parts/chart.tsx';
import { useLooks } from '#web/shell/state.ts';
import { phrase } from '#web/words/phrase.ts';

type Crew = Answer<'GET /api/events/:id/crew/figures'>;

const percent = (part: number, of: number): number => (of ? Math.round((part / of) * 100) : 0);
const hours = (n: number): number => Math.round(n * 10) / 10;

/** How the places of an event filled, beside the last time; who gave one up; how the load is spread. */
export default function Figures({ eventId, close }: { eventId: string; close: () => void }) {
  const figures = useAsk('GET /api/events/:id/crew/figures', { params: { id: eventId } });
  return (
    <SlideOver open close={close} label={phrase('crew.figures')}>
      <chakra.div padding="18px 20px">
        <div className="spread">
          <h2>{phrase('crew.figures')}</h2>
          <Button look="plain" onClick={close}>
            {phrase('common.close')}
          </Button>
        </div>
        <Loaded of={figures}>{(f) => <Shown figures={f} />}</Loaded>
      </chakra.div>
    </SlideOver>
  );
}

function Shown({ figures: { wished, fill, before, drops, load } }: { figures: Crew }) {
  const now = fill.at(-1);
  const then = now && before?.fill.find((p) => p.days === now.days);
  return (
    <>
      <h3>{phrase('crew.fillOver')}</h3>
      {now && load.people > 0 ? (
        <>
          <p className="num">
            {phrase('crew.fillNow', { filled: now.filled, wished, days: now.days })}
            {before && then && (
              <>
                {' '}
                {phrase('crew.fillBefore', {
                  title: before.title,
                  year: before.startsLocal.slice(0, 4),
                  filled: then.filled,
                  wished: before.wished,
                })}
              </>
            )}
          </p>
          <Curve wished={wished} fill={fill} before={before} />
        </>
      ) : (
        <p className="soft">{phrase('crew.fillNone')}</p>
      )}
      <chakra.h3 marginTop="16px">{phrase('crew.drops')}</chakra.h3>
      {drops.all === 0 ? (
        <p className="soft">{phrase('crew.dropsNone')}</p>
      ) : (
        <>
          <p className="num">{phrase('crew.dropsAre', { n: drops.all, percent: percent(drops.share, 1) })}</p>
          <Facts
            of={[
              [phrase('crew.dropsEarly'), drops.early],
              [phrase('crew.dropsLate'), drops.late],
              [phrase('crew.dropsLast'), drops.last],
            ]}
          />
        </>
      )}
      {load.people > 0 && (
        <>
          <chakra.h3 marginTop="16px">{phrase('crew.load')}</chakra.h3>
          <p className="num">
            {phrase('crew.loadIs', {
              people: load.people,
              least: hours(load.least),
              median: hours(load.median),
              most: hours(load.most),
            })}{' '}
            {phrase('crew.loadBusiest', { percent: percent(load.busiest, 1) })}{' '}
            {phrase('crew.loadReturning', { n: load.returning })}
          </p>
        </>
      )}
    </>
  );
}

/** The share of places filled, from weeks before to the day; the time before as a thinner line. */
function Curve({ wished, fill, before }: Pick<Crew, 'wished' | 'fill' | 'before'>) {
  // Drawn anew when light turns to dark.
  useLooks((s) => s.light);
  const line = (points: Crew['fill'], of: number) =>
    points.map((p) => ({ x: -p.days, y: percent(p.filled, of) }));
  const series = [
    { name: phrase('crew.fillThis'), data: line(fill, wished) },
    ...(before
      ? [
          {
            name: `${before.title} ${before.startsLocal.slice(0, 4)}`,
            data: line(before.fill, before.wished),
          },
        ]
      : []),
  ];
  return (
    <chakra.figure margin="6px 0" aria-label={phrase('crew.fillOver')}>
      <Chart
        type="line"
        height={220}
        series={series}
        options={{
          chart: quietChart,
          colors: [colour('verdigris'), colour('rule')],
          stroke: { width: [2.5, 1.5], curve: 'stepline' },
          grid: { borderColor: colour('line') },
          xaxis: {
            type: 'numeric',
            min: -Math.max(...[...fill, ...(before?.fill ?? [])].map((p) => p.days)),
            max: 0,
            tickAmount: 6,
            labels: {
              style: { colors: colour('soft') },
              formatter: (x: string) => String(Math.abs(Math.round(Number(x)))),
            },
            title: { text: phrase('crew.fillDays'), style: { color: colour('soft'), fontWeight: 400 } },
          },
          yaxis: {
            min: 0,
            max: 100,
            tickAmount: 4,
            labels: { style: { colors: colour('soft') }, formatter: (y: number) => String(Math.round(y)) },
            title: { text: phrase('crew.fillFilled'), style: { color: colour('soft'), fontWeight: 400 } },
          },
          legend: { show: series.length > 1, position: 'top', labels: { colors: colour('ink') } },
          tooltip: { enabled: false },
        }}
      />
    </chakra.figure>
  );
}
