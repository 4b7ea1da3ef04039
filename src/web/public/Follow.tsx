import './followingWords.ts';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { askAnewAfter } from '#web/topics.ts';
import { useAsk } from './asking.ts';
import { Loaded } from './notices.tsx';
import { Acts, Say, Soft, Title } from './parts.tsx';

/** Somebody says whether they want to hear of an event, from a link that reached them. */
export default function Follow() {
  const { token = '' } = useParams();
  const { t } = useTranslation();
  const asked = useAsk('GET /api/public/follow/:token', { token });
  const client = useQueryClient();
  const answer = useMutation({
    mutationFn: (follows: boolean) =>
      call('POST /api/public/follow/:token', { params: { token }, body: { follows } }),
    onSuccess: () => askAnewAfter(client, 'POST /api/public/follow/:token'),
  });
  const say = (follows: boolean) => answer.mutate(follows);
  return (
    <Loaded of={asked}>
      {({ of, title, follows, slug }) => (
        <>
          <Title>
            {follows
              ? t('follows', { title })
              : t(of === 'series' ? 'followQuestionSeries' : 'followQuestion', { title })}
          </Title>
          <Soft>{t('followsText')}</Soft>
          <Acts>
            {follows ? (
              <Button disabled={answer.isPending} onClick={() => say(false)}>
                {t('followStop')}
              </Button>
            ) : (
              <Button look="main" disabled={answer.isPending} onClick={() => say(true)}>
                {t('followYes')}
              </Button>
            )}
          </Acts>
          {answer.error && <Say tone="stop">{answer.error.message}</Say>}
          {slug && (
            <p>
              <Link to={`/e/${slug}`}>{t('followPage')}</Link>
            </p>
          )}
        </>
      )}
    </Loaded>
  );
}
