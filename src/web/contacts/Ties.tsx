import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useState } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import type { Tie } from '#contract/ties.ts';
import { holdsOn, sayDay, saySpan, statusOn } from '#core/contacts/membership.ts';
import { InlineText } from '#web/kit/Inline.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useMayChangeContacts } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { TieForm } from './TieForm.tsx';

const tiesLook: SystemStyleObject = {
  margin: '16px 0',
  fontSize: '14px',
  '& input[type="date"]': {
    width: '142px',
    fontSize: '13px',
    padding: '1px 5px',
  },
};

const sayTie = (tie: Tie): string =>
  tie.kind === 'membership'
    ? [phrase('contacts.member'), tie.level, tie.number && phrase('contacts.no', { number: tie.number })]
        .filter(Boolean)
        .join(', ')
    : [tie.name, tie.role].filter(Boolean).join(', ');

/** Memberships, roles in units and where somebody works, with what held on any day. */
export function Ties({ contact }: { contact: ContactRecord }) {
  const { today } = useSaying();
  const may = useMayChangeContacts();
  const [day, setDay] = useState(today);
  const [editing, setEditing] = useState<Tie | 'new' | null>(null);
  const members = contact.ties.filter((t) => t.kind === 'membership');
  const status = statusOn(members, day);
  const restore = useAction('POST /api/contacts/:id/ties', () => say(phrase('common.undone')));
  const remove = useAction('DELETE /api/ties/:kind/:id', (gone) =>
    say(phrase('contacts.removedTie', { gone: sayTie(gone) }), {
      label: phrase('common.undo'),
      run: () => restore.mutate({ params: { id: contact.id }, body: gone }),
    }),
  );
  if (contact.ties.length === 0 && !may) return null;
  return (
    <chakra.section css={tiesLook} aria-label={phrase('contacts.belongsTo')}>
      <div className="spread">
        <h2>{phrase('contacts.belongsTo')}</h2>
        {contact.ties.length > 0 && (
          <span className="soft">
            {phrase('contacts.on')}{' '}
            <InlineText
              type="date"
              width="auto"
              label={phrase('contacts.whatHeldOnThis')}
              value={day}
              set={(to) => setDay(to || today)}
            />
          </span>
        )}
      </div>
      {members.length > 0 && (
        <p>
          <b>
            {status === 'member'
              ? phrase('contacts.aMember')
              : status === 'not yet'
                ? phrase('contacts.notAMemberYet')
                : phrase('contacts.notAMember')}
          </b>
          <span className="soft">
            {' '}
            {day === today ? phrase('contacts.onThisDay') : phrase('contacts.onDay', { day: sayDay(day) })}
          </span>
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
                <Button
                  look="link"
                  aria-label={phrase('contacts.change', { tie: sayTie(tie) })}
                  onClick={() => setEditing(tie)}
                >
                  {phrase('common.change')}
                </Button>
                <Button
                  look="link"
                  aria-label={phrase('contacts.removeTie', { tie: sayTie(tie) })}
                  onClick={() => remove.mutate({ params: { kind: tie.kind, id: tie.id } })}
                >
                  {phrase('common.remove')}
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
      {may && (
        <Button look="link" onClick={() => setEditing('new')}>
          {phrase(contact.kind === 'person' ? 'contacts.addAMembershipAUnit' : 'contacts.addAMembership')}
        </Button>
      )}
      {editing && (
        <TieForm contact={contact} tie={editing === 'new' ? null : editing} close={() => setEditing(null)} />
      )}
    </chakra.section>
  );
}
