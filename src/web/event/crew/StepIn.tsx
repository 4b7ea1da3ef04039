import { chakra } from '@chakra-ui/react';
import type { CrewShift } from '#contract/crew.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button } from '#web/kit/Button.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';

/** Who steps in on a shift with the fewest changes to other people, seen before anybody is moved. */
export function StepIn({ shift, close }: { shift: CrewShift; close: () => void }) {
  const params = { id: shift.id };
  const repair = useAsk('GET /api/shifts/:id/repair', { params });
  const steps = repair.data?.steps ?? null;
  const put = useAction('POST /api/shifts/:id/repair', () => {
    say(phrase('crew.stepIsDone', { role: shift.role }));
    close();
  });
  return (
    <Asking
      open
      close={close}
      title={phrase('crew.stepIn')}
      actions={
        steps && (
          <Button
            look="main"
            disabled={put.isPending}
            onClick={() =>
              put.mutate({
                params,
                body: { steps: steps.map(({ contactId, to, from }) => ({ contactId, to, from })) },
              })
            }
          >
            {phrase('crew.stepDo', { n: steps.length })}
          </Button>
        )
      }
    >
      <Problems of={put.problem} />
      <Loaded of={repair}>
        {({ steps }) =>
          steps === null ? (
            <p>{phrase('crew.stepNobody')}</p>
          ) : (
            <>
              <p className="soft">{phrase('crew.stepMeans')}</p>
              <ul className="lines">
                {steps.map((s) => (
                  <li key={s.contactId}>
                    <span className="name">{s.name}</span>: {s.toWords}
                    {s.from && (
                      <chakra.small className="need" display="block">
                        {phrase('crew.stepFrom', { shift: s.fromWords })}
                      </chakra.small>
                    )}
                  </li>
                ))}
              </ul>
            </>
          )
        }
      </Loaded>
    </Asking>
  );
}
