import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { fullName } from '#core/contacts/names.ts';
import type { Segment } from '#core/records/segment.ts';
import { call } from '#web/api.ts';
import { TextField } from '#web/kit/Field.tsx';
import { placed } from '#web/kit/placed.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { useAsk } from '../parts/ask.ts';

const whyLook: SystemStyleObject = {
  '& ul': {
    listStyle: 'none',
    margin: '6px 0 0',
    padding: 0,
    fontSize: '14px',
  },
  '& li::before': {
    display: 'inline-block',
    width: '16px',
  },
  '& .holds::before': {
    content: '"+"',
    color: 'var(--verdigris)',
  },
  '& .fails::before': {
    content: '"−"',
    color: 'var(--ochre)',
  },
};

/** Why somebody is in a segment, or why not, question by question. */
export function Why({ segment }: { segment: Segment }) {
  const [typed, setTyped] = useState('');
  const [contactId, setContactId] = useState<string | null>(null);
  const q = useDeferredValue(typed.trim());
  const hits = useAsk('GET /api/search', { query: { q }, enabled: q.length > 1 && !contactId }).data
    ?.contacts;
  const why = useQuery({
    queryKey: ['why', contactId, JSON.stringify(segment)],
    queryFn: () =>
      call('POST /api/segments/why', {
        body: { segment: segment as unknown as Record<string, unknown>, contactId: contactId! },
      }),
    enabled: contactId !== null,
    retry: false,
  });
  return (
    <chakra.section marginTop="18px" aria-label={phrase('common.why')}>
      <TextField
        label={phrase('records.isSomebodyInIt')}
        value={typed}
        placeholder={phrase('records.partOfAName')}
        set={(text) => {
          setTyped(text);
          setContactId(null);
        }}
      />
      {!contactId && q.length > 1 && (
        <ul className="lines">
          {hits?.length === 0 && <li className="soft">{phrase('records.nobodyIsFound')}</li>}
          {hits?.slice(0, 5).map((c) => (
            <li key={c.id}>
              <Button
                look="link"
                onClick={() => {
                  setContactId(c.id);
                  setTyped(fullName(c));
                }}
              >
                {fullName(c)} <small className="soft">{c.email ?? c.phone}</small>
              </Button>
            </li>
          ))}
        </ul>
      )}
      {contactId && why.data && (
        <chakra.div css={whyLook} role="status">
          <p>
            <b>{why.data.name}</b> {why.data.holds ? phrase('records.isInIt') : phrase('records.isNotInIt')}
          </p>
          <ul>
            {why.data.reasons.map((r, at) => (
              <li
                // The reasons come in the order of the questions.
                key={at}
                style={placed({ marginLeft: r.depth * 14 })}
                className={r.holds ? 'holds' : 'fails'}
              >
                {r.words}{' '}
                <span className="soft">
                  {r.holds ? term('yes') : term('no')}
                  {r.found && `: ${r.found}`}
                </span>
              </li>
            ))}
          </ul>
        </chakra.div>
      )}
    </chakra.section>
  );
}
