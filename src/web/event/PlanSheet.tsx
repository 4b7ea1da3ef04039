import { chakra } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { factFlags } from '#core/clearance/rules.ts';
import { moveTimes } from '#core/events/dated.ts';
import { remarksOnSchedule } from '#core/events/schedule.ts';
import { shiftDate } from '#core/time/dates.ts';
import { sayConsequence } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { SeveralOf, Tick } from '../kit/Choosing.tsx';
import { ChoiceField, Field, Group, TextField } from '../kit/Field.tsx';
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
    change(moveTimes({ ...plan, startsLocal: lastStart.current }, startsLocal));
  };
  const remarks = plan.startsLocal
    ? remarksOnSchedule(plan, today).join('; ')
    : date
      ? `${sayConsequence(date, today)}; give the time it begins`
      : '';
  const venue = choices?.venues.find((v) => v.id === plan.venueId);
  return (
    <>
      <div className="spread">
        <h2>Plan</h2>
        <chakra.span role="status" className={standing === 'not saved' ? 'late' : 'soft'} fontSize="13.5px">
          {standing === 'saved' ? 'Saved' : standing === 'saving' ? 'Saving …' : 'Not saved yet'}
        </chakra.span>
      </div>
      {page.copiedFrom && (
        <chakra.details fontSize="14px" margin="4px 0 10px">
          <summary className="soft">A copy of {page.copiedFrom.title}. What was left behind</summary>
          <chakra.ul margin="4px 0" paddingLeft="18px">
            {page.copiedFrom.leftBehind.map((l) => (
              <li key={l}>{l}</li>
            ))}
          </chakra.ul>
        </chakra.details>
      )}
      <Problems of={problem} />
      {problem && standing === 'not saved' && (
        <p>
          <Button onClick={draft.again}>Save again</Button>
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
          label="Public title"
          value={plan.publicTitle}
          set={(publicTitle) => change({ publicTitle })}
          error={wrong.publicTitle}
        />
        <div className="pair">
          <TextField
            label="Team title"
            value={plan.teamTitle}
            set={(teamTitle) => change({ teamTitle })}
            help="Only you see it."
          />
          <TextField
            label="Public address"
            value={plan.slug ?? ''}
            set={(slug) => change({ slug: slug || null })}
            error={wrong.slug}
            help={`/e/${plan.slug ?? '…'}`}
          />
          <ChoiceField
            label="Unit"
            value={plan.unitId ?? ''}
            set={(unitId) => change({ unitId: unitId || null })}
            choices={(choices?.units ?? []).map((u) => ({ value: u.id, label: u.name }))}
            empty="none"
          />
          <TextField label="Category" value={plan.category} set={(category) => change({ category })} />
        </div>
        <chakra.h3 margin="8px 0 6px">When and where</chakra.h3>
        <div className="pair">
          <TextField
            label="Date"
            type="date"
            value={date}
            set={(d) => setStart({ date: d })}
            consequence={remarks}
            error={wrong.startsLocal}
          />
          <TextField
            label="Time zone"
            value={plan.zone}
            set={(zone) => change({ zone })}
            error={wrong.zone}
          />
          <TextField label="Begins" type="time" value={from} set={(t) => setStart({ from: t })} />
          <TextField
            label="Doors"
            type="time"
            value={doors}
            set={(t) => change({ doorsLocal: join(date, t) })}
            error={wrong.doorsLocal}
          />
          <TextField
            label="Ends"
            type="time"
            value={to}
            set={(t) => change({ endsLocal: join(endDate || date, t) })}
            error={wrong.endsLocal}
          />
          <TextField
            label="Ends on"
            type="date"
            value={endDate}
            set={(d) => to && change({ endsLocal: join(d, to) })}
          />
          <TextField
            label="Registration closes"
            type="date"
            value={closeDate}
            set={(d) => change({ registrationClosesLocal: join(d, close || from) })}
            error={wrong.registrationClosesLocal}
            help={plan.registrationClosesLocal ? '' : 'Empty means at the end of the event.'}
          />
          <TextField
            label="Closes at"
            type="time"
            value={close}
            set={(t) => change({ registrationClosesLocal: join(closeDate || date, t) })}
          />
        </div>
        {date && to && endDate === date && `${to}` <= from && (
          <chakra.p marginBottom="12px">
            <Button onClick={() => change({ endsLocal: join(shiftDate(date, 1), to) })}>
              It ends at {to} the next day
            </Button>
          </chakra.p>
        )}
        <div className="pair">
          <ChoiceField
            label="Place"
            value={plan.venueId ?? ''}
            set={(venueId) => change({ venueId: venueId || null })}
            choices={(choices?.venues ?? []).map((v) => ({ value: v.id, label: v.name }))}
            empty="told later"
            consequence={venue?.capacity ? `holds ${venue.capacity}` : ''}
          />
          <TextField
            label="Capacity"
            type="number"
            value={plan.capacity === null ? '' : String(plan.capacity)}
            set={(v) => change({ capacity: v === '' ? null : Number(v) })}
            error={wrong.capacity}
            help="Seats in all; empty means no limit."
          />
          <ChoiceField
            label="Who may see it"
            value={plan.visibility}
            set={(v) => change({ visibility: v as 'everyone' })}
            choices={[
              { value: 'everyone', label: 'everyone' },
              { value: 'link', label: 'anyone with the link' },
            ]}
          />
          <Group label="Listing">
            <Tick checked={plan.listed} set={(listed) => change({ listed })}>
              shown in the list of coming events
            </Tick>
          </Group>
        </div>
        <TextField
          label="Summary"
          value={plan.summary}
          set={(summary) => change({ summary })}
          help="One sentence for the listing."
          error={wrong.summary}
        />
        <Field label="Description" help="Leave a blank line between paragraphs.">
          {(props) => (
            <textarea
              {...props}
              rows={5}
              value={plan.description}
              onChange={(e) => change({ description: e.target.value })}
            />
          )}
        </Field>
        <TextField
          label="Draws"
          value={plan.draws.join(', ')}
          set={(v) =>
            change({
              draws: v
                .split(',')
                .map((d) => d.trimStart())
                .filter((d, at, all) => d || at === all.length - 1),
            })
          }
          help="What attracts people, separated by commas: free food, childcare, step-free access."
        />
      </chakra.div>
      <OffersEditor offers={plan.offers} set={(offers) => change({ offers })} wrong={wrong} />
      <QuestionsEditor questions={plan.questions} set={(questions) => change({ questions })} wrong={wrong} />
      <div className="form">
        <chakra.h3 margin="18px 0 6px">Safety and waiver</chakra.h3>
        <SeveralOf
          label="What applies"
          value={plan.flags}
          set={(flags) => change({ flags })}
          choices={Object.entries(factFlags)
            .filter(([flag]) => flag !== 'money')
            .map(([value, label]) => ({ value, label }))}
        />
        <ChoiceField
          label="Waiver"
          value={plan.waiverId ?? ''}
          set={(waiverId) => change({ waiverId: waiverId || null })}
          // Newest first: of each title the newest version, and the one that is asked for now.
          choices={(choices?.waivers ?? [])
            .filter((w, at, all) => w.id === plan.waiverId || all[at - 1]?.title !== w.title)
            .map((w) => ({
              value: w.id,
              label: `${w.title}, version ${w.version} (${w.audience})`,
            }))}
          empty="none is asked"
        />
      </div>
      <SurveyEditor survey={plan.survey} set={(survey) => change({ survey })} />
    </>
  );
}
