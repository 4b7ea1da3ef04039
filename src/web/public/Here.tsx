import './holdingWords.ts';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useLocation, useParams } from 'react-router';
import { doorsContract } from '#contract/doors.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Say, Soft, Title, Two } from './parts.tsx';
import { KioskSigns } from './Sign.tsx';
import { isShared } from './shared.ts';

type Here = Answer<'POST /api/public/here/:token'>;
interface Said {
  given: string;
  family: string;
  known: string;
}

/** Seconds until a shared device has forgotten whoever was before it. */
const forgetsAfter = 12;
/** The same while somebody signs. */
const signsFor = 300;

/** The page behind the poster: whoever stands there says that they are here. On a shared device it forgets each of them. */
export default function Here() {
  const { token = '' } = useParams();
  const { t } = useTranslation();
  const kiosk = isShared(useLocation().search);
  const page = useAsk('GET /api/public/here/:token', { token }, { everyMs: 60_000 });
  const [done, setDone] = useState<{ here: Here; said: Said } | null>(null);
  const [turn, setTurn] = useState(0);
  const next = () => {
    setDone(null);
    setTurn((n) => n + 1);
  };
  useEffect(() => {
    if (!kiosk || !done) return undefined;
    const timer = setTimeout(next, (done.here.outcome === 'sign' ? signsFor : forgetsAfter) * 1000);
    return () => clearTimeout(timer);
  });
  return (
    <Loaded of={page}>
      {(p) => (
        <>
          <Title>{p.title}</Title>
          {!p.open ? (
            <Say tone="need">{t('hereClosed')}</Say>
          ) : done ? (
            <Outcome done={done} token={token} kiosk={kiosk} next={next} set={setDone} />
          ) : (
            <Ask key={turn} token={token} kiosk={kiosk} done={setDone} />
          )}
        </>
      )}
    </Loaded>
  );
}

function Ask({
  token,
  kiosk,
  done,
}: {
  token: string;
  kiosk: boolean;
  done: (done: { here: Here; said: Said }) => void;
}) {
  const { t } = useTranslation();
  const form = useForm({
    values: { given: '', family: '', known: '', share: false },
    request: ({ share: _, ...said }) =>
      prepare(doorsContract, 'POST /api/public/here/:token', {
        params: { token },
        body: { ...said, language: language() },
      }),
    after: (here, { share, ...said }) => {
      done({ here, said });
      // Where they are is told apart, and only where they agreed.
      if (share && here.outcome === 'in') void tellPlace(token, said);
    },
  });
  return (
    <Form form={form} size="go" submit={t('hereDo')}>
      <Soft marginBottom="10px">{t('hereText')}</Soft>
      <Two>
        <Text
          form={form}
          name="given"
          label={t('given')}
          autoComplete={kiosk ? 'off' : 'given-name'}
          required
        />
        <Text form={form} name="family" label={t('family')} autoComplete={kiosk ? 'off' : 'family-name'} />
      </Two>
      <Text
        form={form}
        name="known"
        label={t('hereKnown')}
        help={t('hereKnownHelp')}
        autoComplete={kiosk ? 'off' : 'email'}
        required
      />
      {!kiosk && 'geolocation' in navigator && <Tick form={form} name="share" label={t('herePlace')} />}
    </Form>
  );
}

/** Says where somebody is who agreed to it. They are in already: it changes nothing else. */
async function tellPlace(token: string, said: Said): Promise<void> {
  const { call } = await import('#web/api.ts');
  navigator.geolocation.getCurrentPosition(({ coords: { latitude, longitude } }) => {
    void call('POST /api/public/here/:token', {
      params: { token },
      body: { ...said, place: { latitude, longitude } },
    });
  });
}

function Outcome({
  done: { here, said },
  token,
  kiosk,
  next,
  set,
}: {
  done: { here: Here; said: Said };
  token: string;
  kiosk: boolean;
  next: () => void;
  set: (done: { here: Here; said: Said }) => void;
}) {
  const { t } = useTranslation();
  const again = (others: boolean) =>
    prepare(doorsContract, 'POST /api/public/here/:token', {
      params: { token },
      body: { ...said, others, language: language() },
    });
  const all = useForm({
    values: {},
    request: () => again(true),
    after: (answer) => set({ here: answer, said }),
  });
  const good = here.outcome === 'in' || here.outcome === 'already in';
  const words = {
    sign: t('hereSign'),
    in: t('hereIn', { name: said.given || said.family }),
    'already in': t('hereAlready', { name: said.given || said.family }),
    'see the door': t('hereDoor'),
    'not found': t('hereNot'),
  };
  return (
    <>
      <Say tone={good ? 'good' : 'need'} role="status">
        {words[here.outcome]}
      </Say>
      {here.sign && (
        <KioskSigns
          // What is signed next is another form.
          key={here.sign.waivers[0]?.id}
          of={here.sign}
          said={said}
          token={token}
          // What was signed lets them in, or shows what else there is.
          after={() =>
            void again(here.sign!.people.length > 1)
              .send(crypto.randomUUID())
              .then((answer) => set({ here: answer, said }))
          }
        />
      )}
      {good && here.others > 0 && (
        <Form form={all} submit={t('hereOthers', { count: here.others })} size="go">
          {null}
        </Form>
      )}
      <Button marginTop="14px" onClick={next}>
        {good || kiosk ? t('hereNext') : t('hereAgain')}
      </Button>
    </>
  );
}
