import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** Who was merged into this contact, and how to take that apart. */
export function Merges({ contact }: { contact: ContactRecord }) {
  const [asked, setAsked] = useState<string | null>(null);
  const { dayAndYear } = useSaying();
  const undo = useAction('POST /api/merges/:id/undo', ({ back, since, left }) => {
    setAsked(null);
    say(
      [
        phrase(since ? 'contacts.wentBackAndSince' : 'contacts.twoContactsAgainThings', { back, since }),
        left.join('; '),
      ]
        .filter(Boolean)
        .join(' '),
    );
  });
  const merge = contact.merges.find((m) => m.id === asked);
  if (!contact.merges.length) return null;
  return (
    <chakra.div fontSize="14px" marginTop="10px">
      {contact.merges.map((m) => (
        <p key={m.id}>
          <span className="soft">
            {phrase('contacts.wasMergedIntoThis', { name: m.name, actor: m.actor, at: dayAndYear(m.at) })}
          </span>{' '}
          <Button look="link" onClick={() => setAsked(m.id)}>
            {phrase('contacts.takeApart')}
          </Button>
        </p>
      ))}
      <Asking
        open={Boolean(merge)}
        close={() => setAsked(null)}
        title={phrase('contacts.makeAContactOf', { name: merge?.name ?? '' })}
        actions={
          <Button
            look="main"
            disabled={undo.isPending}
            onClick={() => merge && undo.mutate({ params: { id: merge.id } })}
          >
            {phrase('contacts.takeApart')}
          </Button>
        }
      >
        <Problems of={undo.problem} />
        <p>{phrase('contacts.everythingThatCameOver')}</p>
      </Asking>
    </chakra.div>
  );
}
