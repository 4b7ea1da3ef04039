import { chakra, Input } from '@chakra-ui/react';
import { type ContactNote, type ContactRecord, contactsContract } from '#contract/contacts.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { Summary } from '../kit/form/Form.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { useAction, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** Notes about somebody. One with a day it is due is a task and reaches the Desk. */
export function Notes({ contact }: { contact: ContactRecord }) {
  const form = useForm({
    values: { text: '', dueOn: '' },
    request: ({ text, dueOn }) =>
      prepare(contactsContract, 'POST /api/contacts/:id/notes', {
        params: { id: contact.id },
        body: { text, dueOn: dueOn || null },
      }),
    again: true,
  });
  const { text, dueOn } = form.values;
  return (
    <chakra.section margin="14px 0" aria-label="Notes">
      {contact.notes.length > 0 && (
        <ul className="notes">
          {contact.notes.map((n) => (
            <Note key={n.id} note={n} contactId={contact.id} />
          ))}
        </ul>
      )}
      <Summary form={form} />
      <form
        className="newnote"
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          form.submit();
        }}
      >
        <Input
          value={text}
          placeholder="A note"
          aria-label="A note"
          onChange={(e) => form.set({ text: e.target.value })}
        />
        {text && (
          <>
            <label className="soft" htmlFor={form.idOf('dueOn')}>
              due{' '}
              <Input
                id={form.idOf('dueOn')}
                type="date"
                value={dueOn}
                aria-label="Due on"
                onChange={(e) => form.set({ dueOn: e.target.value })}
              />
            </label>
            <Button type="submit" disabled={form.sending}>
              {dueOn ? 'Add the task' : 'Add the note'}
            </Button>
          </>
        )}
      </form>
    </chakra.section>
  );
}

function Note({ note, contactId }: { note: ContactNote; contactId: string }) {
  const { dayAndYear, today } = useSaying();
  const change = useAction('PATCH /api/notes/:id');
  const restore = useAction('POST /api/contacts/:id/notes');
  const remove = useAction('DELETE /api/notes/:id', ({ text, dueOn }) =>
    say('The note was removed.', {
      label: 'Undo',
      run: () => restore.mutate({ params: { id: contactId }, body: { text, dueOn } }),
    }),
  );
  const me = useMe().data?.staff;
  /** A note is changed by who wrote it, or by a coordinator. */
  const mine = me !== undefined && (me.roles.includes('coordinator') || note.authorId === me.id);
  const late = note.dueOn && !note.doneAt && note.dueOn < today;
  return (
    <li>
      {note.dueOn && (
        <input
          type="checkbox"
          checked={Boolean(note.doneAt)}
          disabled={!mine}
          aria-label={`Done: ${note.text}`}
          onChange={(e) => change.mutate({ params: { id: note.id }, body: { done: e.target.checked } })}
        />
      )}
      <chakra.span className={note.doneAt ? 'soft struck' : ''} whiteSpace="pre-line">
        {note.text}
      </chakra.span>
      <small className="soft">
        {note.dueOn && (
          <span className={late ? 'late' : 'need'}>
            {note.doneAt ? 'done ' : 'due '}
            {sayShortDate(note.dueOn)}
            {' · '}
          </span>
        )}
        {note.author}, {dayAndYear(note.at)}
      </small>
      {mine && (
        <Button
          look="link"
          aria-label={`Remove: ${note.text}`}
          onClick={() => remove.mutate({ params: { id: note.id } })}
        >
          Remove
        </Button>
      )}
    </li>
  );
}
