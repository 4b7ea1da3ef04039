import { chakra } from '@chakra-ui/react';
import type { Clearance, ClearanceStep } from '#contract/clearance.ts';
import { sayShortDate } from '#core/time/say.ts';
import { inAList, phrase, term } from '#web/words/phrase.ts';
import { useSaying } from '../../parts/saying.ts';
import { Decide } from './Decide.tsx';

/** How a state of a step is marked, beside its word. */
const toneOf = (state: ClearanceStep['state']): string =>
  state.startsWith('cleared')
    ? 'live'
    : state === 'refused' || state === 'sent back'
      ? 'stop'
      : state === 'waiting' || state === 'not needed'
        ? ''
        : 'need';

/** One step: why it is needed, who decides it and by when, what was decided, and the decision of who may make it. */
export function Step({ step: s, people }: { step: ClearanceStep; people: Clearance['people'] }) {
  const { day } = useSaying();
  const open = !s.decidedAt && s.state !== 'not needed';
  const more = [
    s.asks,
    open &&
      (s.orphaned
        ? phrase('clearance.orphaned')
        : s.approver
          ? phrase('clearance.decides', { who: s.approver })
          : s.approves && phrase('clearance.decidesFor', { word: s.approves })),
    open && s.after.length > 0 && phrase('clearance.afterSteps', { steps: inAList(s.after) }),
    open && s.dueOn && phrase('clearance.wantedBy', { date: sayShortDate(s.dueOn, true) }),
    open && s.holdsUp && s.dueOn && phrase('clearance.holdsUp'),
    open && !s.holdsUp && s.dueOn && s.slack ? phrase('clearance.spare', { days: s.slack }) : null,
  ].filter(Boolean);
  return (
    <li>
      <div className="spread">
        <span>
          <chakra.span className="name" fontSize="16px">
            {s.step}
          </chakra.span>{' '}
          <span className="soft">{phrase('clearance.because', { because: s.because.join(', ') })}</span>
        </span>
        <span className={`word ${toneOf(s.state)}`}>{term(s.state)}</span>
      </div>
      <chakra.p className="soft" fontSize="14px">
        {more.join(' ')}
      </chakra.p>
      {s.decidedAt && (
        <chakra.p fontSize="14px">
          {s.decidedBy}, {day(s.decidedAt)}
          {s.words && <>: “{s.words}”</>}
        </chakra.p>
      )}
      {s.mayDecide && <Decide stepId={s.id} step={s.step} people={people} />}
    </li>
  );
}
