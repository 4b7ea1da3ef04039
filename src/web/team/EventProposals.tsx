import { chakra } from '@chakra-ui/react';
import { proposalsContract } from '#contract/proposals.ts';
import type { Answer } from '#web/api.ts';
import { Toggle } from '#web/kit/Choosing.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';

type Opening = Answer<'GET /api/event-proposals'>;

/** Whether anybody may propose an event, on a public page, and what they are told there. */
export function EventProposals() {
  const opening = useAsk('GET /api/event-proposals').data;
  return (
    opening && (
      <chakra.section marginTop="18px" aria-label={phrase('team.proposals')}>
        <h2>{phrase('team.proposals')}</h2>
        <Shown opening={opening} />
      </chakra.section>
    )
  );
}

function Shown({ opening }: { opening: Opening }) {
  const { open, words } = opening;
  const set = useAction('PUT /api/event-proposals', (_, sent) =>
    say(phrase(sent?.body.open ? 'team.proposalsOpened' : 'team.proposalsClosed')),
  );
  return (
    <>
      <Problems of={set.problem} />
      <Toggle checked={open} disabled={set.isPending} set={(on) => set.mutate({ body: { open: on, words } })}>
        {phrase('team.proposalsOpen')}
      </Toggle>
      <chakra.p color="soft">
        {open ? (
          <>
            {phrase('team.proposalsAt')}{' '}
            <a href="/propose" target="_blank" rel="noreferrer">
              {`${location.origin}/propose`}
            </a>
          </>
        ) : (
          phrase('team.proposalsOff')
        )}
      </chakra.p>
      {open && <Words opening={opening} />}
    </>
  );
}

function Words({ opening: { words } }: { opening: Opening }) {
  const form = useForm({
    values: { en: words.en, fr: words.fr ?? '' },
    request: (words) =>
      prepare(proposalsContract, 'PUT /api/event-proposals', { body: { open: true, words } }),
    fieldOf: (path) => path.replace('words.', ''),
    after: () => say(phrase('common.saved')),
  });
  return (
    <Form form={form} submit={phrase('common.save')}>
      <LongText form={form} name="en" label={phrase('team.proposalsWords')} rows={3} />
      <LongText form={form} name="fr" label={phrase('team.proposalsWordsFr')} rows={3} />
    </Form>
  );
}
