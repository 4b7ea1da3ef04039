import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import { Button } from '#web/kit/Button.tsx';
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
      `Two contacts again: ${back} things went back${since ? `, and ${since} that came since` : ''}${left.length ? `. ${left.join('; ')}` : '.'}`,
    );
  });
  const merge = contact.merges.find((m) => m.id === asked);
  if (!contact.merges.length) return null;
  return (
    <chakra.div fontSize="14px" marginTop="10px">
      {contact.merges.map((m) => (
        <p key={m.id}>
          <span className="soft">
            {m.name} was merged into this contact by {m.actor}, {dayAndYear(m.at)}.
          </span>{' '}
          <Button look="link" onClick={() => setAsked(m.id)}>
            Take apart
          </Button>
        </p>
      ))}
      <Asking
        open={Boolean(merge)}
        close={() => setAsked(null)}
        title={`Make ${merge?.name ?? ''} a contact of their own again?`}
        actions={
          <Button
            look="main"
            disabled={undo.isPending}
            onClick={() => merge && undo.mutate({ params: { id: merge.id } })}
          >
            Take apart
          </Button>
        }
      >
        <Problems of={undo.problem} />
        <p>
          Everything that came over goes back, and this contact’s own fields become what they were unless they
          were changed since. What came since goes to the one whose first name it carries; all else stays
          here.
        </p>
      </Asking>
    </chakra.div>
  );
}
