import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import { type LifelineKind, lifelineKinds } from '#core/contacts/lifeline.ts';
import { Button } from '#web/kit/Button.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { useInterface } from '../shell/state.ts';

/** Kinds whose entries need no word before them. */
const saysItself: ReadonlySet<LifelineKind> = new Set([
  'attendance',
  'registration',
  'record',
  'money',
  'clearance',
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
        <h2>Lifeline</h2>
        <chakra.select
          aria-label="Show"
          width="auto"
          fontSize="13.5px"
          value={kind}
          onChange={(e) => {
            setKind(e.target.value as LifelineKind | '');
            setOffset(0);
          }}
        >
          <option value="">everything</option>
          {lifelineKinds.map((k) => (
            <option key={k} value={k}>
              {k}
            </option>
          ))}
        </chakra.select>
      </div>
      <Loaded of={lifeline}>
        {({ entries, more }) =>
          entries.length === 0 ? (
            <Empty>Nothing of this kind yet.</Empty>
          ) : (
            <>
              <ol className="lifeline">
                {entries.map((e, at) => (
                  <li key={`${e.at}${e.kind}${at}`}>
                    <span className="soft num">{dayAndYear(e.at)}</span>
                    <span>
                      <chakra.span fontWeight={500}>
                        {saysItself.has(e.kind) ? e.text : `${e.kind} ${e.text}`}
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
              </ol>
              <div className="acts">
                {offset > 0 && (
                  <Button look="plain" onClick={() => setOffset(Math.max(0, offset - 60))}>
                    Newer
                  </Button>
                )}
                {more && (
                  <Button look="plain" onClick={() => setOffset(offset + 60)}>
                    Older
                  </Button>
                )}
              </div>
            </>
          )
        }
      </Loaded>
    </chakra.section>
  );
}
