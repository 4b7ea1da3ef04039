import { chakra } from '@chakra-ui/react';
import { useDeferredValue, useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineText } from '#web/kit/Inline.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { foundWords, wishWords } from './crewWords.ts';

type Candidate = Answer<'GET /api/shifts/:id/candidates'>['shown'][number];

/** Everybody who helps, the best for a shift first: why, and what speaks against each. */
export function Candidates({
  shiftId,
  role,
  chosen,
  pick,
}: {
  shiftId: string;
  role: string;
  chosen: string;
  pick: (one: Candidate) => void;
}) {
  const [typed, setTyped] = useState('');
  const q = useDeferredValue(typed.trim());
  const candidates = useAsk('GET /api/shifts/:id/candidates', { params: { id: shiftId }, query: { q } });
  return (
    <section aria-label={phrase('crew.whoCould')}>
      <h3>{phrase('crew.whoCould')}</h3>
      <Loaded of={candidates}>
        {({ free, all, matching, shown }) =>
          all === 0 ? (
            <Empty padding="2px 0">{phrase('crew.nobodyHelps')}</Empty>
          ) : (
            <>
              <div className="spread">
                <span className="soft num">
                  {q
                    ? phrase('crew.foundOf', { n: matching, all })
                    : phrase('crew.whoCouldOf', { free, all })}
                </span>
                <InlineText
                  type="search"
                  label={phrase('crew.findHelper')}
                  placeholder={phrase('crew.findHelperIn')}
                  value={typed}
                  set={setTyped}
                />
              </div>
              <chakra.ul className="lines" maxHeight="300px" overflowY="auto" tabIndex={0} marginTop="6px">
                {shown.map((one) => (
                  <chakra.li key={one.contactId} className="spread" alignItems="flex-start">
                    <span>
                      <span className="name">{one.name}</span>{' '}
                      <span className="soft num">
                        {[
                          one.wish > 0 && wishWords[one.wish],
                          one.servedInRole
                            ? phrase('crew.servedSo', { role, n: one.servedInRole })
                            : phrase('crew.neverSo', { role }),
                          one.hoursHere
                            ? phrase('crew.hasHours', { hours: Math.round(one.hoursHere * 4) / 4 })
                            : phrase('crew.noHours'),
                        ]
                          .filter(Boolean)
                          .join(', ')}
                      </span>
                      {one.found.map((x) => (
                        <chakra.small key={`${x.in} ${x.label}`} className="soft" display="block">
                          {[x.label || foundWords[x.in], x.text].join(': ')}
                        </chakra.small>
                      ))}
                      {one.against.map((x) => (
                        <chakra.small key={x.text} className={x.absolute ? 'late' : 'need'} display="block">
                          {x.text}
                        </chakra.small>
                      ))}
                    </span>
                    {one.contactId === chosen ? (
                      <span className="soft">{phrase('crew.isChosen')}</span>
                    ) : (
                      <Button
                        look="link"
                        color="verdigris"
                        flexShrink={0}
                        aria-label={phrase('crew.choose', { name: one.name })}
                        onClick={() => pick(one)}
                      >
                        {phrase('crew.chooseThem')}
                      </Button>
                    )}
                  </chakra.li>
                ))}
              </chakra.ul>
            </>
          )
        }
      </Loaded>
    </section>
  );
}
