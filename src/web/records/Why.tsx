import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { fullName } from '#core/contacts/names.ts';
import type { Segment } from '#core/records/segment.ts';
import { call } from '#web/api.ts';
import { placed } from '#web/kit/placed.ts';
import { Button } from '../kit/Button.tsx';
import { useAsk } from '../parts/ask.ts';

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
    <chakra.section marginTop="18px" aria-label="Why">
      <chakra.label fontSize="14px">
        Is somebody in it, and why?
        <input
          value={typed}
          placeholder="Part of a name"
          onChange={(e) => {
            setTyped(e.target.value);
            setContactId(null);
          }}
        />
      </chakra.label>
      {!contactId && q.length > 1 && (
        <ul className="lines">
          {hits?.length === 0 && <li className="soft">Nobody is found.</li>}
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
        <div className="why" role="status">
          <p>
            <b>{why.data.name}</b> {why.data.holds ? 'is in it.' : 'is not in it.'}
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
                  {r.holds ? 'yes' : 'no'}
                  {r.found && `: ${r.found}`}
                </span>
              </li>
            ))}
          </ul>
        </div>
      )}
    </chakra.section>
  );
}
