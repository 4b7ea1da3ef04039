import { chakra } from '@chakra-ui/react';
import type { Answer } from '#web/api.ts';
import { Empty, Note } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { sayCount } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { sayTimes } from '../shares.ts';

type Found = Answer<'GET /api/records/audiences'>;

/** Who comes to several kinds of events, and what coming leads to by a fair comparison. */
export function Audiences() {
  return (
    <Loaded of={useAsk('GET /api/records/audiences')}>
      {(found) => (
        <>
          <h2>{phrase('archive.overlapTitle')}</h2>
          {found.audiences.length < 2 ? (
            <Empty>{phrase('archive.noAudiences')}</Empty>
          ) : (
            <>
              <p>{found.finding}</p>
              <p className="soft">{phrase('archive.overlapHelp')}</p>
              <Matrix of={found} />
            </>
          )}
          <chakra.h2 marginTop="24px">{phrase('archive.leadsTo')}</chakra.h2>
          <chakra.ul className="lines">
            {found.conversions.map((c) => (
              <li key={c.what}>{c.said}</li>
            ))}
          </chakra.ul>
          <Note marginTop="10px">
            <b>{phrase('archive.fair')}.</b> {phrase('archive.fairLimits')}
          </Note>
        </>
      )}
    </Loaded>
  );
}

/** Each kind of event beside each other: a half of a square, since both ways are the same. */
function Matrix({ of: { audiences, shared } }: { of: Found }) {
  const both = new Map(shared.flatMap((s) => [[`${s.a} ${s.b}`, s] as const, [`${s.b} ${s.a}`, s] as const]));
  return (
    <chakra.div className="table still" overflowX="auto">
      <table>
        <thead>
          <tr>
            <th scope="col">
              <chakra.span srOnly>{phrase('archive.event')}</chakra.span>
            </th>
            <th scope="col" className="n">
              {phrase('archive.people')}
            </th>
            {audiences.slice(0, -1).map((a) => (
              <th key={a.kind} scope="col" className="n">
                {a.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {audiences.map((row, at) => (
            <tr key={row.kind}>
              <chakra.th scope="row" textAlign="left" color="ink" borderBottom="1px solid" borderColor="line">
                {row.title}
              </chakra.th>
              <td className="n">
                <b>{sayCount(row.people)}</b>
              </td>
              {audiences.slice(0, -1).map((column, n) => {
                const found = n < at ? both.get(`${row.kind} ${column.kind}`) : undefined;
                return (
                  <td key={column.kind} className="n">
                    {found && (
                      <>
                        {sayCount(found.people)} <small className="soft">({sayTimes(found.times)}×)</small>
                      </>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </chakra.div>
  );
}
