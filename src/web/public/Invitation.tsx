import './holdingWords.ts';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { type InvitationPage, invitedContract } from '#contract/invited.ts';
import { addressOf } from '#web/api.ts';
import { Button, ButtonLink } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { useAsk } from './asking.ts';
import { EventInShort } from './EventInShort.tsx';
import { Loaded } from './notices.tsx';
import { Acts, Head, Say, Soft, Title } from './parts.tsx';

/** An invitation, from the link it came with: yes leads to registering, no and perhaps are said here. */
export default function Invitation() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/invitations/:token', { token })}>
      {(invitation) => <Shown invitation={invitation} token={token} />}
    </Loaded>
  );
}

function Shown({ invitation, token }: { invitation: InvitationPage; token: string }) {
  const { t } = useTranslation();
  const [saying, setSaying] = useState<'no' | 'perhaps' | null>(null);
  const { event, companions, replies, answer, open, seats } = invitation;
  const said = { yes: t('saidYes'), perhaps: t('saidPerhaps'), no: t('saidNo') };
  const there = `/e/${event.slug}`;
  return (
    <>
      <Title>
        {event.state === 'called off' ? t('calledOff') : t('invitedTitle', { name: invitation.given })}
      </Title>
      <EventInShort event={event} query={`?invited=${token}`} />
      {companions > 0 && <Soft>{t('invitedFor', { count: companions })}</Soft>}
      {answer && !saying && (
        <Say tone={answer === 'yes' ? 'good' : undefined} role="status">
          {said[answer]}
        </Say>
      )}
      {!open && <Say tone="need">{t('invitedClosed')}</Say>}
      {open && seats === 0 && !saying && (
        <>
          <Head>{t('doYouCome')}</Head>
          <Acts gap="12px">
            <ButtonLink look="main" size="go" to={`${there}/register?invited=${token}`}>
              {t('replyYes')}
            </ButtonLink>
            {replies.includes('perhaps') && (
              <Button size="go" onClick={() => setSaying('perhaps')}>
                {t('replyPerhaps')}
              </Button>
            )}
            {replies.includes('no') && (
              <Button size="go" onClick={() => setSaying('no')}>
                {t('replyNo')}
              </Button>
            )}
          </Acts>
        </>
      )}
      {saying && (
        <Reply
          key={saying}
          answer={saying}
          words={invitation.words}
          token={token}
          done={() => setSaying(null)}
        />
      )}
    </>
  );
}

/** Says no, or perhaps, with a word to the organizers where there is one to say. */
function Reply({
  answer,
  words,
  token,
  done,
}: {
  answer: 'no' | 'perhaps';
  words: string;
  token: string;
  done: () => void;
}) {
  const { t } = useTranslation();
  const client = useQueryClient();
  const form = useForm({
    values: { words },
    request: (v) =>
      prepare(invitedContract, 'POST /api/public/invitations/:token/answer', {
        params: { token },
        body: { answer, ...v },
      }),
    after: async () => {
      await client.invalidateQueries({
        queryKey: [addressOf('GET /api/public/invitations/:token', { token })],
      });
      done();
    },
  });
  return (
    <>
      <Head>{t(answer === 'no' ? 'replyNo' : 'replyPerhaps')}</Head>
      <Form form={form} submit={t('send')} beside={<Button onClick={done}>{t('cancel')}</Button>}>
        <LongText form={form} name="words" label={t('replyWords')} rows={3} />
      </Form>
    </>
  );
}
