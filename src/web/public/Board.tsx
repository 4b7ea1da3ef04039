import './followingWords.ts';
import { chakra } from '@chakra-ui/react';
import { lazy } from 'react';
import { useTranslation } from 'react-i18next';
import { sayLongDate } from '#core/time/say.ts';
import { AskBelow } from './AskBelow.tsx';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Head, Rows, Small, Soft } from './parts.tsx';

const BoardForm = lazy(() => import('./BoardForm.tsx'));

/** The questions that were asked about an event, with their answers; and a way to ask one. */
export default function Board({ slug }: { slug: string }) {
  const { t } = useTranslation();
  const board = useAsk('GET /api/public/events/:slug/board', { slug }, { everyMs: 60_000 }).data;
  if (!board?.on) return null;
  return (
    <section>
      <Head>{t('board')}</Head>
      {board.questions.length === 0 ? (
        <Soft>{t('boardNone')}</Soft>
      ) : (
        <Rows>
          {board.questions.map((q) => (
            <li key={q.id}>
              <chakra.p whiteSpace="pre-line" fontWeight="600">
                {q.words}
              </chakra.p>
              <Small>
                {q.name}, {sayLongDate(q.askedAt.slice(0, 10), language())}
                {q.answeredAt ? '' : `, ${t('boardOpen')}`}
              </Small>
              {q.answer && (
                <chakra.p whiteSpace="pre-line" marginTop="6px">
                  {q.answer}
                </chakra.p>
              )}
            </li>
          ))}
        </Rows>
      )}
      <AskBelow
        title={t('boardAsk')}
        about={t(board.shown === 'at once' ? 'boardShownAtOnce' : 'boardShownLater')}
        thanks={t('boardAsked')}
        form={(done) => <BoardForm slug={slug} done={done} />}
      />
    </section>
  );
}
