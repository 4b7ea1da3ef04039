import { chakra } from '@chakra-ui/react';
import { lazy, Suspense, useLayoutEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { Navigate, useLocation, useParams } from 'react-router';
import type { PublicEvent } from '#contract/publicEvent.ts';
import { inLanguage } from '#core/events/french.ts';
import { lookFrom, type PageLook } from '#core/events/look.ts';
import { useAsk } from './asking.ts';
import { useCameBy, useCounted } from './cameBy.ts';
import { Asked, Giving, Help, More, Story, Tickets, Top, WhenAndWhere } from './eventParts.tsx';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { PaidIn } from './saying.ts';

// Only where an event has one: most have none, and load nothing of it.
const Agenda = lazy(() => import('./Agenda.tsx'));
const Registering = lazy(() => import('./booking/Register.tsx').then((m) => ({ default: m.Registering })));
const hasAgenda = ({ agenda }: PublicEvent): boolean =>
  agenda.call !== null || [agenda.sessions, agenda.speakers, agenda.sponsors].some((list) => list.length > 0);

/** One event: what, when, where, what it costs, and the way in. The counts are of now. */
export function EventView() {
  const { slug = '' } = useParams();
  const { invited } = useCameBy(slug);
  useCounted(slug, 'seen');
  return (
    <Loaded
      of={useAsk(
        'GET /api/public/events/:slug',
        { slug },
        { everyMs: 20_000, ...(invited ? { query: { invited } } : {}) },
      )}
    >
      {(event) =>
        event.slug === slug ? <Shown event={event} /> : <Navigate to={`/e/${event.slug}`} replace />
      }
    </Loaded>
  );
}

/** Light or dark, where the page does not leave it to the reader's device. */
function useTheme(theme: PageLook['theme']): void {
  useLayoutEffect(() => {
    const root = document.documentElement;
    if (theme !== 'reader') root.dataset.theme = theme;
    return () => {
      delete root.dataset.theme;
    };
  }, [theme]);
}

/** The page of an event, in its style; a preview leads nowhere yet, and may be asked for in another style. */
export const Shown = (props: { event: PublicEvent; preview?: boolean }) => (
  <PaidIn value={props.event.currency}>
    <Styled {...props} />
  </PaidIn>
);

function Styled({ event: whole, preview = false }: { event: PublicEvent; preview?: boolean }) {
  // Read anew when another language is chosen.
  useTranslation();
  const event = inLanguage(whole, language());
  const { search } = useLocation();
  const { style, theme } = preview ? lookFrom(new URLSearchParams(search), whole.look) : whole.look;
  useTheme(theme);
  const parts = { event, preview };
  const top = <Top {...parts} englishOnly={language() === 'fr' && !whole.french} />;
  const agenda = hasAgenda(event) && (
    <Suspense>
      <Agenda {...parts} />
    </Suspense>
  );
  const rest = (
    <>
      <Asked event={event} />
      <More {...parts} />
      <Giving {...parts} />
      <Help {...parts} />
    </>
  );
  if (style === 'programme')
    return (
      <>
        {top}
        <WhenAndWhere event={event} />
        {agenda}
        <Tickets {...parts} />
        <Story event={event} />
        {rest}
      </>
    );
  if (style === 'essentials')
    return (
      <chakra.div
        data-wide
        display={{ md: 'grid' }}
        gridTemplateColumns="minmax(0, 1fr) minmax(0, 1fr)"
        gap="0 44px"
        alignItems="start"
      >
        <div>
          {top}
          <WhenAndWhere event={event} />
        </div>
        <div>
          {preview || event.registerAt || event.registration === 'closed' ? (
            <Tickets {...parts} />
          ) : (
            <Suspense>
              <Registering event={whole} within />
            </Suspense>
          )}
        </div>
        <chakra.div gridColumn="1 / -1">
          <Story event={event} />
          {agenda}
          {rest}
        </chakra.div>
      </chakra.div>
    );
  return (
    <>
      {top}
      <WhenAndWhere event={event} />
      <Story event={event} />
      {agenda}
      <Tickets {...parts} />
      {rest}
    </>
  );
}
