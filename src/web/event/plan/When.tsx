import { chakra } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import type { EventPlan } from '#contract/plan.ts';
import { type EventTimes, eventTimes, moveTimes } from '#core/events/dated.ts';
import { remarksOnSchedule } from '#core/events/schedule.ts';
import { wholeDays } from '#core/events/shown.ts';
import { daysBetween, shiftDate } from '#core/time/dates.ts';
import { sayConsequence } from '#core/time/distance.ts';
import { sayTime } from '#core/time/say.ts';
import { instantOf, isZone, meaningOf, wallOf } from '#core/time/wallTime.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { OneOf, Tick } from '../../kit/Choosing.tsx';
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
  /** Whole days have their first and last day; with times again, the times are given anew. */
  const setAllDay = (allDay: boolean) => {
    if (allDay) change({ allDay, ...(date ? wholeDays(date, endDate || date) : {}) });
    else {
      setHalf({ date, from: '' });
      lastStart.current = null;
      change({ allDay, startsLocal: null, endsLocal: null, doorsLocal: null, registrationClosesLocal: null });
    }
  };
  const remarks = plan.startsLocal
    ? remarksOnSchedule(plan, today).join('; ')
    : date && !plan.allDay
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
              set={(d) =>
                plan.allDay
                  ? change(
                      d
                        ? wholeDays(
                            d,
                            plan.startsLocal ? shiftDate(endDate || d, date ? daysBetween(date, d) : 0) : d,
                          )
                        : { startsLocal: null, endsLocal: null, doorsLocal: null },
                    )
                  : setStart({ date: d })
              }
              consequence={remarks}
              error={wrong.startsLocal}
            />
            {plan.allDay ? (
              <TextField
                label={phrase('event.lastDay')}
                type="date"
                value={endDate}
                set={(d) => date && change(wholeDays(date, d || date))}
                error={wrong.endsLocal}
              />
            ) : (
              <>
                <TextField
                  label={phrase('event.begins')}
                  type="time"
                  value={from}
                  set={(t) => setStart({ from: t })}
                  consequence={plan.startsLocal ? whereOneIs(plan.startsLocal, plan.zone) : ''}
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
                  consequence={plan.startsLocal && !plan.endsLocal ? phrase('event.noEnd') : ''}
                />
                <TextField
                  label={phrase('event.endsOn')}
                  type="date"
                  value={endDate}
                  set={(d) => to && change({ endsLocal: join(d, to) })}
                />
              </>
            )}
            <TextField
              label={phrase('event.registrationCloses')}
              type="date"
              value={closeDate}
              set={(d) =>
                change({ registrationClosesLocal: join(d, close || (plan.allDay ? '23:59' : from)) })
              }
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
      {!plan.allDay && date && to && endDate === date && `${to}` <= from && (
        <chakra.p marginBottom="12px">
          <Button onClick={() => change({ endsLocal: join(shiftDate(date, 1), to) })}>
            {phrase('event.itEndsAtThe', { to: sayTime(`${date}T${to}`) })}
          </Button>
        </chakra.p>
      )}
      {!page.isTemplate && (
        <>
          <ClockChanges plan={plan} change={change} />
          <Tick checked={plan.allDay} set={setAllDay}>
            {phrase('event.allDay')}
          </Tick>
          {plan.endsLocal && (
            <Tick checked={!plan.showEnd} set={(hidden) => change({ showEnd: !hidden })}>
              {phrase('event.hideEnd')}
            </Tick>
          )}
          {plan.startsLocal && !page.seriesId && page.moves.length > 0 && (
            <chakra.p marginTop="6px">
              <TextLink to={`/season/series/new?event=${page.id}`}>
                {phrase('series.makeASeriesShort')}
              </TextLink>
            </chakra.p>
          )}
        </>
      )}
    </>
  );
}

/** The time where whoever looks is, where that is another. */
function whereOneIs(wall: string, zone: string): string {
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
  if (!isZone(zone)) return '';
  const there = wallOf(instantOf(wall, zone), own);
  return there === wall ? '' : phrase('event.ownTime', { time: sayTime(there) });
}

const titles: Record<keyof EventTimes, string> = {
  startsLocal: phrase('event.begins'),
  endsLocal: phrase('event.ends'),
  doorsLocal: phrase('event.doors'),
  registrationClosesLocal: phrase('event.registrationCloses'),
};

/** Asks about times that a clock change takes away or repeats: which other, or which of the two. */
function ClockChanges({ plan, change }: { plan: EventPlan; change: (part: Partial<EventPlan>) => void }) {
  if (!isZone(plan.zone) || plan.allDay) return null;
  return eventTimes.map((field) => {
    const wall = plan[field];
    const meaning = wall ? meaningOf(wall, plan.zone) : null;
    if (meaning?.kind === 'gap')
      return (
        <chakra.p key={field} marginBottom="12px" className="acts">
          {[meaning.before, meaning.after].map((other) => (
            <Button key={other} onClick={() => change({ [field]: other })}>
              {titles[field]}: {phrase('event.useTime', { time: sayTime(other) })}
            </Button>
          ))}
        </chakra.p>
      );
    if (meaning?.kind !== 'repeated' || !wall) return null;
    const second = plan.secondTime.includes(field);
    return (
      <OneOf
        key={field}
        label={phrase('event.whichOfTheTwo', { field: titles[field], time: sayTime(wall) })}
        value={second ? 'second' : 'first'}
        set={(which) =>
          change({
            secondTime:
              which === 'second'
                ? [...plan.secondTime.filter((f) => f !== field), field]
                : plan.secondTime.filter((f) => f !== field),
          })
        }
        choices={[
          { value: 'first', label: phrase('event.firstTime') },
          { value: 'second', label: phrase('event.secondTime') },
        ]}
      />
    );
  });
}
