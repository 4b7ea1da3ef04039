import { chakra } from '@chakra-ui/react';
import { Link, useNavigate } from 'react-router';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { sayCount, useSaying } from '../parts/saying.ts';
import { OverlapOf } from './Overlap.tsx';

/** Segments: questions over the history, each with its sentence and count. */
export default function Segments() {
  const segments = useAsk('GET /api/segments');
  const navigate = useNavigate();
  const { dayAndYear } = useSaying();
  const begin = useAction('POST /api/segments', ({ id }) => navigate(`/records/segments/${id}`));
  return (
    <chakra.div className="page" maxWidth="900px">
      <p>
        <Link to="/records">{phrase('common.records')}</Link>
      </p>
      <div className="spread">
        <h1>{phrase('records.segments')}</h1>
        <Button
          look="main"
          data-new
          title={phrase('records.aNewSegmentN')}
          disabled={begin.isPending}
          onClick={() =>
            begin.mutate({
              body: {
                name: phrase('records.aNewSegment'),
                segment: {
                  all: [
                    {
                      ask: 'attended',
                      times: { is: 'at least', n: 1 },
                      of: {},
                      within: { when: 'this year' },
                    },
                  ],
                },
              },
            })
          }
        >
          {phrase('records.aNewSegment')}
        </Button>
      </div>
      <Loaded of={segments}>
        {(list) =>
          list.length === 0 ? (
            <Empty>{phrase('records.peopleFoundByTheir')}</Empty>
          ) : (
            <>
              <ul className="lines">
                {list.map((s) => (
                  <li key={s.id} className="spread">
                    <span>
                      <Link to={`/records/segments/${s.id}`} className="name">
                        {s.name}
                      </Link>
                      <br />
                      <small className="soft">
                        {s.sentence}{' '}
                        {s.frozenAt && phrase('records.frozen', { frozenAt: dayAndYear(s.frozenAt) })}
                        {s.count === null && ` ${phrase('records.howManyCannotBe')}`}
                      </small>
                    </span>
                    <b className="num">{s.count === null ? '—' : sayCount(s.count)}</b>
                  </li>
                ))}
              </ul>
              {list.length > 1 && <OverlapOf segments={list} />}
            </>
          )
        }
      </Loaded>
    </chakra.div>
  );
}
