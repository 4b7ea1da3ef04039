import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { Link, Navigate, useParams } from 'react-router';
import type { EventPage as Page } from '#contract/events.ts';
import { topicsOfEvent } from '#contract/topics.ts';
import type { Stage } from '#core/events/states.ts';
import { sayDistance } from '#core/time/distance.ts';
import { sayRange, sayShortDate, sayZone } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { addressOf, type Key } from '#web/api.ts';
import { Button, ButtonAnchor, ButtonLink } from '#web/kit/Button.tsx';
import { makeAsking } from '#web/topics.ts';
import { phrase } from '#web/words/phrase.ts';
import { Note } from '../kit/Note.tsx';
import { Loaded, Loading } from '../kit/notices.tsx';
import { useAhead, useAsk } from '../parts/ask.ts';
import { StateWord } from '../parts/marks.tsx';
import { PaidIn, useSaying } from '../parts/saying.ts';
import { HeldChanges } from './changes/HeldChanges.tsx';
import { LastChange } from './changes/LastChange.tsx';
import { LessonsBefore, useLessonsBefore } from './LessonsBefore.tsx';
import { StateActions } from './StateActions.tsx';
import { stageTitles } from './stageTitles.ts';

const spineLook: SystemStyleObject = {
  padding: '12px 6px 24px 18px',
  fontSize: '13px',
  '& ol': {
    listStyle: 'none',
    margin: 0,
    padding: '0 0 0 16px',
    borderLeft: '1px solid var(--rule)',
  },
  '& .stage': {
    fontFamily: 'var(--title)',
    fontSize: '15px',
    margin: '12px 0 2px',
    position: 'relative',
    display: 'block',
    color: 'var(--ink)',
  },
  '& .stage::before': {
    content: '""',
    position: 'absolute',
    left: '-21px',
    top: '7px',
    width: '9px',
    height: '9px',
    background: 'var(--paper)',
    border: '1.5px solid var(--slate)',
    transform: 'rotate(45deg)',
  },
  '& .stage.done::before': {
    background: 'var(--slate)',
  },
  '& .stage[aria-current="page"]': {
    fontWeight: 600,
    color: 'var(--verdigris)',
  },
  '& .stage[aria-current="page"]::before': {
    borderColor: 'var(--verdigris)',
    background: 'var(--verdigris)',
  },
  '& .pin': {
    position: 'relative',
    padding: '1px 0',
    color: 'var(--soft)',
    display: 'flex',
    gap: '8px',
  },
  '& .pin b': {
    fontWeight: 500,
    color: 'var(--ink)',
    width: '48px',
    flex: 'none',
    fontVariantNumeric: 'tabular-nums',
  },
  '& .pin::before': {
    content: '""',
    position: 'absolute',
    left: '-19px',
    top: '10px',
    width: '6px',
    height: '1px',
    background: 'var(--rule)',
  },
  '& .pin.late, & .pin.late b': {
    color: 'var(--madder)',
  },
  '& .today': {
    margin: '7px 0 7px -16px',
    borderTop: '1.5px solid var(--verdigris)',
    color: 'var(--verdigris)',
    fontWeight: 600,
    padding: '1px 0 0 16px',
  },
  '@media (max-width: 900px)': {
    padding: 0,
    overflowX: 'auto',
    borderBottom: '1px solid var(--line)',
    '& ol': {
      display: 'flex',
      border: 0,
      padding: '0 14px',
      gap: '18px',
    },
    '& .pin, & .today, & .stage::before': {
      display: 'none',
    },
    '& .stage': {
      margin: '8px 0',
      whiteSpace: 'nowrap',
    },
  },
  '@media print': {
    display: 'none',
  },
};

const eventLook: SystemStyleObject = {
  display: 'grid',
  gridTemplateColumns: '212px minmax(0, 1fr) 256px',
  flex: 1,
  '@media (max-width: 900px)': {
    display: 'block',
  },
};
const sheetLook: SystemStyleObject = {
  background: 'var(--sheet)',
  border: '1px solid var(--line)',
  borderWidth: '0 1px',
  padding: '16px 20px 32px',
  minWidth: 0,
};

/** How each stage is loaded, and what it asks of its event first. */
const loads = {
  plan: () => import('./plan/PlanSheet.tsx'),
  clearance: () => import('./clearance/ClearanceSheet.tsx'),
  registration: () => import('./registration/RegistrationSheet.tsx'),
  crew: () => import('./crew/CrewSheet.tsx'),
  messages: () => import('./messages/MessagesSheet.tsx'),
  doors: () => import('./DoorsSheet.tsx'),
  'wrap-up': () => import('./WrapUpSheet.tsx'),
} as const;
const asks = {
  plan: [],
  clearance: ['GET /api/events/:id/clearance'],
  registration: ['GET /api/events/:id/registrations'],
  crew: ['GET /api/events/:id/crew'],
  messages: ['GET /api/events/:id/messages'],
  doors: ['GET /api/events/:id/doors'],
  'wrap-up': ['GET /api/events/:id/figures'],
} as const satisfies Record<Stage, readonly Key[]>;
const sheets = {
  plan: lazy(loads.plan),
  clearance: lazy(loads.clearance),
  registration: lazy(loads.registration),
  crew: lazy(loads.crew),
  messages: lazy(loads.messages),
  doors: lazy(loads.doors),
  'wrap-up': lazy(loads['wrap-up']),
} as const;

/** Fetches a stage when somebody points at it, so that it stands there when they come. */
function useStageAhead(id: string) {
  const ahead = useAhead();
  return (stage: Stage) => {
    void loads[stage]();
    for (const key of asks[stage]) ahead(key, { params: { id } });
  };
}
/** One event: the spine to the left, the stage being worked on, and what should be known or settled to the right. */
export default function EventPage() {
  const { id = '', stage = 'plan' } = useParams();
  const page = useAsk('GET /api/events/:id', { params: { id } });
  useChanges(id);
  return (
    <Loaded of={page}>
      {(p) =>
        // Whoever may not see a stage lands on the first they may.
        (p.may.see as readonly string[]).includes(stage) ? (
          <PaidIn value={p.plan.currency}>
            <Shown page={p} stage={stage as Stage} key={p.id} />
          </PaidIn>
        ) : (
          <Navigate to={`/events/${id}/${p.may.see[0]}`} replace />
        )
      }
    </Loaded>
  );
}

/** Asks everything shown again when the server says that something about the event changed. */
function useChanges(id: string): void {
  const client = useQueryClient();
  useEffect(() => {
    const stream = new EventSource(addressOf('GET /api/events/:id/stream', { id }));
    stream.addEventListener('changed', makeAsking(client, topicsOfEvent));
    return () => stream.close();
  }, [client, id]);
}

function Shown({ page, stage }: { page: Page; stage: Stage }) {
  const [marginOpen, setMarginOpen] = useState(false);
  const lessons = useLessonsBefore(page, stage);
  const remarks = page.margin.length + lessons.length;
  const { today } = useSaying();
  const { plan } = page;
  const Sheet = sheets[stage];
  return (
    <chakra.div css={eventLook}>
      <Spine page={page} stage={stage} />
      {remarks > 0 && (
        <Button
          display={{ base: 'inline-flex', lg: 'none' }}
          margin="8px 14px"
          onClick={() => setMarginOpen(!marginOpen)}
          aria-expanded={marginOpen}
        >
          {phrase('event.marginNotesCount', { count: remarks })}
        </Button>
      )}
      <chakra.section css={sheetLook} aria-label={stageTitles[stage]}>
        <div className="head">
          <div>
            <h1>{plan.publicTitle || plan.teamTitle || phrase('event.untitled')}</h1>
            <div className="soft">
              {plan.startsLocal
                ? `${sayRange(plan.startsLocal, plan.endsLocal)} ${sayZone(plan.zone)}`
                : phrase('event.noDateYet')}
              {plan.startsLocal && <span>, {sayDistance(today, plan.startsLocal.slice(0, 10))}</span>}
              <br />
              {[page.venue?.name ?? phrase('event.venueToBeAnnounced'), page.unitName]
                .filter(Boolean)
                .join(' · ')}
            </div>
          </div>
          <chakra.div className="acts" justifyContent={{ base: 'flex-start', lg: 'flex-end' }}>
            <StateWord state={page.isTemplate ? 'template' : page.state} />
            {page.publicUrl && (
              <ButtonAnchor href={`/e/${plan.slug}`} target="_blank" rel="noreferrer">
                {phrase('event.publicPage')}
              </ButtonAnchor>
            )}
            {page.may.change.includes('plan') && <StateActions page={page} />}
          </chakra.div>
        </div>
        <LastChange eventId={page.id} of={page} may={page.may.change.includes('plan')} />
        {page.may.change.includes('plan') && <HeldChanges page={page} />}
        <Suspense fallback={<Loading />}>
          <Sheet page={page} />
        </Suspense>
      </chakra.section>
      <aside className={`margin ${marginOpen ? 'open' : ''}`} aria-label={phrase('event.marginNotes')}>
        {remarks === 0 && <p className="soft">{phrase('event.nothingIsMissingHere')}</p>}
        <LessonsBefore page={page} stage={stage} lessons={lessons} />
        {page.margin.map((n, at) => (
          <Note key={at} tone={n.tone}>
            <p>
              {n.headline && <b>{n.headline} </b>}
              {n.text}
            </p>
            {n.action?.stage && n.action.stage !== stage && (
              <ButtonLink to={`/events/${page.id}/${n.action.stage}`}>{n.action.label}</ButtonLink>
            )}
          </Note>
        ))}
      </aside>
    </chakra.div>
  );
}

/** Every dated thing about the event in order, with its stages as the way around. */
function Spine({ page, stage }: { page: Page; stage: Stage }) {
  const { zone } = page.plan;
  const { spine } = page;
  const ahead = useStageAhead(page.id);
  const strip = useRef<HTMLElement>(null);
  // As a strip it is wider than a phone: the stage one is at is brought into it.
  useEffect(() => {
    const here = strip.current?.querySelector<HTMLElement>(`a[href$="/${stage}"]`);
    if (strip.current && here)
      strip.current.scrollLeft = here.offsetLeft - (strip.current.clientWidth - here.offsetWidth) / 2;
  }, [stage]);
  return (
    <chakra.nav ref={strip} position="relative" css={spineLook} aria-label={phrase('event.stages')}>
      <ol>
        {spine.stages.map((s, n) => (
          <li key={s.stage}>
            {page.may.see.includes(s.stage) ? (
              <Link
                className={`stage ${s.standing === 'done' ? 'done' : ''}`}
                to={`/events/${page.id}/${s.stage}`}
                aria-current={s.stage === stage ? 'page' : undefined}
                title={`${stageTitles[s.stage]} (${n + 1})`}
                onPointerEnter={() => ahead(s.stage)}
                onFocus={() => ahead(s.stage)}
              >
                {stageTitles[s.stage]}
              </Link>
            ) : (
              <span className="stage soft">{stageTitles[s.stage]}</span>
            )}
            {s.pins.map((pin, at) => (
              <div key={`${pin.at}${pin.text}`}>
                {spine.today?.stage === s.stage && spine.today.afterPins === at && (
                  <div className="today">{spine.today.text}</div>
                )}
                <div className={`pin ${pin.late ? 'late' : ''}`}>
                  <b>{sayShortDate(wallOf(pin.at, zone))}</b>
                  <span>{pin.text}</span>
                </div>
              </div>
            ))}
            {spine.today?.stage === s.stage && spine.today.afterPins >= s.pins.length && (
              <div className="today">{spine.today.text}</div>
            )}
          </li>
        ))}
      </ol>
    </chakra.nav>
  );
}
