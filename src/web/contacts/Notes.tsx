import { chakra, Input, type SystemStyleObject } from '@chakra-ui/react';
import { type ContactNote, type ContactRecord, contactsContract } from '#contract/contacts.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { RowTick } from '#web/kit/Choosing.tsx';
import { InlineText } from '#web/kit/Inline.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Summary } from '../kit/form/Form.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { useAction, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

const notesLook: SystemStyleObject = {
  listStyle: 'none',
  margin: '0 0 6px',
  padding: 0,
  '& li': {
    display: 'flex',
    flexWrap: 'wrap',
    gap: '2px 10px',
    alignItems: 'baseline',
    padding: '5px 0',
    borderBottom: '1px solid var(--line)',
  },
};
const newnoteLook: SystemStyleObject = {
  display: 'flex',
  flexWrap: 'wrap',
  gap: '8px',
  alignItems: 'center',
  '& > input': {
    flex: 1,
    minWidth: '200px',
  },
  '& label input': {
    width: 'auto',
  },
};

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
    <chakra.section margin="14px 0" aria-label={phrase('contacts.notes')}>
      {contact.notes.length > 0 && (
        <chakra.ul css={notesLook}>
          {contact.notes.map((n) => (
            <Note key={n.id} note={n} contactId={contact.id} />
          ))}
        </chakra.ul>
      )}
      <Summary form={form} />
      <chakra.form
        css={newnoteLook}
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          form.submit();
        }}
      >
        <InlineText
          label={phrase('contacts.aNote')}
          placeholder={phrase('contacts.aNote')}
          width="100%"
          value={text}
          set={(to) => form.set({ text: to })}
        />
        {text && (
          <>
            <label className="soft" htmlFor={form.idOf('dueOn')}>
              {phrase('contacts.due')}{' '}
              <Input
                id={form.idOf('dueOn')}
                type="date"
                value={dueOn}
                aria-label={phrase('contacts.dueOn')}
                onChange={(e) => form.set({ dueOn: e.target.value })}
              />
            </label>
            <Button type="submit" disabled={form.sending}>
              {dueOn ? phrase('contacts.addTheTask') : phrase('contacts.addTheNote')}
            </Button>
          </>
        )}
      </chakra.form>
    </chakra.section>
  );
}

function Note({ note, contactId }: { note: ContactNote; contactId: string }) {
  const { dayAndYear, today } = useSaying();
  const change = useAction('PATCH /api/notes/:id');
  const restore = useAction('POST /api/contacts/:id/notes');
  const remove = useAction('DELETE /api/notes/:id', ({ text, dueOn }) =>
    say(phrase('contacts.theNoteWasRemoved'), {
      label: phrase('common.undo'),
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
        <RowTick
          checked={Boolean(note.doneAt)}
          disabled={!mine}
          aria-label={phrase('contacts.done', { text: note.text })}
          onChange={(e) => change.mutate({ params: { id: note.id }, body: { done: e.target.checked } })}
        />
      )}
      <chakra.span className={note.doneAt ? 'soft struck' : ''} whiteSpace="pre-line">
        {note.text}
      </chakra.span>
      <small className="soft">
        {note.dueOn && (
          <span className={late ? 'late' : 'need'}>
            {phrase(note.doneAt ? 'contacts.doneOn' : 'contacts.dueDay', { day: sayShortDate(note.dueOn) })}
            {' · '}
          </span>
        )}
        {note.author}, {dayAndYear(note.at)}
      </small>
      {mine && (
        <Button
          look="link"
          aria-label={phrase('contacts.remove', { text: note.text })}
          onClick={() => remove.mutate({ params: { id: note.id } })}
        >
          {phrase('common.remove')}
        </Button>
      )}
    </li>
  );
}
