import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { Clearance } from '#contract/clearance.ts';
import type { EventPage } from '#contract/events.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Empty, Note } from '../../kit/Note.tsx';
import { Loaded } from '../../kit/notices.tsx';
import { useAsk } from '../../parts/ask.ts';
import { useSaying } from '../../parts/saying.ts';
import { Around } from './Around.tsx';
import { Conditions } from './Conditions.tsx';
import { Granting } from './Granting.tsx';
import { Papers } from './Papers.tsx';
import { SaidThere } from './Said.tsx';
import { Sending } from './Sending.tsx';
import { Step } from './Step.tsx';

const standingWords: Record<Clearance['standing'], string> = {
  'not sent': phrase('clearance.notSent'),
  'not needed': phrase('clearance.nobodyNeedsToBe'),
  'asked late': phrase('clearance.askedLate'),
  'under way': phrase('clearance.underWay'),
  cleared: phrase('clearance.cleared'),
  'sent back': phrase('clearance.sentBack'),
  refused: phrase('clearance.refused'),
};

/** In which section of the plan something that it lacks is put right. */
const sectionOfLack: Readonly<Record<string, string | undefined>> = {
  'no-title': 'titles',
  'no-slug': 'titles',
  'no-date': 'when',
  'date-passed': 'when',
  'place-taken-then': 'where',
  'over-the-place': 'where',
  'no-offer': 'offers',
  'facts-unanswered': 'safety',
};

/** Which steps the plan needs and why, by when it has to be sent, what was decided and what was said. */
export default function ClearanceSheet({ page }: { page: EventPage }) {
  const clearance = useAsk('GET /api/events/:id/clearance', { params: { id: page.id } });
  const [sending, setSending] = useState(false);
  const mayPlan = page.may.change.includes('clearance');
  return (
    <Loaded of={clearance}>
      {(c) => (
        <>
          <div className="spread">
            <h2>{standingWords[c.standing]}</h2>
            {page.state === 'draft' && mayPlan && (
              <Button look="main" onClick={() => setSending(true)} disabled={c.lacks.length > 0}>
                {phrase(c.submittedAt ? 'clearance.sendAgain' : 'clearance.send')}
              </Button>
            )}
          </div>
          <When c={c} draft={page.state === 'draft'} />
          {c.mayGrant && <Granting eventId={page.id} days={c.lateByDays} reason={c.lateReason} />}
          {page.state === 'draft' && c.lacks.length > 0 && (
            <Note tone="need" marginTop="12px">
              <p>
                <b>{phrase('clearance.before')}</b>
              </p>
              {c.lacks.map((l) => {
                const section = l.code && sectionOfLack[l.code];
                return (
                  <p key={l.text}>
                    {l.text}{' '}
                    {section && mayPlan && (
                      <TextLink to={`/events/${page.id}/plan#${section}`}>
                        {phrase('clearance.putRight')}
                      </TextLink>
                    )}
                  </p>
                );
              })}
            </Note>
          )}
          <chakra.p className="soft" marginTop="10px">
            {phrase('clearance.facts', {
              facts: c.facts.length ? c.facts.map((f) => f.text).join(' · ') : phrase('clearance.noFacts'),
            })}
          </chakra.p>
          <chakra.ul className="lines" marginTop="6px">
            {c.steps.map((s) => (
              <Step key={s.id} step={s} people={c.people} />
            ))}
          </chakra.ul>
          {c.steps.length === 0 && (
            <Empty>{phrase(page.state === 'draft' ? 'clearance.noRule' : 'clearance.noRuleAsked')}</Empty>
          )}
          {c.steps.some((s) => s.mayDecide) && <Around page={page} />}
          <Conditions conditions={c.conditions} />
          <Papers eventId={page.id} clearance={c} mayPlan={mayPlan} />
          <SaidThere eventId={page.id} clearance={c} mayPlan={mayPlan} />
          {sending && <Sending eventId={page.id} clearance={c} close={() => setSending(false)} />}
        </>
      )}
    </Loaded>
  );
}

/** By when it has to be sent, or when it was, and when it will be through. */
function When({ c, draft }: { c: Clearance; draft: boolean }) {
  const { day } = useSaying();
  const short = (date: string) => sayShortDate(date, true);
  const left = c.deadline?.daysLeft ?? 0;
  return (
    <>
      {c.submittedAt && (
        <p className="soft">
          {phrase(c.sentByMe ? 'clearance.sentByYou' : 'clearance.sent', { at: day(c.submittedAt) })}
          {c.sentByMe && c.standing === 'under way' && <>; {phrase('clearance.othersDecide')}</>}
          {c.lateByDays > 0 && (
            <span className="late">, {phrase('clearance.daysLate', { days: c.lateByDays })}</span>
          )}
          {c.lateByDays > 0 && c.granted?.by && <>, {phrase('clearance.letBy', { who: c.granted.by })}</>}
        </p>
      )}
      {c.coversSeries && <p className="soft">{phrase('clearance.coversSeries')}</p>}
      {c.coveredBy && (
        <p className="soft">
          {phrase('clearance.coveredBy')}{' '}
          <TextLink to={`/events/${c.coveredBy.id}/clearance`}>
            {c.coveredBy.startsLocal ? short(c.coveredBy.startsLocal) : ''}
          </TextLink>
        </p>
      )}
      {c.lateByDays > 0 && c.lateReason && !c.mayGrant && (
        <p className="soft">{phrase('clearance.lateBecause', { reason: c.lateReason })}</p>
      )}
      {draft && c.deadline && c.steps.length > 0 && (
        <p className={left < 0 ? 'late' : 'soft'}>
          <Phrase
            of="clearance.lastDayToSend"
            with={{
              date: <b className="num">{short(c.deadline.date)}</b>,
              daysLeft:
                left < 0
                  ? phrase('clearance.daysAgo', { days: -left })
                  : left === 0
                    ? phrase('clearance.today')
                    : phrase('clearance.daysLeft', { days: left }),
              why: c.deadline.why,
            }}
          />{' '}
          {c.expectedOn && phrase('clearance.sentToday', { date: short(c.expectedOn) })}
        </p>
      )}
      {!draft && c.expectedOn && (
        <p className={c.clearedBy && c.expectedOn > c.clearedBy ? 'late' : 'soft'}>
          {c.clearedBy
            ? phrase('clearance.expected', { date: short(c.expectedOn), by: short(c.clearedBy) })
            : phrase('clearance.expectedOnly', { date: short(c.expectedOn) })}
        </p>
      )}
    </>
  );
}
