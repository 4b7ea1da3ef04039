import { chakra } from '@chakra-ui/react';
import type { EventPage } from '#contract/events.ts';
import { ListViews } from '#web/kit/ListViews.tsx';
import { useAddress } from '#web/kit/useAddress.ts';
import { useMe } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { Figures } from './wrapup/Figures.tsx';
import { Lessons } from './wrapup/Lessons.tsx';
import { Outcomes } from './wrapup/Outcomes.tsx';
import { SurveyResults } from './wrapup/SurveyResults.tsx';
import { Thanks } from './wrapup/Thanks.tsx';

/** What of the wrap-up is looked at: what the event came to, what people said of it, what the next one should know. */
const views = [
  { value: 'figures', label: phrase('event.figures') },
  { value: 'outcomes', label: phrase('outcomes.title') },
  { value: 'survey', label: phrase('surveys.results') },
  { value: 'thanks', label: phrase('thanks.title') },
  { value: 'lessons', label: phrase('lessons.title') },
] as const;
type View = (typeof views)[number]['value'];

const usual = { see: '' };

/** What an event came to, and what was said of it. */
export default function WrapUpSheet({ page }: { page: EventPage }) {
  const [{ see }, put] = useAddress(usual);
  // Thanks go out in the name of the organization.
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const shown = views.filter((v) => v.value !== 'thanks' || coordinator);
  const view: View = shown.find((v) => v.value === see)?.value ?? 'figures';
  return (
    <>
      <chakra.div marginBottom="12px">
        <ListViews label={phrase('event.wrapUp')} value={view} set={(to) => put({ see: to })} views={shown} />
      </chakra.div>
      {view === 'figures' && <Figures eventId={page.id} />}
      {view === 'outcomes' && <Outcomes page={page} />}
      {view === 'survey' && <SurveyResults page={page} />}
      {view === 'thanks' && <Thanks page={page} />}
      {view === 'lessons' && <Lessons page={page} />}
    </>
  );
}
