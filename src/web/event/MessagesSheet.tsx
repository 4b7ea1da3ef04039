import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { changesContract } from '#contract/changes.ts';
import type { EventPage } from '#contract/events.ts';
import type { MessageStepPlan } from '#contract/plan.ts';
import { sayConsequences } from '#core/events/consequences.ts';
import { type Audience, sayAudience } from '#core/messages/audiences.ts';
import { mergeFields } from '#core/messages/merge.ts';
import { sayMoment, sayMomentAlone } from '#core/messages/moments.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, Count, LongText, Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { together } from '../parts/together.ts';
import { Message } from '../tray/Tray.tsx';

/** The message plan: per step who gets it and when, and who does not and why. */
export default function MessagesSheet({ page }: { page: EventPage }) {
  const steps = useAsk('GET /api/events/:id/messages', { params: { id: page.id } });
  const { at } = useSaying();
  const [open, setOpen] = useState<string | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  const [editing, setEditing] = useState<MessageStepPlan | null>(null);
  return (
    <Loaded of={steps}>
      {(list) => (
        <>
          <h2>{phrase('common.messages')}</h2>
          <p className="soft">{phrase('event.theyFollowTheMoments')}</p>
          <chakra.ul className="lines" marginTop="8px">
            {list.map((s) => (
              <li key={s.stepId}>
                <div className="spread">
                  <span>
                    <Button
                      look="link"
                      fontFamily="title"
                      color="inherit"
                      fontSize="16px"
                      aria-expanded={open === s.stepId}
                      onClick={() => setOpen(open === s.stepId ? null : s.stepId)}
                    >
                      {s.name}
                    </Button>{' '}
                    <span className="soft">
                      {phrase('event.to', {
                        when: s.when,
                        words: sayAudience(s.audience as Audience),
                      })}
                    </span>
                  </span>
                  <chakra.span className="num soft" fontSize="14px">
                    {[
                      s.planned && phrase('event.planned', { planned: s.planned }),
                      s.sent && phrase('event.nSent', { sent: s.sent }),
                    ]
                      .filter(Boolean)
                      .join(', ') || phrase('event.nobodyYet')}
                    {s.failed > 0 && (
                      <span className="late">, {phrase('event.failed', { failed: s.failed })}</span>
                    )}
                    {s.leftOut.length > 0 && `, ${phrase('event.getNone', { leftOut: s.leftOut.length })}`}
                  </chakra.span>
                </div>
                {s.firstAt && (
                  <chakra.p className="soft num" fontSize="13.5px">
                    {phrase('event.first', { firstAt: at(s.firstAt) })}
                  </chakra.p>
                )}
                {open === s.stepId && (
                  <chakra.div padding="6px 0 4px 14px" fontSize="14px">
                    {['draft', 'in clearance', 'cleared', 'open', 'closed'].includes(page.state) && (
                      <Button
                        onClick={() => setEditing(page.plan.messages.find((m) => m.id === s.stepId) ?? null)}
                      >
                        {phrase('event.changeTheText')}
                      </Button>
                    )}
                    <chakra.div className="table" maxHeight="300px" marginTop="6px">
                      <table>
                        <tbody>
                          {s.rows.map((r) => (
                            <tr key={r.id}>
                              <td>
                                <Person id={r.contactId} name={r.name} />
                              </td>
                              <td className="soft">{r.address}</td>
                              <td className={r.state === 'failed' ? 'late' : ''}>
                                {term(r.state)} {at(r.sentAt ?? r.plannedFor)}
                                {r.whyNot && `: ${r.whyNot}`}
                              </td>
                              <td className="n">
                                <Button look="link" color="verdigris" onClick={() => setMessage(r.id)}>
                                  {phrase('event.read')}
                                </Button>
                              </td>
                            </tr>
                          ))}
                          {together(s.leftOut, (r) => (r.contactId ? null : `${r.name} ${r.whyNot}`)).map(
                            ({ row: r, count }, n) => (
                              <tr key={`${r.name}${n}`}>
                                <td>
                                  {count > 1 ? (
                                    phrase('event.guestsNotNamedYet', { count })
                                  ) : (
                                    <Person id={r.contactId} name={r.name} />
                                  )}
                                </td>
                                <td className="soft">{phrase('event.getsNone')}</td>
                                <td className="soft" colSpan={2}>
                                  {r.whyNot}
                                </td>
                              </tr>
                            ),
                          )}
                        </tbody>
                      </table>
                    </chakra.div>
                  </chakra.div>
                )}
              </li>
            ))}
          </chakra.ul>
          {list.length === 0 && <Empty>{phrase('event.noMessageIsPlanned')}</Empty>}
          {message && <Message id={message} close={() => setMessage(null)} />}
          {editing && <EditStep page={page} step={editing} close={() => setEditing(null)} />}
        </>
      )}
    </Loaded>
  );
}

/** When a message goes out, and what it says. */
function EditStep({ page, step, close }: { page: EventPage; step: MessageStepPlan; close: () => void }) {
  const place = page.plan.messages.findIndex((m) => m.id === step.id);
  const form = useForm({
    values: {
      days: String(Math.abs(step.offsetDays)),
      minutes: String(Math.abs(step.offsetMinutes)),
      side: step.offsetDays < 0 || step.offsetMinutes < 0 ? 'before' : 'after',
      subject: { en: step.subject.en, fr: step.subject.fr ?? '' },
      body: { en: step.body.en, fr: step.body.fr ?? '' },
    },
    request: (v) =>
      prepare(changesContract, 'PATCH /api/events/:id', {
        params: { id: page.id },
        body: {
          version: page.version,
          change: {
            messages: page.plan.messages.map((m) =>
              m.id === step.id ? { ...m, ...offsetOf(v), subject: v.subject, body: v.body } : m,
            ),
          },
        },
      }),
    fieldOf: (path) =>
      path
        .replace(`change.messages.${place}.`, '')
        .replace('offsetDays', 'days')
        .replace('offsetMinutes', 'minutes'),
    after: ({ followed }) => {
      say([phrase('common.saved'), ...sayConsequences(followed, true)].join('; '));
      close();
    },
  });
  const moment = { moment: sayMomentAlone(step.moment) };
  const { offsetDays: days, offsetMinutes: minutes } = offsetOf(form.values);
  return (
    <FormDialog form={form} wide title={step.name} submit={phrase('common.save')} close={close}>
      <div className="pair">
        <Count form={form} name="days" label={phrase('event.days')} />
        <Count form={form} name="minutes" label={phrase('event.minutes')} />
        <Choose
          form={form}
          name="side"
          label={phrase('event.beforeOrAfter')}
          choices={[
            { value: 'before', label: phrase('event.beforeMoment', moment) },
            { value: 'after', label: phrase('event.afterMoment', moment) },
          ]}
        />
        <p className="soft">{sayMoment({ moment: step.moment, offset: { days, minutes } })}</p>
        <Text form={form} name="subject.en" label={phrase('event.subjectEnglish')} />
        <Text form={form} name="subject.fr" label={phrase('event.subjectFrench')} />
        <LongText form={form} name="body.en" label={phrase('event.textEnglish')} rows={9} />
        <LongText form={form} name="body.fr" label={phrase('event.textFrench')} rows={9} />
      </div>
      <chakra.p className="soft" fontSize="13.5px">
        {phrase('event.mergeFields', {
          mergeFields: Object.keys(mergeFields)
            .map((f) => `{{${f}}}`)
            .join(' '),
        })}
      </chakra.p>
    </FormDialog>
  );
}

/** What is typed as a distance to the moment: before it counts down. */
function offsetOf(v: { days: string; minutes: string; side: string }): {
  offsetDays: number;
  offsetMinutes: number;
} {
  const signed = (typed: string) => (v.side === 'before' ? -1 : 1) * Math.abs(Number(typed) || 0) || 0;
  return { offsetDays: signed(v.days), offsetMinutes: signed(v.minutes) };
}
