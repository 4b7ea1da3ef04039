import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage, MessageStepPlan } from '#contract/events.ts';
import type { MessageRow } from '#contract/messages.ts';
import { sayConsequences } from '#core/events/consequences.ts';
import { audiences } from '#core/messages/audiences.ts';
import { mergeFields } from '#core/messages/merge.ts';
import { momentRule, sayMoment } from '#core/messages/moments.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { ChoiceField, Field, TextField } from '../kit/Field.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
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
          <h2>Messages</h2>
          <p className="soft">
            They follow the moments of the event and move with it. Nothing goes out twice.
          </p>
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
                      {s.when}, to {audiences[s.audience as keyof typeof audiences].words}
                    </span>
                  </span>
                  <chakra.span className="num soft" fontSize="14px">
                    {[s.planned && `${s.planned} planned`, s.sent && `${s.sent} sent`]
                      .filter(Boolean)
                      .join(', ') || 'nobody yet'}
                    {s.failed > 0 && <span className="late">, {s.failed} failed</span>}
                    {s.leftOut.length > 0 && `, ${s.leftOut.length} get none`}
                  </chakra.span>
                </div>
                {s.firstAt && (
                  <chakra.p className="soft num" fontSize="13.5px">
                    first {at(s.firstAt)}
                  </chakra.p>
                )}
                {open === s.stepId && (
                  <chakra.div padding="6px 0 4px 14px" fontSize="14px">
                    {['draft', 'in clearance', 'cleared', 'open', 'closed'].includes(page.state) && (
                      <Button
                        onClick={() => setEditing(page.plan.messages.find((m) => m.id === s.stepId) ?? null)}
                      >
                        Change the text
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
                                {r.state} {at(r.sentAt ?? r.plannedFor)}
                                {r.whyNot && `: ${r.whyNot}`}
                              </td>
                              <td className="n">
                                <Button look="link" color="verdigris" onClick={() => setMessage(r.id)}>
                                  read
                                </Button>
                              </td>
                            </tr>
                          ))}
                          {together(s.leftOut).map(({ row: r, count }, n) => (
                            <tr key={`${r.name}${n}`}>
                              <td>
                                {count > 1 ? (
                                  `${count} guests not named yet`
                                ) : (
                                  <Person id={r.contactId} name={r.name} />
                                )}
                              </td>
                              <td className="soft">gets none</td>
                              <td className="soft" colSpan={2}>
                                {r.whyNot}
                              </td>
                            </tr>
                          ))}
                        </tbody>
                      </table>
                    </chakra.div>
                  </chakra.div>
                )}
              </li>
            ))}
          </chakra.ul>
          {list.length === 0 && <Empty>No message is planned for this event.</Empty>}
          {message && <Message id={message} close={() => setMessage(null)} />}
          {editing && <EditStep page={page} step={editing} close={() => setEditing(null)} />}
        </>
      )}
    </Loaded>
  );
}

/** Whoever gets none, a line each; guests nobody named yet, of whom the same is said, are one line. */
function together(rows: readonly MessageRow[]): { row: MessageRow; count: number }[] {
  const lines = new Map<string, { row: MessageRow; count: number }>();
  for (const [at, row] of rows.entries()) {
    const line = row.contactId ? String(at) : `guests ${row.name} ${row.whyNot}`;
    const known = lines.get(line);
    if (known) known.count += 1;
    else lines.set(line, { row, count: 1 });
  }
  return [...lines.values()];
}

function EditStep({ page, step, close }: { page: EventPage; step: MessageStepPlan; close: () => void }) {
  const [form, setForm] = useState(step);
  const save = useAction('PATCH /api/events/:id', ({ followed }) => {
    say(['Saved', ...sayConsequences(followed, true)].join('; '));
    close();
  });
  const [side, setSide] = useState(step.offsetDays < 0 || step.offsetMinutes < 0 ? 'before' : 'after');
  const signed = (typed: string, of = side) => (of === 'before' ? -1 : 1) * Math.abs(Number(typed) || 0) || 0;
  return (
    <Asking
      open
      close={close}
      wide
      title={step.name}
      actions={
        <Button
          look="main"
          disabled={save.isPending}
          onClick={() =>
            save.mutate({
              params: { id: page.id },
              body: {
                version: page.version,
                change: { messages: page.plan.messages.map((m) => (m.id === form.id ? form : m)) },
              },
            })
          }
        >
          Save
        </Button>
      }
    >
      <Problems of={save.problem} />
      <div className="pair">
        <TextField
          label="Days"
          type="number"
          value={String(Math.abs(form.offsetDays))}
          set={(v) => setForm({ ...form, offsetDays: signed(v) })}
        />
        <TextField
          label="Minutes"
          type="number"
          value={String(Math.abs(form.offsetMinutes))}
          set={(v) => setForm({ ...form, offsetMinutes: signed(v) })}
        />
        <ChoiceField
          label="Before or after"
          value={side}
          set={(to) => {
            setSide(to);
            setForm({
              ...form,
              offsetDays: signed(String(form.offsetDays), to),
              offsetMinutes: signed(String(form.offsetMinutes), to),
            });
          }}
          choices={[
            { value: 'before', label: `before ${momentRule(step.moment).words}` },
            { value: 'after', label: `after ${momentRule(step.moment).words}` },
          ]}
        />
        <p className="soft">
          {sayMoment({ moment: form.moment, offset: { days: form.offsetDays, minutes: form.offsetMinutes } })}
        </p>
        <TextField
          label="Subject, English"
          value={form.subject.en}
          set={(en) => setForm({ ...form, subject: { ...form.subject, en } })}
        />
        <TextField
          label="Subject, French"
          value={form.subject.fr ?? ''}
          set={(fr) => setForm({ ...form, subject: { ...form.subject, fr } })}
        />
        <Field label="Text, English">
          {(props) => (
            <textarea
              {...props}
              rows={9}
              value={form.body.en}
              onChange={(e) => setForm({ ...form, body: { ...form.body, en: e.target.value } })}
            />
          )}
        </Field>
        <Field label="Text, French">
          {(props) => (
            <textarea
              {...props}
              rows={9}
              value={form.body.fr ?? ''}
              onChange={(e) => setForm({ ...form, body: { ...form.body, fr: e.target.value } })}
            />
          )}
        </Field>
      </div>
      <chakra.p className="soft" fontSize="13.5px">
        Merge fields:{' '}
        {Object.keys(mergeFields)
          .map((f) => `{{${f}}}`)
          .join(' ')}
      </chakra.p>
    </Asking>
  );
}
