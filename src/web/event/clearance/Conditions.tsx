import { chakra } from '@chakra-ui/react';
import type { Condition } from '#contract/clearance.ts';
import { sayShortDate } from '#core/time/say.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../../kit/Button.tsx';
import { Problems } from '../../kit/notices.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction } from '../../parts/ask.ts';
import { useSaying } from '../../parts/saying.ts';

/** The conditions under which a plan was cleared: who sees to each, by when, and whether it is met. */
export function Conditions({ conditions }: { conditions: readonly Condition[] }) {
  const { day, today } = useSaying();
  const meet = useAction('POST /api/clearance-conditions/:id/met', () => say(phrase('common.saved')));
  if (!conditions.length) return null;
  return (
    <section aria-label={phrase('clearance.conditions')}>
      <chakra.h3 marginTop="18px">{phrase('clearance.conditions')}</chakra.h3>
      <Problems of={meet.problem} />
      <ul className="lines">
        {conditions.map((c) => (
          <li key={c.id}>
            <div className="spread">
              <span>
                <chakra.span textDecoration={c.metAt ? 'line-through' : 'none'}>{c.what}</chakra.span>{' '}
                <chakra.span className="soft" fontSize="14px">
                  {[
                    phrase('clearance.setBy', { step: c.step }),
                    c.owner,
                    !c.metAt && c.blocks && phrase('clearance.opensAfter'),
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </chakra.span>
                {c.dueOn && !c.metAt && (
                  <chakra.span className={c.dueOn < today ? 'late' : 'soft'} fontSize="14px">
                    {' '}
                    · {phrase('clearance.by', { date: sayShortDate(c.dueOn, true) })}
                  </chakra.span>
                )}
                {c.metAt && (
                  <chakra.span display="block" fontSize="14px">
                    {phrase('clearance.metBy', { at: day(c.metAt), who: c.metBy ?? '' })}
                    {c.metWords && <>: “{c.metWords}”</>}
                  </chakra.span>
                )}
              </span>
              {(c.mayMeet || c.mayReopen) && (
                <Button
                  look="plain"
                  disabled={meet.isPending}
                  onClick={() => meet.mutate({ params: { id: c.id }, body: { met: c.mayMeet } })}
                >
                  {phrase(c.mayMeet ? 'clearance.met' : 'clearance.notMet')}
                </Button>
              )}
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
