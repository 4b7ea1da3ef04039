import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { CrewShift } from '#contract/crew.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayShortDate } from '#core/time/say.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button } from '#web/kit/Button.tsx';
import { Facts } from '#web/kit/Facts.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { SlideOver } from '#web/kit/SlideOver.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction } from '#web/parts/ask.ts';
import { Person } from '#web/parts/Person.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { importanceWords } from './crewWords.ts';
import { CorrectHours, Served } from './Served.tsx';
import { Stepping } from './Stepping.tsx';

type Assignment = CrewShift['assignments'][number];

/** One shift beside the board: what it is, who is on it and who asked for it, and what can be done. */
export function ShiftPanel({
  shift: s,
  zone,
  may,
  close,
  acts,
}: {
  shift: CrewShift;
  zone: string;
  /** Whether whoever looks may change it. */
  may: boolean;
  close: () => void;
  acts: Record<'assign' | 'stepIn' | 'change' | 'copy' | 'cut' | 'remove', () => void>;
}) {
  const { now } = useSaying();
  const [dropping, setDropping] = useState<Assignment | null>(null);
  const [correcting, setCorrecting] = useState<Assignment | null>(null);
  const state = useAction('POST /api/assignments/:id/state');
  const begun = s.startsAt <= now;
  const over = s.endsAt <= now;
  const mark = (a: Assignment, to: 'agreed' | 'dropped' | 'served' | 'missed', said?: string) =>
    state.mutate(
      { params: { id: a.id }, body: { state: to } },
      {
        onSuccess: () => {
          setDropping(null);
          if (said) say(said);
        },
      },
    );
  const asked = s.assignments.filter((a) => a.state === 'proposed');
  const on = s.assignments.filter((a) => a.state !== 'proposed');
  return (
    <SlideOver open close={close} label={s.role}>
      <chakra.div padding="18px 20px">
        <div className="spread">
          <h2>{[s.name, s.role].filter(Boolean).join(', ')}</h2>
          <Button look="plain" onClick={close}>
            {phrase('common.close')}
          </Button>
        </div>
        <Facts
          of={[
            [phrase('crew.when'), `${sayShortDate(s.startsLocal, true)} ${sayFromTo(s)}`],
            [phrase('common.place'), s.place],
            [
              phrase('crew.people'),
              s.least < s.wished
                ? phrase('crew.filledFromTo', { filled: s.filled, least: s.least, wished: s.wished })
                : phrase('crew.filledOf', { filled: s.filled, wished: s.wished }),
            ],
            [phrase('crew.importance'), importanceWords[s.importance]],
            [phrase('crew.lead'), s.leadId && <Person key="lead" id={s.leadId} name={s.lead ?? ''} />],
            [phrase('crew.briefing'), s.briefing],
            [phrase('crew.signUp'), phrase(s.publicSignUp ? 'crew.open' : 'crew.teamOnly')],
          ]}
        />
        {may && (
          <chakra.div className="acts" margin="12px 0">
            {!over && (
              <Button look="main" onClick={acts.assign}>
                {phrase('event.putSomebodyOn')}
              </Button>
            )}
            {!begun && s.filled < s.wished && (
              <Button onClick={acts.stepIn}>{phrase('crew.stepInWho')}</Button>
            )}
            <Button onClick={acts.change}>{phrase('common.change')}</Button>
            <Button onClick={acts.copy} title={phrase('crew.copyKey')}>
              {phrase('crew.copy')}
            </Button>
            <Button onClick={acts.cut} title={phrase('crew.cutKey')}>
              {phrase('crew.cut')}
            </Button>
            {s.assignments.length === 0 && (
              <Button look="stop" onClick={acts.remove}>
                {phrase('common.remove')}
              </Button>
            )}
          </chakra.div>
        )}
        <Problems of={dropping ? null : state.problem} />
        {asked.length > 0 && (
          <>
            <h3>{phrase('crew.askedForIt')}</h3>
            <ul className="lines">
              {asked.map((a) => (
                <chakra.li key={a.id} className="spread" alignItems="flex-start">
                  <span>
                    <Person id={a.contactId} name={a.name} />
                    {a.against.map((x) => (
                      <chakra.small key={x.kind} className="need" display="block">
                        {x.text}
                      </chakra.small>
                    ))}
                  </span>
                  {may && (
                    <chakra.span className="acts" fontSize="13.5px" flexShrink={0}>
                      <Button
                        look="link"
                        color="verdigris"
                        aria-label={phrase('crew.putOnNamed', { name: a.name })}
                        disabled={state.isPending}
                        onClick={() => mark(a, 'agreed', phrase('event.isOnTheShift', { name: a.name }))}
                      >
                        {phrase('crew.putOn')}
                      </Button>
                      <Button
                        look="link"
                        color="madder"
                        aria-label={phrase('crew.declineNamed', { name: a.name })}
                        disabled={state.isPending}
                        onClick={() => mark(a, 'dropped', phrase('crew.isDeclined', { name: a.name }))}
                      >
                        {phrase('crew.decline')}
                      </Button>
                    </chakra.span>
                  )}
                </chakra.li>
              ))}
            </ul>
          </>
        )}
        <h3>{phrase('crew.onIt')}</h3>
        {on.length === 0 && <p className="soft">{phrase('crew.nobodyOnIt')}</p>}
        <ul className="lines">
          {on.map((a) => (
            <chakra.li key={a.id} className="spread" alignItems="flex-start">
              <span>
                <Person id={a.contactId} name={a.name} />
                {a.quiet && <span className="late"> {sayReason(because(a.quiet))}</span>}
                {a.overrideReason && (
                  <chakra.small className="need" display="block">
                    {phrase('event.despiteAClash', { overrideReason: a.overrideReason })}
                  </chakra.small>
                )}
                <Served of={a} zone={zone} />
              </span>
              {may && (
                <chakra.span className="acts" fontSize="13.5px" flexShrink={0}>
                  {begun && a.state === 'agreed' && (
                    <>
                      <Button look="link" color="verdigris" onClick={() => mark(a, 'served')}>
                        {phrase('event.served')}
                      </Button>
                      <Button look="link" color="madder" onClick={() => mark(a, 'missed')}>
                        {phrase('event.missed')}
                      </Button>
                    </>
                  )}
                  {a.state === 'served' && (
                    <Button
                      look="link"
                      color="verdigris"
                      aria-label={phrase('crew.correctNamed', { name: a.name })}
                      onClick={() => setCorrecting(a)}
                    >
                      {phrase('crew.correct')}
                    </Button>
                  )}
                  {(a.state === 'served' || a.state === 'missed') && (
                    <Button look="link" color="soft" onClick={() => mark(a, 'agreed')}>
                      {phrase('event.takeBack')}
                    </Button>
                  )}
                  {!begun && (
                    <Button
                      look="link"
                      color="soft"
                      aria-label={phrase('event.takeOffNamed', { name: a.name, role: s.role })}
                      onClick={() => setDropping(a)}
                    >
                      {phrase('event.takeOff')}
                    </Button>
                  )}
                </chakra.span>
              )}
            </chakra.li>
          ))}
        </ul>
        {may && <Stepping shift={s} zone={zone} />}
      </chakra.div>
      {correcting && <CorrectHours of={correcting} close={() => setCorrecting(null)} />}
      {dropping && (
        <Asking
          open
          close={() => setDropping(null)}
          title={phrase('event.takeOffNamed', { name: dropping.name, role: s.role })}
          closeWords={phrase('event.keepOnShift')}
          actions={
            <Button
              look="stop"
              disabled={state.isPending}
              onClick={() =>
                mark(dropping, 'dropped', phrase('event.isOffTheShift', { name: dropping.name }))
              }
            >
              {phrase('event.takeOffNow')}
            </Button>
          }
        >
          <p>
            {phrase('event.takeOffSays', {
              when: `${sayShortDate(s.startsLocal)}, ${sayFromTo(s)}`,
              filled: s.filled - 1,
              wished: s.wished,
            })}
          </p>
          <p className="soft">{phrase('event.takeOffUntold')}</p>
          <Problems of={state.problem} />
        </Asking>
      )}
    </SlideOver>
  );
}
