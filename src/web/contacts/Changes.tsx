import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import { textsOf } from '#core/contacts/attributes.ts';
import { sayAttribute } from '#core/words/attributes.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';

const fieldWords: Record<string, string> = {
  given: phrase('common.firstName'),
  family: phrase('common.lastName'),
  birthDate: phrase('common.birthDate'),
  street: phrase('contacts.street'),
  postalCode: phrase('contacts.postalCode'),
  level: phrase('contacts.levelOfMembership'),
  endsOn: phrase('contacts.membershipEndsOn'),
  email: phrase('contacts.anotherEmail'),
  phone: phrase('contacts.anotherTelephone'),
  guardian: phrase('contacts.guardian'),
  language: sayAttribute('language'),
  ...textsOf(sayAttribute),
  custom: '',
};

/** Changes that people asked for on their own page, or that somebody from outside said, and that staff decide. */
export default function Changes() {
  const { dayAndYear } = useSaying();
  const changes = useAsk('GET /api/proposals');
  const decide = useAction('POST /api/proposals/:id/decide', () => say(phrase('contacts.decided')));
  const put = (id: string, accept: boolean) => decide.mutate({ params: { id }, body: { accept } });
  return (
    <chakra.div className="page" maxWidth="900px">
      <p>
        <Link to="/contacts">{phrase('common.contacts')}</Link>
      </p>
      <h1>{phrase('contacts.changesPeopleAskedFor')}</h1>
      <Problems of={decide.problem} />
      <Loaded of={changes}>
        {(list) =>
          list.length === 0 ? (
            <Empty>{phrase('contacts.whatPeopleChangeOn')}</Empty>
          ) : (
            <ul className="lines">
              {list.map((p) => (
                <li key={p.id} className="spread">
                  <span>
                    <Person id={p.contactId} name={p.name} />{' '}
                    <small className="soft">
                      {dayAndYear(p.at)}, {p.said}
                    </small>
                    <br />
                    {p.fieldName ?? fieldWords[p.field]}: <span className="soft struck">{p.before}</span>{' '}
                    {p.otherContactId ? (
                      <Person id={p.otherContactId} name={p.after ?? ''} />
                    ) : (
                      (p.after ?? <span className="soft">{phrase('common.nothing')}</span>)
                    )}
                  </span>
                  <span className="acts">
                    <Button look="main" disabled={decide.isPending} onClick={() => put(p.id, true)}>
                      {phrase('contacts.takeItOver')}
                    </Button>
                    <Button disabled={decide.isPending} onClick={() => put(p.id, false)}>
                      {phrase('contacts.leaveTheRecord')}
                    </Button>
                  </span>
                </li>
              ))}
            </ul>
          )
        }
      </Loaded>
    </chakra.div>
  );
}
