import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { ContactNote, ContactRecord } from '#contract/contacts.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** Notes about somebody. One with a day it is due is a task and reaches the Desk. */
export function Notes({ contact }: { contact: ContactRecord }) {
  const [text, setText] = useState('');
  const [dueOn, setDueOn] = useState('');
  const params = { id: contact.id };
  const add = useAction('POST /api/contacts/:id/notes', () => {
    setText('');
    setDueOn('');
  });
  const wrong = add.problem?.fields ?? {};
  return (
    <chakra.section margin="14px 0" aria-label="Notes">
      {contact.notes.length > 0 && (
        <ul className="notes">
          {contact.notes.map((n) => (
            <Note key={n.id} note={n} contactId={contact.id} />
          ))}
        </ul>
      )}
      <Problems of={add.problem} />
      <form
        className="newnote"
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate({ params, body: { text, dueOn: dueOn || null } });
        }}
      >
        <input
          value={text}
          placeholder="A note"
          aria-label="A note"
          aria-invalid={Boolean(wrong.text)}
          onChange={(e) => setText(e.target.value)}
        />
        {text && (
          <>
            <label className="soft">
              due{' '}
              <input
                type="date"
                value={dueOn}
                aria-label="Due on"
                onChange={(e) => setDueOn(e.target.value)}
              />
            </label>
            <Button type="submit" disabled={add.isPending}>
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
    say('The note was taken away.', {
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
        <button
          type="button"
          className="link"
          aria-label={`Remove: ${note.text}`}
          onClick={() => remove.mutate({ params: { id: note.id } })}
        >
          Remove
        </button>
      )}
    </li>
  );
}
