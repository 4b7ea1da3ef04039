import { chakra } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import { moveTimes } from '#core/events/dated.ts';
import { remarksOnSchedule } from '#core/events/schedule.ts';
import { shiftDate } from '#core/time/dates.ts';
import { sayConsequence } from '#core/time/distance.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { TextField } from '../../kit/Field.tsx';
import { Note } from '../../kit/Note.tsx';
import { useSaying } from '../../parts/saying.ts';
import type { SectionProps } from './section.ts';

/** When it is. Of a start, date and time are given both; neither is ever filled in. */
export function When({ draft: { plan, change, wrong }, page }: SectionProps) {
  const { today } = useSaying();
  // Of a start that has no time yet, or no date, the half that is there is kept here.
  const [half, setHalf] = useState({ date: '', from: '' });
  const [startDate = '', startTime = ''] = (plan.startsLocal ?? '').split('T');
  const { date, from } = plan.startsLocal ? { date: startDate, from: startTime } : half;
  const lastStart = useRef(plan.startsLocal);
  const [endDate = '', to = ''] = (plan.endsLocal ?? '').split('T');
  const [, doors = ''] = (plan.doorsLocal ?? '').split('T');
  const [closeDate = '', close = ''] = (plan.registrationClosesLocal ?? '').split('T');
  const join = (d: string, t: string) => (d && t ? `${d}T${t}` : null);
  const setStart = (part: Partial<typeof half>) => {
    const next = { date, from, ...part };
    setHalf(next);
    const startsLocal = join(next.date, next.from);
    // A date that is typed anew was empty for a moment: the distances are those to the date before.
    if (plan.startsLocal) lastStart.current = plan.startsLocal;
    // The times alone: nothing else of the plan was typed.
    const { endsLocal, doorsLocal, registrationClosesLocal } = plan;
    change(
      moveTimes(
        { startsLocal: lastStart.current, endsLocal, doorsLocal, registrationClosesLocal },
        startsLocal,
      ),
    );
  };
  const remarks = plan.startsLocal
    ? remarksOnSchedule(plan, today).join('; ')
    : date
      ? phrase('event.giveTheTimeIt', { date: sayConsequence(date, today) })
      : '';
  return (
    <>
      {page.waits && (
        <Note as="p" tone="know">
          {phrase(page.isTemplate ? 'event.keptAroundADate' : 'event.waitsForADate', {
            time: page.waits.startsLocal.slice(11),
            n: page.waits.shifts,
          })}
        </Note>
      )}
      <div className="pair">
        {!page.isTemplate && (
          <>
            <TextField
              label={phrase('common.date')}
              type="date"
              value={date}
              set={(d) => setStart({ date: d })}
              consequence={remarks}
              error={wrong.startsLocal}
            />
            <TextField
              label={phrase('event.begins')}
              type="time"
              value={from}
              set={(t) => setStart({ from: t })}
            />
            <TextField
              label={phrase('event.doors')}
              type="time"
              value={doors}
              set={(t) => change({ doorsLocal: join(date, t) })}
              error={wrong.doorsLocal}
            />
            <TextField
              label={phrase('event.ends')}
              type="time"
              value={to}
              set={(t) => change({ endsLocal: join(endDate || date, t) })}
              error={wrong.endsLocal}
            />
            <TextField
              label={phrase('event.endsOn')}
              type="date"
              value={endDate}
              set={(d) => to && change({ endsLocal: join(d, to) })}
            />
            <TextField
              label={phrase('event.registrationCloses')}
              type="date"
              value={closeDate}
              set={(d) => change({ registrationClosesLocal: join(d, close || from) })}
              error={wrong.registrationClosesLocal}
              help={plan.registrationClosesLocal ? '' : phrase('event.emptyMeansAtThe')}
            />
            <TextField
              label={phrase('event.closesAt')}
              type="time"
              value={close}
              set={(t) => change({ registrationClosesLocal: join(closeDate || date, t) })}
            />
          </>
        )}
        <TextField
          label={phrase('common.timeZone')}
          value={plan.zone}
          set={(zone) => change({ zone })}
          error={wrong.zone}
        />
      </div>
      {date && to && endDate === date && `${to}` <= from && (
        <chakra.p marginBottom="12px">
          <Button onClick={() => change({ endsLocal: join(shiftDate(date, 1), to) })}>
            {phrase('event.itEndsAtThe', { to })}
          </Button>
        </chakra.p>
      )}
    </>
  );
}
