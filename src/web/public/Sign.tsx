import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { PublicOrder } from '#contract/registration.ts';
import { ApiProblem, call } from '#web/api.ts';
import { TextField } from './fields.tsx';
import { Problems } from './notices.tsx';

/** The waiver of one participant, clause by clause, signed by typed name. */
export function Sign({
  waiver,
  seat,
  need,
  token,
  done,
}: {
  waiver: NonNullable<PublicOrder['waiver']>;
  seat: PublicOrder['seats'][number];
  need: 'self' | 'guardian';
  token: string;
  done: () => void;
}) {
  const { t } = useTranslation();
  const client = useQueryClient();
  const [ticked, setTicked] = useState<string[]>([]);
  const [typedName, setTypedName] = useState('');
  const sign = useMutation({
    mutationFn: () =>
      call('POST /api/public/orders/:token/signatures', {
        params: { token },
        body: { registrationId: seat.id, relation: need, typedName, ticked },
      }),
    onSuccess: async () => {
      await client.invalidateQueries();
      done();
    },
  });
  const problem = sign.error instanceof ApiProblem ? sign.error : null;
  return (
    <form
      noValidate
      className="say"
      onSubmit={(e) => {
        e.preventDefault();
        sign.mutate();
      }}
    >
      <h2 style={{ marginTop: 0 }}>{waiver.title}</h2>
      <p className="soft">
        {seat.given} {seat.family} · {need === 'guardian' ? t('signGuardian') : t('signSelf')}
      </p>
      <Problems problem={problem} />
      {waiver.clauses.map((c, at) => (
        <div key={c.id}>
          <label className="tick">
            <input
              type="checkbox"
              checked={ticked.includes(c.id)}
              onChange={(e) =>
                setTicked(e.target.checked ? [...ticked, c.id] : ticked.filter((x) => x !== c.id))
              }
            />
            <span>{c.text}</span>
          </label>
          {problem?.fields[`clauses.${at}`] && (
            <div className="error-line">{problem.fields[`clauses.${at}`]}</div>
          )}
        </div>
      ))}
      <div style={{ marginTop: 10 }}>
        <TextField
          label={t('typeName')}
          help={t('signNote')}
          value={typedName}
          set={setTypedName}
          error={problem?.fields.typedName}
          autoComplete="name"
        />
      </div>
      <button type="submit" className="btn primary" disabled={sign.isPending}>
        {t('sign')}
      </button>{' '}
      <button type="button" className="btn" onClick={done}>
        {t('cancel')}
      </button>
    </form>
  );
}
