import { chakra } from '@chakra-ui/react';
import { staffContract } from '#contract/staff.ts';
import { usualQuiet } from '#core/messages/hours.ts';
import type { Answer } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { OneOf, Toggle } from '../kit/Choosing.tsx';
import { Form } from '../kit/form/Form.tsx';
import { Count, TimeField } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { OrganizationFields } from '../parts/OrganizationFields.tsx';
import { Backups } from './Backups.tsx';
import { EventProposals } from './EventProposals.tsx';
import { Logo } from './Logo.tsx';

/** The organization itself: what it is called, its logo, how it says times, whether others may propose to it, its backups. */
export default function Organization() {
  const organization = useAsk('GET /api/organization');
  return (
    <div className="page narrow">
      <chakra.h1 marginBottom="12px">{phrase('organization.title')}</chakra.h1>
      <Loaded of={organization}>
        {(o) => (
          <>
            <Details of={o} />
            <chakra.section marginTop="18px">
              <h2>{phrase('team.logo')}</h2>
              <Logo unitId={null} name={o.name} />
            </chakra.section>
            <QuietHours of={o.quietHours} />
            <AttendanceDays days={o.attendanceDays} />
            <Clock />
            <EventProposals />
          </>
        )}
      </Loaded>
      <Backups />
    </div>
  );
}

function Details({
  of: { currencyUsed, quietHours: _, attendanceDays: __, ...values },
}: {
  of: Answer<'GET /api/organization'>;
}) {
  const form = useForm({
    values,
    request: (body) => prepare(staffContract, 'PUT /api/organization', { body }),
    after: () => say(phrase('organization.changed')),
    again: true,
  });
  return (
    <Form form={form} submit={phrase('common.save')} disabled={!form.dirty}>
      <OrganizationFields form={form} at={(field) => field} currencyFixed={currencyUsed} />
    </Form>
  );
}

/** The hours in which nothing is sent that can wait; none where they are switched off. */
function QuietHours({ of }: { of: Answer<'GET /api/organization'>['quietHours'] }) {
  const set = useAction('PUT /api/organization/quiet-hours', () => say(phrase('common.saved')));
  const form = useForm({
    values: of ?? usualQuiet,
    request: (quietHours) =>
      prepare(staffContract, 'PUT /api/organization/quiet-hours', { body: { quietHours } }),
    fieldOf: (path) => path.replace('quietHours.', ''),
    after: () => say(phrase('common.saved')),
    again: true,
  });
  return (
    <chakra.section marginTop="18px">
      <h2>{phrase('organization.quietHours')}</h2>
      <Problems of={set.problem} />
      <Toggle
        checked={of !== null}
        disabled={set.isPending}
        set={(on) => set.mutate({ body: { quietHours: on ? usualQuiet : null } })}
      >
        {phrase('organization.quietHoursOn')}
      </Toggle>
      {of && (
        <Form form={form} submit={phrase('common.save')} disabled={!form.dirty}>
          <div className="pair">
            <TimeField form={form} name="from" label={phrase('organization.quietFrom')} required />
            <TimeField form={form} name="until" label={phrase('organization.quietUntil')} required />
          </div>
        </Form>
      )}
      <p className="soft">{phrase('organization.quietHelp')}</p>
    </chakra.section>
  );
}

/** For how long after an event what is kept of who came can be corrected. */
function AttendanceDays({ days }: { days: number }) {
  const form = useForm({
    values: { attendanceDays: String(days) },
    request: (v) =>
      prepare(staffContract, 'PUT /api/organization/attendance-days', {
        body: { attendanceDays: v.attendanceDays.trim() ? Number(v.attendanceDays) : Number.NaN },
      }),
    after: () => say(phrase('common.saved')),
  });
  return (
    <chakra.section marginTop="18px">
      <h2>{phrase('organization.attendance')}</h2>
      <Form form={form} submit={phrase('common.save')} disabled={!form.dirty}>
        <Count
          form={form}
          name="attendanceDays"
          label={phrase('organization.attendanceDays')}
          help={phrase('organization.attendanceDaysHelp')}
        />
      </Form>
    </chakra.section>
  );
}

/** By which clock the organization says times of day. */
function Clock() {
  const clock = useMe().data?.organization.clock;
  const set = useAction('PUT /api/organization/clock');
  return (
    <chakra.section marginTop="18px">
      <Problems of={set.problem} />
      <OneOf
        label={phrase('team.clock')}
        help={phrase('team.clockHelp')}
        value={clock ? String(clock) : null}
        set={(to) => set.mutate({ body: { clock: to === '12' ? 12 : 24 } })}
        choices={[
          { value: '24', label: phrase('account.clock24') },
          { value: '12', label: phrase('account.clock12') },
        ]}
      />
    </chakra.section>
  );
}
