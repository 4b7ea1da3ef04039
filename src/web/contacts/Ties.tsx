import { useState } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import type { Tie } from '#contract/ties.ts';
import { holdsOn, sayDay, saySpan, statusOn } from '#core/contacts/membership.ts';
import { Button } from '../kit/Button.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useMayChangeContacts } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { TieForm } from './TieForm.tsx';

const sayTie = (tie: Tie): string =>
  tie.kind === 'membership'
    ? ['Member', tie.level, tie.number && `no. ${tie.number}`].filter(Boolean).join(', ')
    : [tie.name, tie.role].filter(Boolean).join(', ');

/** Memberships, roles in units and where somebody works, with what held on any day. */
export function Ties({ contact }: { contact: ContactRecord }) {
  const { today } = useSaying();
  const may = useMayChangeContacts();
  const [day, setDay] = useState(today);
  const [editing, setEditing] = useState<Tie | 'new' | null>(null);
  const members = contact.ties.filter((t) => t.kind === 'membership');
  const status = statusOn(members, day);
  const restore = useAction('POST /api/contacts/:id/ties', () => say('Undone.'));
  const remove = useAction('DELETE /api/ties/:kind/:id', (gone) =>
    say(`Taken away: ${sayTie(gone)}.`, {
      label: 'Undo',
      run: () => restore.mutate({ params: { id: contact.id }, body: gone }),
    }),
  );
  if (contact.ties.length === 0 && !may) return null;
  return (
    <section className="ties" aria-label="Belongs to">
      <div className="spread">
        <h2>Belongs to</h2>
        {contact.ties.length > 0 && (
          <label className="soft">
            on{' '}
            <input
              type="date"
              value={day}
              aria-label="What held on this day"
              onChange={(e) => setDay(e.target.value || today)}
            />
          </label>
        )}
      </div>
      {members.length > 0 && (
        <p>
          <b>
            {status === 'member' ? 'A member' : status === 'not yet' ? 'Not a member yet' : 'Not a member'}
          </b>
          <span className="soft"> on {day === today ? 'this day' : sayDay(day)}</span>
        </p>
      )}
      <ul className="plainlist">
        {contact.ties.map((tie) => (
          <li key={tie.id} className={holdsOn(tie, day) ? '' : 'past'}>
            <span>
              {tie.kind === 'organization' ? (
                <>
                  <Person id={tie.organizationId} name={tie.name} />
                  {tie.role && `, ${tie.role}`}
                </>
              ) : (
                sayTie(tie)
              )}{' '}
              <span className="soft num">{saySpan(tie)}</span>
            </span>
            {may && (
              <span className="acts">
                <Button look="link" aria-label={`Change: ${sayTie(tie)}`} onClick={() => setEditing(tie)}>
                  Change
                </Button>
                <Button
                  look="link"
                  aria-label={`Remove: ${sayTie(tie)}`}
                  onClick={() => remove.mutate({ params: { kind: tie.kind, id: tie.id } })}
                >
                  Remove
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
      {may && (
        <Button look="link" onClick={() => setEditing('new')}>
          Add a membership{contact.kind === 'person' ? ', a unit or an organization' : ''}
        </Button>
      )}
      {editing && (
        <TieForm contact={contact} tie={editing === 'new' ? null : editing} close={() => setEditing(null)} />
      )}
    </section>
  );
}
