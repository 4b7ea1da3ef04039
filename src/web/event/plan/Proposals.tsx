import { chakra } from '@chakra-ui/react';
import type { SessionProposal } from '#contract/agenda.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Problems } from '../../kit/notices.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction } from '../../parts/ask.ts';
import { Person } from '../../parts/Person.tsx';

/** Sessions that people proposed, side by side: taken into the agenda, or declined. */
export function Proposals({ of }: { of: readonly SessionProposal[] }) {
  const decide = useAction('POST /api/session-proposals/:id/decide', (_, sent) =>
    say(phrase(sent?.body.accept ? 'event.proposalTaken' : 'event.proposalDeclined')),
  );
  const open = of.filter((p) => p.state === 'new');
  const decided = of.filter((p) => p.state !== 'new');
  return (
    <chakra.section aria-label={phrase('event.proposals')} marginTop="16px">
      <h4>{phrase('event.proposalsOpen', { n: open.length })}</h4>
      <Problems of={decide.problem} />
      <chakra.ul
        listStyleType="none"
        padding="0"
        display="grid"
        gridTemplateColumns="repeat(auto-fill, minmax(260px, 1fr))"
        gap="0 20px"
      >
        {open.map((p) => (
          <chakra.li key={p.id} padding="10px 0" borderTop="1px solid" borderColor="line">
            <chakra.p fontWeight="600" margin="0">
              {p.title}
            </chakra.p>
            <chakra.p margin="0 0 4px" className="soft">
              <Person id={p.contactId} name={p.speakerName} />
              {p.speakerLine && `, ${p.speakerLine}`} · {phrase('event.proposedMinutes', { n: p.minutes })}
            </chakra.p>
            <chakra.p whiteSpace="pre-line" margin="0 0 8px">
              {p.about}
            </chakra.p>
            <div className="acts">
              <Button
                disabled={decide.isPending}
                aria-label={phrase('event.takeInNamed', { title: p.title })}
                onClick={() => decide.mutate({ params: { id: p.id }, body: { accept: true } })}
              >
                {phrase('event.takeIn')}
              </Button>
              <Button
                look="plain"
                disabled={decide.isPending}
                aria-label={phrase('event.declineNamed', { title: p.title })}
                onClick={() => decide.mutate({ params: { id: p.id }, body: { accept: false } })}
              >
                {phrase('event.decline')}
              </Button>
            </div>
          </chakra.li>
        ))}
      </chakra.ul>
      {decided.length > 0 && (
        <chakra.details fontSize="14px">
          <chakra.summary className="soft" cursor="pointer">
            {phrase('event.proposalsDecided', { n: decided.length })}
          </chakra.summary>
          <ul className="lines">
            {decided.map((p) => (
              <li key={p.id}>
                {p.title} <span className="soft">{p.speakerName}</span>{' '}
                {phrase(p.state === 'accepted' ? 'event.takenInBy' : 'event.declinedBy', {
                  by: p.decidedBy ?? '',
                })}
              </li>
            ))}
          </ul>
        </chakra.details>
      )}
    </chakra.section>
  );
}
