import { chakra } from '@chakra-ui/react';
import { lazy, Suspense, useState } from 'react';
import { useNavigate } from 'react-router';
import { sayFigure } from '#core/outcomes/measure.ts';
import { sayTrend } from '#core/outcomes/sayTrend.ts';
import { sayShortDate } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';

import { Button, TextLink } from '#web/kit/Button.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk, useMe } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { GoalBar } from './GoalBar.tsx';
import { Goals } from './Goals.tsx';
import type { Shown } from './initiative.ts';

type Brought = Shown['events'][number];

const GoalChart = lazy(() => import('./GoalChart.tsx'));

/** One initiative: where each goal stands by day and is heading, and what each event brought. */
export function InitiativePage({ id }: { id: string }) {
  const initiative = useAsk('GET /api/initiatives/:id', { params: { id } });
  const [changing, setChanging] = useState(false);
  const roles = useMe().data?.staff.roles ?? [];
  const may = roles.some((r) => r === 'coordinator' || r === 'treasurer');
  return (
    <Loaded of={initiative}>
      {(i) => (
        <>
          <p>
            <TextLink to="/records?show=initiatives">{phrase('initiatives.title')}</TextLink>
          </p>
          <div className="spread">
            <h2>{i.name}</h2>
            {may && !changing && (
              <Button onClick={() => setChanging(true)}>
                {phrase(i.goals.length ? 'initiatives.changeGoals' : 'initiatives.setGoals')}
              </Button>
            )}
          </div>
          {i.about && <p className="soft">{i.about}</p>}
          {changing ? (
            <Goals of={i} close={() => setChanging(false)} />
          ) : (
            i.goals.length === 0 && <p className="soft">{phrase('initiatives.noGoals')}</p>
          )}
          <chakra.div
            display="grid"
            gridTemplateColumns={{ base: 'minmax(0,1fr)', md: 'repeat(auto-fit, minmax(420px, 1fr))' }}
            gap="18px 32px"
            marginTop="10px"
          >
            {i.goals.map((goal) => (
              <section key={goal.id}>
                <div className="spread">
                  <h3>{readTexts(goal.name, 'en')}</h3>
                  <span className="num">
                    {goal.value === null ? '' : sayFigure(goal.value, goal)}
                    <span className="soft"> / {sayFigure(goal.target, goal)}</span>
                  </span>
                </div>
                <GoalBar goal={goal} />
                <p>{sayTrend(goal)}</p>
                {goal.days.length > 1 && (
                  <Suspense fallback={<chakra.div height="200px" />}>
                    <GoalChart goal={goal} today={i.today} />
                  </Suspense>
                )}
              </section>
            ))}
          </chakra.div>
          <Events of={i} />
          {may && <Widget of={i} />}
        </>
      )}
    </Loaded>
  );
}

function Events({ of }: { of: Shown }) {
  const navigate = useNavigate();
  const columns: Column<Brought>[] = [
    {
      id: 'on',
      phone: 'bare',
      heading: phrase('common.date'),
      width: '110px',
      sortBy: (e) => e.on ?? '',
      cell: (e) => e.on && `${sayShortDate(e.on)} ${e.on.slice(0, 4)}`,
    },
    {
      id: 'title',
      phone: 'title',
      heading: phrase('common.event'),
      sortBy: (e) => e.title.toLowerCase(),
      cell: (e) => <span className="name">{e.title}</span>,
      total: (shown) => phrase('initiatives.nEvents', { n: shown.length }),
    },
    ...of.goals.map(
      (goal): Column<Brought> => ({
        id: goal.id,
        heading: readTexts(goal.name, 'en'),
        number: true,
        sortBy: (e) => e.brought[goal.id] ?? 0,
        cell: (e) => {
          const brought = e.brought[goal.id];
          return brought === null || brought === undefined ? '' : sayFigure(brought, goal);
        },
      }),
    ),
  ];
  return (
    <>
      <chakra.h3 marginTop="22px">{phrase('initiatives.events')}</chakra.h3>
      <Table
        label={phrase('initiatives.events')}
        rows={of.events}
        columns={columns}
        keyOf={(e) => e.id}
        open={(e) => navigate(`/events/${e.id}/wrap-up?see=outcomes`)}
        empty={phrase('initiatives.noEvents')}
      />
    </>
  );
}

/** The progress of an initiative for other web pages. */
function Widget({ of }: { of: Shown }) {
  const set = useAction('PUT /api/initiatives/:id/widget', ({ widget }) =>
    say(phrase(widget ? 'initiatives.widgetStarted' : 'initiatives.widgetStopped')),
  );
  return (
    <chakra.section marginTop="22px">
      <h3>{phrase('initiatives.widget')}</h3>
      <p className="soft">{phrase(of.widget ? 'initiatives.widgetCode' : 'initiatives.widgetHelp')}</p>
      {of.widget && (
        <chakra.pre
          overflowX="auto"
          fontSize="13px"
          padding="6px 0"
          whiteSpace="pre-wrap"
          overflowWrap="anywhere"
        >
          {`<iframe src="${of.widget}" title="${of.name.replaceAll('"', '&quot;')}" width="100%" height="${80 + of.goals.length * 62}" style="border:0"></iframe>`}
        </chakra.pre>
      )}
      <Problems of={set.problem} />
      <div className="acts">
        {of.widget && (
          <a href={of.widget} target="_blank" rel="noopener">
            {phrase('initiatives.see')}
          </a>
        )}
        <Button
          look={of.widget ? 'plain' : 'normal'}
          disabled={set.isPending}
          onClick={() => set.mutate({ params: { id: of.id }, body: { on: !of.widget } })}
        >
          {phrase(of.widget ? 'initiatives.widgetOff' : 'initiatives.widgetOn')}
        </Button>
      </div>
    </chakra.section>
  );
}
