import { chakra } from '@chakra-ui/react';
import { sayFigure } from '#core/outcomes/measure.ts';
import { sayTrend } from '#core/outcomes/sayTrend.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Answer } from '#web/api.ts';
import { TextLink } from '#web/kit/Button.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { GoalBar } from './GoalBar.tsx';
import { InitiativePage } from './InitiativePage.tsx';

type Initiative = Answer<'GET /api/initiatives'>[number];

/** Longer undertakings with where their goals stand; one of them opened. */
export function Initiatives({ id }: { id: string }) {
  return id ? <InitiativePage id={id} /> : <All />;
}

function All() {
  return (
    <Loaded of={useAsk('GET /api/initiatives')}>
      {(all) =>
        all.length === 0 ? (
          <Empty>{phrase('initiatives.none')}</Empty>
        ) : (
          all.map((one) => <One key={one.id} initiative={one} />)
        )
      }
    </Loaded>
  );
}

function One({ initiative }: { initiative: Initiative }) {
  const { id, name, about, events, goals } = initiative;
  return (
    <chakra.section borderTop="1px solid" borderColor="line" padding="12px 0 14px">
      <div className="spread">
        <h2>
          <TextLink to={`/records?show=initiatives&id=${id}`}>{name}</TextLink>
        </h2>
        <span className="soft num">{phrase('initiatives.nEvents', { n: events })}</span>
      </div>
      {about && <p className="soft">{about}</p>}
      {goals.length === 0 && <p className="soft">{phrase('initiatives.noGoals')}</p>}
      <chakra.div
        display="grid"
        gridTemplateColumns={{ base: 'minmax(0,1fr)', md: 'repeat(auto-fill, minmax(340px, 1fr))' }}
        gap="14px 28px"
        marginTop="8px"
      >
        {goals.map((goal) => (
          <div key={goal.id}>
            <div className="spread">
              <b>{readTexts(goal.name, 'en')}</b>
              <span className="num">
                {goal.value === null ? '' : sayFigure(goal.value, goal)}
                <span className="soft"> / {sayFigure(goal.target, goal)}</span>
              </span>
            </div>
            <GoalBar goal={goal} />
            <chakra.p fontSize="14px">{sayTrend(goal)}</chakra.p>
          </div>
        ))}
      </chakra.div>
    </chakra.section>
  );
}
