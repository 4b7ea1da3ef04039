import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import type { OwnDetailsOf, OwnPage } from '#contract/own.ts';
import { textKeys, textsOf } from '#core/contacts/attributes.ts';
import { sayLongDate } from '#core/time/say.ts';
import { ApiProblem, call } from '#web/api.ts';
import { useAsk } from './asking.ts';
import { Field, TextField } from './fields.tsx';
import { Loaded, Problems } from './notices.tsx';

/** A person's own page: what is held about them and the children in their care, to be put right. */
export default function Own() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/own/:token', { token })}>
      {(page) => <Shown page={page} token={token} />}
    </Loaded>
  );
}

function Shown({ page, token }: { page: OwnPage; token: string }) {
  const { t } = useTranslation();
  const { person } = page;
  return (
    <>
      <h1>{t('ownTitle', { name: person.given || person.family })}</h1>
      <p className="soft">{t('ownText', { organization: page.organization })}</p>
      <p className="num" style={{ margin: '6px 0 14px' }}>
        {[...page.emails, ...page.phones].join(' · ')}
      </p>
      <Details person={person} token={token} reach />
      {page.memberships.length > 0 && (
        <>
          <h2>{t('memberships')}</h2>
          {page.memberships.map((m) => (
            <Membership key={m.id} of={m} page={page} token={token} />
          ))}
        </>
      )}
      <Consents page={page} token={token} />
      {page.children.map((child) => (
        <section key={child.id}>
          <h2>{t('inYourCare', { name: `${child.given} ${child.family}`.trim() })}</h2>
          <Details person={child} token={token} />
        </section>
      ))}
    </>
  );
}

/** One membership: what it is, and asking for another level or its end. */
function Membership({
  of,
  page,
  token,
}: {
  of: OwnPage['memberships'][number];
  page: OwnPage;
  token: string;
}) {
  const { t, i18n } = useTranslation();
  const client = useQueryClient();
  const [asking, setAsking] = useState(false);
  const [level, setLevel] = useState(of.level ?? '');
  const [endsOn, setEndsOn] = useState(of.until ?? '');
  const ask = useMutation({
    mutationFn: () =>
      call('POST /api/public/own/:token/memberships/:id', {
        params: { token, id: of.id },
        body: {
          ...(level && level !== of.level ? { level } : {}),
          ...(endsOn && endsOn !== of.until ? { endsOn } : {}),
        },
      }),
    onSuccess: async () => {
      setAsking(false);
      await client.invalidateQueries();
    },
  });
  const problem = ask.error instanceof ApiProblem ? ask.error : null;
  const over = of.until !== null && of.until < page.today;
  const day = of.until ? sayLongDate(of.until, i18n.language) : '';
  return (
    <div className="membership">
      <p>
        {of.words}
        {of.until && <span className="soft"> · {over ? t('endedOn', { day }) : t('endsOn', { day })}</span>}{' '}
        {!over && !asking && (
          <button type="button" className="btn plain" onClick={() => setAsking(true)}>
            {t('askToChange')}
          </button>
        )}
      </p>
      {of.waiting.length > 0 && <p className="soft">{t('ownWaits')}</p>}
      {asking && (
        <form
          noValidate
          onSubmit={(e) => {
            e.preventDefault();
            ask.mutate();
          }}
        >
          <Problems problem={problem} />
          <div className="two">
            <Field label={t('level')} error={problem?.fields.level}>
              {(props) => (
                <select {...props} value={level} onChange={(e) => setLevel(e.target.value)}>
                  {!of.level && <option value="" />}
                  {page.levels.map((l) => (
                    <option key={l}>{l}</option>
                  ))}
                </select>
              )}
            </Field>
            <TextField
              label={t('lastDay')}
              type="date"
              value={endsOn}
              set={setEndsOn}
              error={problem?.fields.endsOn}
            />
          </div>
          <button type="submit" className="btn primary" disabled={ask.isPending}>
            {t('ask')}
          </button>{' '}
          <button type="button" className="btn" onClick={() => setAsking(false)}>
            {t('leaveIt')}
          </button>
        </form>
      )}
    </div>
  );
}

function Details({ person, token, reach = false }: { person: OwnDetailsOf; token: string; reach?: boolean }) {
  const { t } = useTranslation();
  const client = useQueryClient();
  const [form, setForm] = useState({
    given: person.given,
    family: person.family,
    birthDate: person.birthDate ?? '',
    street: person.street ?? '',
    postalCode: person.postalCode ?? '',
    ...textsOf((key) => person[key] ?? ''),
    language: person.language,
    addEmail: '',
    addPhone: '',
  });
  const save = useMutation({
    mutationFn: () =>
      call('POST /api/public/own/:token/details', {
        params: { token },
        body: {
          contactId: person.id,
          given: form.given,
          family: form.family,
          birthDate: form.birthDate || null,
          street: form.street || null,
          postalCode: form.postalCode || null,
          ...textsOf((key) => form[key] || null),
          language: form.language === 'fr' ? 'fr' : 'en',
          ...(form.addEmail ? { addEmail: form.addEmail } : {}),
          ...(form.addPhone ? { addPhone: form.addPhone } : {}),
        },
      }),
    onSuccess: async () => {
      setForm((f) => ({ ...f, addEmail: '', addPhone: '' }));
      await client.invalidateQueries();
    },
  });
  const problem = save.error instanceof ApiProblem ? save.error : null;
  const wrong = problem?.fields ?? {};
  const text = (key: keyof typeof form, label: string, type = 'text') => (
    <TextField
      key={key}
      label={label}
      type={type}
      value={form[key]}
      set={(v) => setForm({ ...form, [key]: v })}
      error={wrong[key]}
      {...(person.waiting.includes(key) ? { help: t('ownWaits') } : {})}
    />
  );
  return (
    <form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <Problems problem={problem} />
      <div className="two">
        {text('given', t('given'))}
        {text('family', t('family'))}
      </div>
      <div className="two">
        {text('street', t('street'))}
        {text('postalCode', t('postalCode'))}
      </div>
      <div className="two">
        {text('birthDate', t('birthDate'), 'date')}
        <Field label={t('language')}>
          {(props) => (
            <select
              {...props}
              value={form.language}
              onChange={(e) => setForm({ ...form, language: e.target.value })}
            >
              <option value="en">{t('english')}</option>
              <option value="fr">{t('french')}</option>
            </select>
          )}
        </Field>
      </div>
      {textKeys.map((key) => text(key, t(key)))}
      {reach && (
        <div className="two">
          {text('addEmail', t('addAnEmail'), 'email')}
          {text('addPhone', t('addATelephone'), 'tel')}
        </div>
      )}
      <button type="submit" className="btn primary" disabled={save.isPending}>
        {t('save')}
      </button>
      {save.data && !save.isPending && (
        <p className="say" role="status">
          {save.data.waiting ? t('ownSavedWaits') : save.data.changed ? t('ownSaved') : t('ownNothing')}
        </p>
      )}
    </form>
  );
}

const topicWords = {
  newsletter: 'topicNewsletter',
  invitations: 'topicInvitations',
  appeals: 'topicAppeals',
} as const;

function Consents({ page, token }: { page: OwnPage; token: string }) {
  const { t } = useTranslation();
  const client = useQueryClient();
  // What was just chosen is shown at once; it falls back when it could not be kept.
  const [said, setSaid] = useState<Record<string, boolean>>({});
  const say = useMutation({
    mutationFn: (body: { topic: 'newsletter'; channel: 'email'; granted: boolean }) =>
      call('POST /api/public/own/:token/consents', { params: { token }, body }),
    onSuccess: () => client.invalidateQueries(),
    onError: () => setSaid({}),
  });
  return (
    <>
      <h2>{t('hearTitle')}</h2>
      <Problems problem={say.error instanceof ApiProblem ? say.error : null} />
      {page.consents.map((c) => {
        const name = `${c.topic} ${c.channel}`;
        const granted = said[name] ?? c.granted;
        return (
          <fieldset key={name} className="hear">
            <legend>
              {t(topicWords[c.topic])} {c.channel === 'email' ? t('byEmail') : t('byText')}
              {granted === null && <span className="soft"> ({t('notAsked')})</span>}
            </legend>
            {[true, false].map((yes) => (
              <label key={String(yes)} className="tick">
                <input
                  type="radio"
                  name={name}
                  checked={granted === yes}
                  onChange={() => {
                    setSaid({ ...said, [name]: yes });
                    say.mutate({
                      topic: c.topic as 'newsletter',
                      channel: c.channel as 'email',
                      granted: yes,
                    });
                  }}
                />
                {yes ? t('yes') : t('no')}
              </label>
            ))}
          </fieldset>
        );
      })}
    </>
  );
}
