import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { sayLongDate } from '#core/time/say.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { addressOf, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from './asking.ts';
import { Copied } from './Copied.tsx';
import { Acts, Rows, Say, Small, Soft, Title } from './parts.tsx';

/** What somebody signed, by the link of their copy: who it is for, the copy, and a way to say that it was somebody else. */
export default function Signed() {
  const { token = '' } = useParams();
  const { t } = useTranslation();
  const client = useQueryClient();
  const [sure, setSure] = useState(false);
  const signed = useAsk('GET /api/public/signed/:token', { token });
  const states = {
    valid: t('signedValid'),
    expired: t('signedOver'),
    superseded: t('signedAnew'),
    revoked: t('signedRevoked'),
  };
  const there = signed.isSuccess;
  useEffect(() => {
    // Whoever reads what is sent there has the copy: from now on it is known whose hand it was.
    if (there) void call('POST /api/public/signed/:token/seen', { params: { token } });
  }, [there, token]);
  const revoke = useMutation({
    mutationFn: () => call('POST /api/public/signed/:token/revocation', { params: { token } }),
    onSettled: () => {
      setSure(false);
      void client.invalidateQueries();
    },
  });
  return (
    <Loaded of={signed}>
      {(s) => (
        <>
          <Title>{s.title}</Title>
          <Soft marginBottom="10px">
            {t('signedBy', { name: s.typedName, date: sayLongDate(dateOf(s.at, s.zone), s.language) })}
            {s.event && ` · ${s.event}`}
          </Soft>
          <Rows>
            {s.people.map((p) => (
              <li key={p.sha256}>
                <strong>{p.name}</strong> · {states[p.state]}
                {p.state === 'valid' && p.holdsUntil && (
                  <Small>{t('standingHolds', { date: sayLongDate(p.holdsUntil, s.language) })}</Small>
                )}
                <chakra.small display="block" color="soft" fontSize="13px" overflowWrap="anywhere">
                  {t('fingerprint', { hash: p.sha256 })}
                </chakra.small>
              </li>
            ))}
          </Rows>
          {s.other && (
            <Say tone="need">
              <p>{t('otherSigns')}</p>
              <Copied label={t('otherLink')} copy={t('copyAddress')} text={s.other} />
            </Say>
          )}
          <Acts>
            <a href={addressOf('GET /api/public/signed/:token/copy.pdf', { token })}>{t('signedCopy')}</a>
          </Acts>
          {s.people.some((p) => p.state === 'valid') && (
            <Say tone="need">
              <chakra.p marginBottom="8px">{t('signedNotMe')}</chakra.p>
              {sure ? (
                <Acts>
                  <Button look="stop" disabled={revoke.isPending} onClick={() => revoke.mutate()}>
                    {t('signedRevoke', { count: s.people.length })}
                  </Button>
                  <Button onClick={() => setSure(false)}>{t('cancel')}</Button>
                </Acts>
              ) : (
                <Button onClick={() => setSure(true)}>{t('signedRevokeAsk')}</Button>
              )}
            </Say>
          )}
        </>
      )}
    </Loaded>
  );
}
