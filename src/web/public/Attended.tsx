import { chakra } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type AttendanceShown, attendanceContract, disputeKinds } from '#contract/attendance.ts';
import { addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { LongText, OneOf } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { useAsk } from './asking.ts';
import { Acts, Head, Rows, Say, Soft } from './parts.tsx';
import { sayMoment } from './saying.ts';

/** What is kept of who came on the seats of a booking, and the code by which its children are handed over. */
export function AttendedBooking({ token, zone }: { token: string; zone: string }) {
  const { t } = useTranslation();
  const answer = useAsk('GET /api/public/orders/:token/attendance', { token });
  const of = answer.data;
  if (!of) return null;
  return (
    <>
      {of.handover && (
        <Say tone="good">
          <p>{t('handoverCode')}</p>
          <chakra.p className="num" fontSize="34px" letterSpacing="0.14em" margin="0">
            {of.handover}
          </chakra.p>
          <Soft>{t('handoverSays')}</Soft>
        </Say>
      )}
      {of.seats.length > 0 && (
        <>
          <Head>{t('attendance')}</Head>
          <Rows>
            {of.seats.map((seat) => (
              <li key={seat.id}>
                <Kept
                  of={seat}
                  name={seat.name}
                  zone={zone}
                  certificate={addressOf('GET /api/public/orders/:token/seats/:seat/certificate.pdf', {
                    token,
                    seat: seat.id,
                  })}
                  link={{ token, seat: seat.id }}
                />
              </li>
            ))}
          </Rows>
        </>
      )}
    </>
  );
}

/** The same of the one seat of a guest. */
export function AttendedGuest({ token, zone, name }: { token: string; zone: string; name: string }) {
  const { t } = useTranslation();
  const seat = useAsk('GET /api/public/guests/:token/attendance', { token }).data?.seat;
  if (!seat) return null;
  return (
    <>
      <Head>{t('attendance')}</Head>
      <Kept
        of={seat}
        name={name}
        zone={zone}
        certificate={addressOf('GET /api/public/guests/:token/certificate.pdf', { token })}
        link={{ token, seat: null }}
      />
    </>
  );
}

/** Whose attendance is looked at: by the link of a booking, or of a guest. */
interface Link {
  token: string;
  seat: string | null;
}

/** What is kept of one, and what can be said against it. */
function Kept({
  of,
  name,
  zone,
  certificate,
  link,
}: {
  of: AttendanceShown;
  name: string;
  zone: string;
  certificate: string;
  link: Link;
}) {
  const { t } = useTranslation();
  const [saying, setSaying] = useState(false);
  const moment = (at: string) => sayMoment(at, zone);
  const kept =
    of.arrivedAt === null
      ? t(of.state === 'missed' ? 'keptMissed' : 'keptExpected')
      : of.leftAt === null
        ? t('keptCame', { at: moment(of.arrivedAt) })
        : t('keptCameLeft', { at: moment(of.arrivedAt), until: moment(of.leftAt) });
  return (
    <>
      <div>
        {name && <b>{name}: </b>}
        {kept}
      </div>
      {of.dispute && (
        <Soft>
          {[
            t(
              of.dispute.outcome === null
                ? 'disputeSent'
                : of.dispute.outcome === 'corrected'
                  ? 'disputeCorrected'
                  : 'disputeKept',
            ),
            of.dispute.answer,
          ]
            .filter(Boolean)
            .join(' ')}
        </Soft>
      )}
      <Acts gap="18px">
        {of.certificate && <a href={certificate}>{t('certificate')}</a>}
        {of.until && !saying && (
          <Button look="link" onClick={() => setSaying(true)}>
            {t('disputeIt')}
          </Button>
        )}
      </Acts>
      {saying && (
        <Dispute
          link={link}
          came={of.arrivedAt !== null}
          until={moment(of.until!)}
          close={() => setSaying(false)}
        />
      )}
    </>
  );
}

/** Says that it is wrong, and how it was. */
function Dispute({
  link,
  came,
  until,
  close,
}: {
  link: Link;
  came: boolean;
  until: string;
  close: () => void;
}) {
  const { t } = useTranslation();
  const client = useQueryClient();
  const words = { came: t('saysCame'), 'did not come': t('saysNotCame'), 'other times': t('saysOtherTimes') };
  const form = useForm({
    values: { says: came ? 'other times' : 'came', words: '' },
    request: (v) => {
      const body = { says: v.says as (typeof disputeKinds)[number], words: v.words };
      return link.seat
        ? prepare(attendanceContract, 'POST /api/public/orders/:token/seats/:seat/attendance', {
            params: { token: link.token, seat: link.seat },
            body,
          })
        : prepare(attendanceContract, 'POST /api/public/guests/:token/attendance', {
            params: { token: link.token },
            body,
          });
    },
    after: () => {
      close();
      void client.invalidateQueries();
    },
  });
  return (
    <Form
      form={form}
      submit={t('send')}
      beside={
        <Button look="plain" onClick={close}>
          {t('cancel')}
        </Button>
      }
    >
      <OneOf
        form={form}
        name="says"
        label={t('disputeWhat')}
        choices={disputeKinds
          .filter((kind) => (came ? kind !== 'came' : kind === 'came'))
          .map((kind) => ({ value: kind, label: words[kind] }))}
      />
      <LongText form={form} name="words" label={t('disputeWords')} rows={3} />
      <Soft>{t('disputeUntil', { until })}</Soft>
    </Form>
  );
}
