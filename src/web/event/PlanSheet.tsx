import { chakra } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { factFlags, sayFact } from '#core/clearance/rules.ts';
import { moveTimes } from '#core/events/dated.ts';
import { remarksOnSchedule } from '#core/events/schedule.ts';
import { shiftDate } from '#core/time/dates.ts';
import { sayConsequence } from '#core/time/distance.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { SeveralOf, Tick } from '../kit/Choosing.tsx';
import { ChoiceField, Group, LongField, TextField } from '../kit/Field.tsx';
import { Note } from '../kit/Note.tsx';
import { Problems } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { Clashes } from './Clashes.tsx';
import { OffersEditor, QuestionsEditor, SurveyEditor } from './PlanLists.tsx';
import { usePlanDraft } from './planDraft.ts';

/** What the event is: titles, time, place, tickets, questions, waiver, survey. Saved as typed. */
export default function PlanSheet({ page }: { page: EventPage }) {
  const draft = usePlanDraft(page);
  const { plan, change, standing, problem, effects, wrong } = draft;
  const choices = useAsk('GET /api/choices').data;
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
  // A start is saved only when both its date and its time were given; neither is ever filled in.
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
  const venue = choices?.venues.find((v) => v.id === plan.venueId);
  return (
    <>
      <div className="spread">
        <h2>{phrase('event.plan')}</h2>
        <chakra.span role="status" className={standing === 'not saved' ? 'late' : 'soft'} fontSize="13.5px">
          {standing === 'saved'
            ? phrase('common.saved')
            : standing === 'saving'
              ? phrase('event.saving')
              : phrase('event.notSavedYet')}
        </chakra.span>
      </div>
      {page.waits && (
        <Note as="p" tone="know">
          {phrase('event.waitsForADate', {
            time: page.waits.startsLocal.slice(11),
            n: page.waits.shifts,
          })}
        </Note>
      )}
      {page.copiedFrom && (
        <chakra.details fontSize="14px" margin="4px 0 10px">
          <summary className="soft">{phrase('event.aCopyOfWhat', { title: page.copiedFrom.title })}</summary>
          <chakra.ul margin="4px 0" paddingLeft="18px">
            {page.copiedFrom.leftBehind.map((l) => (
              <li key={l.text}>
                {l.text}
                {l.stage && (
                  <>
                    {' · '}
                    <TextLink to={`/events/${page.id}/${l.stage}`}>
                      {phrase(l.stage === 'crew' ? 'event.fillTheShifts' : 'event.sendForClearance')}
                    </TextLink>
                  </>
                )}
              </li>
            ))}
          </chakra.ul>
        </chakra.details>
      )}
      <Problems of={problem} />
      {problem && standing === 'not saved' && (
        <p>
          <Button onClick={draft.again}>{phrase('event.saveAgain')}</Button>
        </p>
      )}
      {Object.keys(wrong).length > 0 && (
        <div className="problems" role="alert">
          {[...new Set(Object.values(wrong))].map((message) => (
            <p key={message}>{message}</p>
          ))}
        </div>
      )}
      <Clashes draft={draft} />
      {effects.map((e) => (
        <Note as="p" key={e} tone="need">
          {e}
        </Note>
      ))}
      <chakra.div className="form" marginTop="10px">
        <TextField
          label={phrase('common.publicTitle')}
          value={plan.publicTitle}
          set={(publicTitle) => change({ publicTitle })}
          error={wrong.publicTitle}
        />
        <div className="pair">
          <TextField
            label={phrase('event.teamTitle')}
            value={plan.teamTitle}
            set={(teamTitle) => change({ teamTitle })}
            help={phrase('event.onlyYouSeeIt')}
          />
          <TextField
            label={phrase('event.publicAddress')}
            value={plan.slug ?? ''}
            set={(slug) => change({ slug: slug || null })}
            error={wrong.slug}
            help={`/e/${plan.slug ?? '…'}`}
          />
          <ChoiceField
            label={phrase('common.unit')}
            value={plan.unitId ?? ''}
            set={(unitId) => change({ unitId: unitId || null })}
            choices={(choices?.units ?? []).map((u) => ({ value: u.id, label: u.name }))}
            empty={phrase('event.none')}
          />
          <TextField
            label={phrase('event.category')}
            value={plan.category}
            set={(category) => change({ category })}
          />
        </div>
        <chakra.h3 margin="8px 0 6px">{phrase('event.whenAndWhere')}</chakra.h3>
        <div className="pair">
          <TextField
            label={phrase('common.date')}
            type="date"
            value={date}
            set={(d) => setStart({ date: d })}
            consequence={remarks}
            error={wrong.startsLocal}
          />
          <TextField
            label={phrase('common.timeZone')}
            value={plan.zone}
            set={(zone) => change({ zone })}
            error={wrong.zone}
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
        </div>
        {date && to && endDate === date && `${to}` <= from && (
          <chakra.p marginBottom="12px">
            <Button onClick={() => change({ endsLocal: join(shiftDate(date, 1), to) })}>
              {phrase('event.itEndsAtThe', { to })}
            </Button>
          </chakra.p>
        )}
        <div className="pair">
          <ChoiceField
            label={phrase('common.place')}
            value={plan.venueId ?? ''}
            set={(venueId) => change({ venueId: venueId || null })}
            choices={(choices?.venues ?? []).map((v) => ({ value: v.id, label: v.name }))}
            empty={phrase('event.toldLater')}
            consequence={venue?.capacity ? phrase('team.holds', { capacity: venue.capacity }) : ''}
          />
          <TextField
            label={phrase('common.capacity')}
            type="number"
            value={plan.capacity === null ? '' : String(plan.capacity)}
            set={(v) => change({ capacity: v === '' ? null : Number(v) })}
            error={wrong.capacity}
            help={phrase('event.seatsInAllEmpty')}
          />
          <ChoiceField
            label={phrase('event.whoMaySeeIt')}
            value={plan.visibility}
            set={(v) => change({ visibility: v as 'everyone' })}
            choices={[
              { value: 'everyone', label: term('everyone') },
              { value: 'link', label: phrase('event.anyoneWithTheLink') },
            ]}
          />
          <Group label={phrase('event.listing')}>
            <Tick checked={plan.listed} set={(listed) => change({ listed })}>
              {phrase('event.shownInTheList')}
            </Tick>
          </Group>
        </div>
        <TextField
          label={phrase('event.summary')}
          value={plan.summary}
          set={(summary) => change({ summary })}
          help={phrase('event.oneSentenceForThe')}
          error={wrong.summary}
        />
        <LongField
          label={phrase('event.description')}
          help={phrase('event.leaveABlankLine')}
          rows={5}
          value={plan.description}
          set={(description) => change({ description })}
        />
        <TextField
          label={phrase('event.draws')}
          value={plan.draws.join(', ')}
          set={(v) =>
            change({
              draws: v
                .split(',')
                .map((d) => d.trimStart())
                .filter((d, at, all) => d || at === all.length - 1),
            })
          }
          help={phrase('event.whatAttractsPeopleSeparated')}
        />
      </chakra.div>
      <OffersEditor offers={plan.offers} set={(offers) => change({ offers })} wrong={wrong} />
      <QuestionsEditor questions={plan.questions} set={(questions) => change({ questions })} wrong={wrong} />
      <div className="form">
        <chakra.h3 margin="18px 0 6px">{phrase('event.safetyAndWaiver')}</chakra.h3>
        <SeveralOf
          label={phrase('event.whatApplies')}
          value={plan.flags}
          set={(flags) => change({ flags })}
          choices={factFlags
            .filter((flag) => flag !== 'money')
            .map((code) => ({ value: code, label: sayFact({ code }) }))}
        />
        <ChoiceField
          label={phrase('event.waiver')}
          value={plan.waiverId ?? ''}
          set={(waiverId) => change({ waiverId: waiverId || null })}
          // Newest first: of each title the newest version, and the one that is asked for now.
          choices={(choices?.waivers ?? [])
            .filter((w, at, all) => w.id === plan.waiverId || all[at - 1]?.title !== w.title)
            .map((w) => ({
              value: w.id,
              label: phrase('event.version', {
                title: w.title,
                version: w.version,
                audience: term(w.audience),
              }),
            }))}
          empty={phrase('event.noneIsAsked')}
        />
      </div>
      <SurveyEditor survey={plan.survey} set={(survey) => change({ survey })} />
    </>
  );
}
