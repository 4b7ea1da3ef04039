import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { proposalsContract } from '#contract/proposals.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { Facts } from '#web/kit/Facts.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Note } from '#web/kit/Note.tsx';
import { say } from '#web/kit/toast.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

/** Who proposed the event from outside and what they had in mind, with what is answered them. */
export function Proposed({ page }: { page: EventPage }) {
  const { proposal } = page;
  const { at } = useSaying();
  const [deciding, setDeciding] = useState<'take' | 'decline' | null>(null);
  if (!proposal) return null;
  const { contactId, name, email, phone, about, wishes, state } = proposal;
  const facts = (
    <Facts
      of={[
        [
          phrase('event.proposalWho'),
          contactId ? (
            <TextLink key="who" to={`/contacts/${contactId}`}>
              {name}
            </TextLink>
          ) : (
            name
          ),
        ],
        [phrase('common.email'), email],
        [phrase('event.proposalPhone'), phone],
        [phrase('event.proposalWishes'), wishes],
        [
          phrase('event.proposalAbout'),
          <chakra.span key="about" whiteSpace="pre-line">
            {about}
          </chakra.span>,
        ],
      ]}
    />
  );
  if (state !== 'new')
    return (
      <chakra.details margin="4px 0 10px">
        <chakra.summary cursor="pointer" color="soft">
          {state === 'taken'
            ? phrase('event.outsideTaken', { name, who: proposal.decidedBy ?? '' })
            : phrase('event.outsideWasDeclined', { name, who: proposal.decidedBy ?? '' })}
        </chakra.summary>
        {facts}
      </chakra.details>
    );
  return (
    <Note tone="need" role="region" aria-label={phrase('event.outsideProposal')}>
      <p>
        <b>{phrase('event.outsideProposedBy', { name, when: at(proposal.proposedAt) })}</b>
      </p>
      {facts}
      <div className="acts">
        <Button look="main" onClick={() => setDeciding('take')}>
          {phrase('event.outsideTakeUp')}
        </Button>
        <Button onClick={() => setDeciding('decline')}>{phrase('event.outsideDecline')}</Button>
      </div>
      {deciding && <Deciding page={page} take={deciding === 'take'} close={() => setDeciding(null)} />}
    </Note>
  );
}

function Deciding({ page, take, close }: { page: EventPage; take: boolean; close: () => void }) {
  const form = useForm({
    values: { words: '' },
    request: ({ words }) =>
      prepare(proposalsContract, 'POST /api/events/:id/proposal', {
        params: { id: page.id },
        body: { take, words },
      }),
    after: () => {
      say(phrase(take ? 'event.outsideTakenUp' : 'event.outsideDeclined'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      title={phrase(take ? 'event.outsideTakeUpTitle' : 'event.outsideDeclineTitle')}
      submit={phrase(take ? 'event.outsideTakeUp' : 'event.outsideDecline')}
      look={take ? 'main' : 'stop'}
      close={close}
    >
      <p>
        {phrase(take ? 'event.outsideTakeUpText' : 'event.outsideDeclineText', {
          name: page.proposal?.name ?? '',
        })}
      </p>
      <LongText form={form} name="words" label={phrase('event.proposalWords')} rows={4} />
    </FormDialog>
  );
}
