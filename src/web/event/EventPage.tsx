import { chakra } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Link, Navigate, useParams } from 'react-router';
import type { EventPage as Page } from '#contract/events.ts';
import { topicsOfEvent } from '#contract/topics.ts';
import type { Stage } from '#core/events/states.ts';
import { sayDistance, sayRange, sayShortDate, sayZone } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { addressOf, type Key } from '#web/api.ts';
import { Button, ButtonAnchor, ButtonLink } from '#web/kit/Button.tsx';
import { askAnew } from '#web/topics.ts';
import { Note } from '../kit/Note.tsx';
import { Loaded, Loading } from '../kit/notices.tsx';
import { useAhead, useAsk } from '../parts/ask.ts';
import { StateWord } from '../parts/marks.tsx';
import { useSaying } from '../parts/saying.ts';
import { StateActions } from './StateActions.tsx';

/** How each stage is loaded, and what it asks of its event first. */
const loads = {
  plan: () => import('./PlanSheet.tsx'),
  clearance: () => import('./ClearanceSheet.tsx'),
  registration: () => import('./RegistrationSheet.tsx'),
  crew: () => import('./CrewSheet.tsx'),
  messages: () => import('./MessagesSheet.tsx'),
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
const stageTitles: Record<Stage, string> = {
  plan: 'Plan',
  clearance: 'Clearance',
  registration: 'Registration',
  crew: 'Crew',
  messages: 'Messages',
  doors: 'Doors',
  'wrap-up': 'Wrap-up',
};

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
          <Shown page={p} stage={stage as Stage} key={p.id} />
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
    stream.addEventListener('changed', () => void askAnew(client, topicsOfEvent, false));
    return () => stream.close();
  }, [client, id]);
}

function Shown({ page, stage }: { page: Page; stage: Stage }) {
  const [marginOpen, setMarginOpen] = useState(false);
  const { today } = useSaying();
  const { plan } = page;
  const Sheet = sheets[stage];
  return (
    <div className="event">
      <Spine page={page} stage={stage} />
      <Button
        display={{ base: 'inline-flex', lg: 'none' }}
        margin="8px 14px"
        onClick={() => setMarginOpen(!marginOpen)}
        aria-expanded={marginOpen}
      >
        {page.margin.length} margin {page.margin.length === 1 ? 'note' : 'notes'}
      </Button>
      <section className="sheet" aria-label={stageTitles[stage]}>
        <div className="head">
          <div>
            <h1>{plan.publicTitle || plan.teamTitle || 'Untitled'}</h1>
            <div className="soft">
              {plan.startsLocal
                ? `${sayRange(plan.startsLocal, plan.endsLocal)} ${sayZone(plan.zone)}`
                : 'No date yet'}
              {plan.startsLocal && <span>, {sayDistance(today, plan.startsLocal.slice(0, 10))}</span>}
              <br />
              {[page.venue?.name ?? 'Venue to be announced', page.unitName].filter(Boolean).join(' · ')}
            </div>
          </div>
          <chakra.div className="acts" justifyContent="flex-end">
            <StateWord state={page.isTemplate ? 'template' : page.state} />
            {page.publicUrl && (
              <ButtonAnchor href={`/e/${plan.slug}`} target="_blank" rel="noreferrer">
                Public page
              </ButtonAnchor>
            )}
            {page.may.change.includes('plan') && <StateActions page={page} />}
          </chakra.div>
        </div>
        <Suspense fallback={<Loading />}>
          <Sheet page={page} />
        </Suspense>
      </section>
      <aside className={`margin ${marginOpen ? 'open' : ''}`} aria-label="Margin notes">
        {page.margin.length === 0 && <p className="soft">Nothing is missing here.</p>}
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
    </div>
  );
}

/** Every dated thing about the event in order, with its stages as the way around. */
function Spine({ page, stage }: { page: Page; stage: Stage }) {
  const { zone } = page.plan;
  const { spine } = page;
  const ahead = useStageAhead(page.id);
  return (
    <nav className="spine" aria-label="Stages">
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
    </nav>
  );
}
