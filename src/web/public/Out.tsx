import './followingWords.ts';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { askAnewAfter } from '#web/topics.ts';
import { useAsk } from './asking.ts';
import { Loaded } from './notices.tsx';
import { Acts, Say, Soft, Title } from './parts.tsx';

/** The way out of a message, and back. Looking changes nothing: mail services look at links by themselves. */
export default function Out() {
  const { token = '' } = useParams();
  const { t } = useTranslation();
  const where = useAsk('GET /api/public/out/:token', { token });
  const client = useQueryClient();
  const go = useMutation({
    mutationFn: (back: boolean) => call('POST /api/public/out/:token', { params: { token }, body: { back } }),
    onSuccess: () => askAnewAfter(client, 'POST /api/public/out/:token'),
  });
  const say = (back: boolean) => go.mutate(back);
  return (
    <Loaded of={where}>
      {({ of, title, organization, out }) => (
        <>
          <Title>
            {out
              ? t('outDone')
              : of === 'topic'
                ? t('outQuestionTopic', { title, organization })
                : t('outQuestionEvent', { title })}
          </Title>
          <Soft>{out ? title : t(of === 'topic' ? 'outTopicText' : 'outText')}</Soft>
          <Acts>
            {out ? (
              <Button disabled={go.isPending} onClick={() => say(true)}>
                {t('outBack')}
              </Button>
            ) : (
              <Button look="main" disabled={go.isPending} onClick={() => say(false)}>
                {t('outDo')}
              </Button>
            )}
          </Acts>
          {go.error && <Say tone="stop">{go.error.message}</Say>}
        </>
      )}
    </Loaded>
  );
}
