import { chakra } from '@chakra-ui/react';
import { TextLink } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { useAsk } from '../parts/ask.ts';

const steps = [
  { to: '/season?begin=yes', does: phrase('desk.firstEvent'), why: phrase('desk.firstEventWhy') },
  { to: '/import', does: phrase('desk.firstContacts'), why: phrase('desk.firstContactsWhy') },
  { to: '/team/registers', does: phrase('desk.firstPlaces'), why: phrase('desk.firstPlacesWhy') },
  { to: '/team', does: phrase('desk.firstTeam'), why: phrase('desk.firstTeamWhy') },
];

/** What an organization that has no event yet begins with; nothing once it has one. */
export function FirstSteps() {
  const events = useAsk('GET /api/events').data;
  if (!events || events.length > 0) return null;
  return (
    <chakra.section marginTop="18px">
      <h2>{phrase('desk.begin')}</h2>
      <ol className="lines">
        {steps.map((step) => (
          <li key={step.to}>
            <TextLink to={step.to} className="name">
              {step.does}
            </TextLink>
            <chakra.p className="soft" fontSize="14px">
              {step.why}
            </chakra.p>
          </li>
        ))}
      </ol>
    </chakra.section>
  );
}
