import { chakra } from '@chakra-ui/react';
import { staffContract } from '#contract/staff.ts';
import type { Answer } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { OneOf } from '../kit/Choosing.tsx';
import { Form } from '../kit/form/Form.tsx';
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
            <Clock />
            <EventProposals />
          </>
        )}
      </Loaded>
      <Backups />
    </div>
  );
}

function Details({ of: { currencyUsed, ...values } }: { of: Answer<'GET /api/organization'> }) {
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
