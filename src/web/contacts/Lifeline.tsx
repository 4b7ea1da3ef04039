import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import { type LifelineKind, lifelineKinds } from '#core/contacts/lifeline.ts';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { Paging } from '../kit/Paging.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { useInterface } from '../shell/state.ts';

const lifelineLook: SystemStyleObject = {
  listStyle: 'none',
  padding: '0 0 0 14px',
  margin: '8px 0',
  borderLeft: '1px solid var(--rule)',
  fontSize: '14px',
  '& li': {
    padding: '3px 0',
    position: 'relative',
    display: 'grid',
    gridTemplateColumns: '84px 1fr',
    gap: '8px',
  },
  '& li::before': {
    content: '""',
    position: 'absolute',
    left: '-17px',
    top: '12px',
    width: '6px',
    height: '1px',
    background: 'var(--rule)',
  },
  '& a': {
    textDecoration: 'underline',
    textUnderlineOffset: '2px',
  },
};

/** Kinds whose entries need no word before them. */
const saysItself: ReadonlySet<LifelineKind> = new Set([
  'attendance',
  'registration',
  'record',
  'money',
  'clearance',
  'session',
]);

/** Everything about somebody, newest first. */
export function Lifeline({ id }: { id: string }) {
  const [kind, setKind] = useState<LifelineKind | ''>('');
  const [offset, setOffset] = useState(0);
  const { dayAndYear } = useSaying();
  const showPerson = useInterface((s) => s.showPerson);
  const lifeline = useAsk('GET /api/contacts/:id/lifeline', {
    params: { id },
    query: { kind: kind || undefined, offset },
  });
  return (
    <chakra.section marginTop="16px">
      <div className="spread">
        <h2>{phrase('contacts.lifeline')}</h2>
        <InlineChoice
          label={phrase('contacts.show')}
          value={kind}
          set={(to) => {
            setKind(to as LifelineKind | '');
            setOffset(0);
          }}
          empty={phrase('contacts.everything')}
          choices={lifelineKinds.map((k) => ({ value: k, label: term(k) }))}
        />
      </div>
      <Loaded of={lifeline}>
        {({ entries, more }) =>
          entries.length === 0 ? (
            <Empty>{phrase('contacts.nothingOfThisKind')}</Empty>
          ) : (
            <>
              <chakra.ol css={lifelineLook}>
                {entries.map((e, at) => (
                  <li key={`${e.at}${e.kind}${at}`}>
                    <span className="soft num">{dayAndYear(e.at)}</span>
                    <span>
                      <chakra.span fontWeight={500}>
                        {saysItself.has(e.kind) ? e.text : `${term(e.kind)} ${e.text}`}
                      </chakra.span>
                      {e.eventId && (
                        <>
                          {' '}
                          <Link to={`/events/${e.eventId}/registration`} onClick={() => showPerson(null)}>
                            {e.eventTitle}
                          </Link>
                        </>
                      )}
                      {e.detail && <span className="soft"> {e.detail}</span>}
                    </span>
                  </li>
                ))}
              </chakra.ol>
              <Paging offset={offset} size={60} shown={entries.length} more={more} set={setOffset} />
            </>
          )
        }
      </Loaded>
    </chakra.section>
  );
}
