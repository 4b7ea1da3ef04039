import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '#web/kit/Field.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { SlideOver } from '#web/kit/SlideOver.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { Person } from '#web/parts/Person.tsx';
import { phrase } from '#web/words/phrase.ts';

type Swap = Answer<'GET /api/events/:id/swaps'>['swaps'][number];

/** The shortest reason for letting people change places all the same, in characters. */
const shortest = 3;

/** The swaps that people wished for and that work out, to let them or not; and the wishes that nothing fits yet. */
export function Swaps({ eventId, close }: { eventId: string; close: () => void }) {
  const params = { id: eventId };
  const asked = useAsk('GET /api/events/:id/swaps', { params });
  const decline = useAction('POST /api/events/:id/swaps/decline', () => say(phrase('crew.swapIsDeclined')));
  return (
    <SlideOver open close={close} label={phrase('crew.swaps')}>
      <chakra.div padding="18px 20px">
        <div className="spread">
          <h2>{phrase('crew.swaps')}</h2>
          <Button look="plain" onClick={close}>
            {phrase('common.close')}
          </Button>
        </div>
        <Problems of={decline.problem} />
        <Loaded of={asked}>
          {({ swaps, wishes }) => (
            <>
              <p className="soft">{phrase('crew.swapsMean')}</p>
              {swaps.length === 0 && <Empty>{phrase('crew.noSwaps')}</Empty>}
              {swaps.map((swap) => (
                <OneSwap
                  key={swap.moves.map((m) => m.assignmentId).join(' ')}
                  swap={swap}
                  eventId={eventId}
                  declining={decline.isPending}
                  decline={() =>
                    decline.mutate({
                      params,
                      body: { assignmentIds: swap.moves.map((m) => m.assignmentId) },
                    })
                  }
                />
              ))}
              {wishes.length > 0 && (
                <>
                  <h3>{phrase('crew.swapOpen')}</h3>
                  <ul className="lines">
                    {wishes.map((w) => (
                      <chakra.li key={w.assignmentId} className="spread" alignItems="flex-start">
                        <span>
                          <Person id={w.contactId} name={w.name} />
                          <chakra.small display="block">{w.fromWords}</chakra.small>
                          <chakra.small className="soft" display="block">
                            {phrase('crew.swapFor', { shifts: w.wants.join(' · ') })}
                          </chakra.small>
                        </span>
                        <Button
                          look="link"
                          color="madder"
                          flexShrink={0}
                          aria-label={phrase('crew.declineNamed', { name: w.name })}
                          disabled={decline.isPending}
                          onClick={() =>
                            decline.mutate({ params, body: { assignmentIds: [w.assignmentId] } })
                          }
                        >
                          {phrase('crew.decline')}
                        </Button>
                      </chakra.li>
                    ))}
                  </ul>
                </>
              )}
            </>
          )}
        </Loaded>
      </chakra.div>
    </SlideOver>
  );
}

function OneSwap({
  swap: { moves, leaves },
  eventId,
  declining,
  decline,
}: {
  swap: Swap;
  eventId: string;
  declining: boolean;
  decline: () => void;
}) {
  const [reason, setReason] = useState('');
  const swap = useAction('POST /api/events/:id/swaps', () =>
    say(phrase('crew.swapIsDone', { n: moves.length })),
  );
  const against = moves.flatMap((m) => m.against);
  const never = against.some((x) => x.absolute);
  return (
    <chakra.section
      borderTop="1px solid"
      borderColor="line"
      padding="10px 0"
      aria-label={moves.map((m) => m.name).join(', ')}
    >
      <ul className="lines">
        {moves.map((m) => (
          <li key={m.assignmentId}>
            <Person id={m.contactId} name={m.name} />
            <chakra.small display="block">{m.toWords}</chakra.small>
            <chakra.small className="soft" display="block">
              {phrase('crew.stepFrom', { shift: m.fromWords })}
            </chakra.small>
            {m.against.map((x) => (
              <chakra.small key={x.kind} className="need" display="block">
                {x.text}
              </chakra.small>
            ))}
          </li>
        ))}
      </ul>
      {leaves && <p className="need">{phrase('crew.swapLeaves', { shift: leaves })}</p>}
      {never && <p className="need">{phrase('crew.neverOverridden')}</p>}
      {against.length > 0 && !never && (
        <TextField
          label={phrase('event.reasonForOverriding')}
          help={phrase('event.theReasonIsKept')}
          value={reason}
          set={setReason}
        />
      )}
      <Problems of={swap.problem} />
      <div className="acts">
        <Button
          look="main"
          disabled={swap.isPending || never || (against.length > 0 && reason.trim().length < shortest)}
          onClick={() =>
            swap.mutate({
              params: { id: eventId },
              body: {
                moves: moves.map(({ assignmentId, to }) => ({ assignmentId, to })),
                overrideReason: reason.trim(),
              },
            })
          }
        >
          {phrase(moves.length > 1 ? 'crew.letSwap' : 'crew.letMove')}
        </Button>
        <Button look="plain" disabled={declining} onClick={decline}>
          {phrase('crew.declineSwap')}
        </Button>
      </div>
    </chakra.section>
  );
}
