import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk, useMayChangeContacts, useMe } from '../parts/ask.ts';
import { Care } from './Care.tsx';
import { ChangeContact } from './ChangeContact.tsx';
import { Consents } from './Consents.tsx';
import { Lifeline } from './Lifeline.tsx';
import { Merges } from './Merges.tsx';
import { Notes } from './Notes.tsx';
import { Facts, Head, People, Totals } from './PersonRecord.tsx';
import { Photo } from './Photo.tsx';
import { Skills } from './Skills.tsx';
import { Tags } from './Tags.tsx';
import { Ties } from './Ties.tsx';

// One contact: what is known on the left, what they did on the right.
const recordLook: SystemStyleObject = {
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 380px) minmax(0, 1fr)',
  gap: '0 40px',
  alignItems: 'start',
  marginTop: '10px',
  '@media (max-width: 900px)': {
    gridTemplateColumns: 'minmax(0, 1fr)',
  },
};

/** The page of one contact: what is known of them on the left, what they did on the right. */
export default function Contact() {
  const { id = '' } = useParams();
  const contact = useAsk('GET /api/contacts/:id', { params: { id } });
  const [editing, setEditing] = useState(false);
  const may = useMayChangeContacts();
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  return (
    <div className="page">
      <div className="spread">
        <Link to="/contacts">{phrase('common.contacts')}</Link>
        {may && <Button onClick={() => setEditing(true)}>{phrase('common.change')}</Button>}
      </div>
      <Loaded of={contact}>
        {(c) => (
          <>
            <chakra.div css={recordLook}>
              <div>
                <Photo contact={c} />
                <Head contact={c} />
                <Tags id={c.id} tags={c.tags} />
                <Facts contact={c} />
                <Ties contact={c} />
                <Skills contactId={c.id} />
                <Consents contact={c} />
                <Merges contact={c} />
                {coordinator && <Care contact={c} />}
              </div>
              <div>
                {c.kind === 'organization' ? <People contact={c} /> : <Totals contact={c} wide />}
                <Notes contact={c} />
                <Lifeline id={id} />
              </div>
            </chakra.div>
            {editing && <ChangeContact contact={c} close={() => setEditing(false)} />}
          </>
        )}
      </Loaded>
    </div>
  );
}
