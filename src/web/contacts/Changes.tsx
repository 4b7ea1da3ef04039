import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import { Button } from '#web/kit/Button.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';

const fieldWords: Record<string, string> = {
  given: 'First name',
  family: 'Last name',
  birthDate: 'Birth date',
  street: 'Street',
  postalCode: 'Postal code',
  level: 'Level of membership',
  endsOn: 'Membership ends on',
  email: 'Another email',
  phone: 'Another telephone',
  guardian: 'Guardian',
};

/** Changes that people asked for on their own page, or that somebody from outside said, and that staff decide. */
export default function Changes() {
  const { dayAndYear } = useSaying();
  const changes = useAsk('GET /api/proposals');
  const decide = useAction('POST /api/proposals/:id/decide', () => say('Decided.'));
  const put = (id: string, accept: boolean) => decide.mutate({ params: { id }, body: { accept } });
  return (
    <chakra.div className="page" maxWidth="900px">
      <p>
        <Link to="/contacts">Contacts</Link>
      </p>
      <h1>Changes people asked for</h1>
      <Problems of={decide.problem} />
      <Loaded of={changes}>
        {(list) =>
          list.length === 0 ? (
            <Empty>
              What people change on their own page against your records waits here, and so do addresses,
              telephones and guardians that somebody names from outside.
            </Empty>
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
                    {fieldWords[p.field]}: <span className="soft struck">{p.before}</span>{' '}
                    {p.otherContactId ? (
                      <Person id={p.otherContactId} name={p.after ?? ''} />
                    ) : (
                      (p.after ?? <span className="soft">nothing</span>)
                    )}
                  </span>
                  <span className="acts">
                    <Button look="main" disabled={decide.isPending} onClick={() => put(p.id, true)}>
                      Take it over
                    </Button>
                    <Button disabled={decide.isPending} onClick={() => put(p.id, false)}>
                      Leave the record
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
