import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import type { RuleBody, RuleBook } from '#contract/clearance.ts';
import { sayShortDate } from '#core/time/say.ts';
import { call } from '#web/api.ts';
import { inAList, phrase } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';

/** What rules would have changed for past events, as they are typed. */
export function Bench({ book }: { book: { rules: RuleBody[]; facts: RuleBook['facts'] } }) {
  const text = useDeferredValue(JSON.stringify(book));
  const tried = useQuery({
    queryKey: ['rules tried', text],
    queryFn: () => call('POST /api/clearance/rules/try', { body: JSON.parse(text) }),
    placeholderData: (before) => before,
    retry: false,
  });
  const t = tried.data;
  return (
    <chakra.section aria-label={phrase('clearance.bench')} position={{ lg: 'sticky' }} top="70px">
      <h2>{phrase('clearance.bench')}</h2>
      {tried.isError ? (
        <p className="soft">{phrase('clearance.benchWrong')}</p>
      ) : (
        t && (
          <>
            <p className="soft">{phrase('clearance.benchText', { n: t.events })}</p>
            <chakra.table className="table" width="100%" marginTop="6px">
              <thead>
                <tr>
                  <th>{phrase('clearance.step')}</th>
                  <chakra.th textAlign="right">{phrase('clearance.asTheyAre')}</chakra.th>
                  <chakra.th textAlign="right">{phrase('clearance.asWritten')}</chakra.th>
                </tr>
              </thead>
              <tbody>
                {t.steps.map((s) => (
                  <tr key={s.step}>
                    <td>{s.step}</td>
                    <chakra.td className="num" textAlign="right">
                      {s.before}
                    </chakra.td>
                    <chakra.td className="num" textAlign="right">
                      {s.before === s.after ? s.after : <b>{s.after}</b>}
                    </chakra.td>
                  </tr>
                ))}
              </tbody>
            </chakra.table>
            <chakra.p className="soft" fontSize="14px" marginTop="8px">
              {phrase('clearance.benchDays', t.days)}
            </chakra.p>
            {t.changed.length === 0 ? (
              <Empty>{phrase('clearance.benchNothing')}</Empty>
            ) : (
              <chakra.ul className="lines" marginTop="8px" maxHeight="340px" overflowY="auto">
                {t.changed.map((e) => (
                  <li key={e.id}>
                    <span className="name">{e.title}</span>{' '}
                    <span className="soft">
                      {e.startsLocal && `${sayShortDate(e.startsLocal)} ${e.startsLocal.slice(0, 4)}`}
                    </span>
                    <chakra.p fontSize="14px">
                      {e.before.length ? inAList(e.before) : phrase('clearance.nothing')} →{' '}
                      {e.after.length ? inAList(e.after) : phrase('clearance.nothing')}
                    </chakra.p>
                  </li>
                ))}
              </chakra.ul>
            )}
          </>
        )
      )}
    </chakra.section>
  );
}
