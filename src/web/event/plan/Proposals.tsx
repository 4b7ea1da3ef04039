import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { agendaContract, type SessionProposal } from '#contract/agenda.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { FormDialog } from '../../kit/form/FormDialog.tsx';
import { LongText } from '../../kit/form/fields.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { say } from '../../kit/toast.tsx';
import { Person } from '../../parts/Person.tsx';

/** Sessions that people proposed, side by side: taken into the agenda, or declined. */
export function Proposals({ of }: { of: readonly SessionProposal[] }) {
  const [deciding, setDeciding] = useState<{ of: SessionProposal; accept: boolean } | null>(null);
  const open = of.filter((p) => p.state === 'new');
  const decided = of.filter((p) => p.state !== 'new');
  return (
    <chakra.section aria-label={phrase('event.proposals')} marginTop="16px">
      <h4>{phrase('event.proposalsOpen', { n: open.length })}</h4>
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
                aria-label={phrase('event.takeInNamed', { title: p.title })}
                onClick={() => setDeciding({ of: p, accept: true })}
              >
                {phrase('event.takeIn')}
              </Button>
              <Button
                look="plain"
                aria-label={phrase('event.declineNamed', { title: p.title })}
                onClick={() => setDeciding({ of: p, accept: false })}
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
      {deciding && <Decide {...deciding} close={() => setDeciding(null)} />}
    </chakra.section>
  );
}

/** Says what is about to happen, and takes what one wants to say to who proposed it. */
function Decide({
  of: { id, title, speakerName },
  accept,
  close,
}: {
  of: SessionProposal;
  accept: boolean;
  close: () => void;
}) {
  const form = useForm({
    values: { words: '' },
    request: ({ words }) =>
      prepare(agendaContract, 'POST /api/session-proposals/:id/decide', {
        params: { id },
        body: { accept, words },
      }),
    after: () => {
      say(phrase(accept ? 'event.proposalTaken' : 'event.proposalDeclined'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      title={phrase(accept ? 'event.takeInNamed' : 'event.declineNamed', { title })}
      submit={phrase(accept ? 'event.takeIn' : 'event.decline')}
      close={close}
    >
      <p>{phrase(accept ? 'event.takeInWill' : 'event.declineWill', { name: speakerName })}</p>
      <LongText form={form} name="words" label={phrase('event.wordsTo', { name: speakerName })} rows={3} />
    </FormDialog>
  );
}
