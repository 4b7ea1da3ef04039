import { staffContract } from '#contract/staff.ts';
import type { Answer } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { Form } from '../kit/form/Form.tsx';
import { Choose, DateField } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';

type Known = Answer<'GET /api/account/absence'>;

/** When somebody who approves is away, and who decides meanwhile. */
export function Absence() {
  const known = useAsk('GET /api/account/absence');
  return (
    <section aria-label={phrase('clearance.absence')}>
      <h2>{phrase('clearance.absence')}</h2>
      <p className="soft">{phrase('clearance.absenceText')}</p>
      <Loaded of={known}>{(k) => <Away key={JSON.stringify(k.absence)} known={k} />}</Loaded>
    </section>
  );
}

function Away({ known: { absence, deputies } }: { known: Known }) {
  const back = useAction('PUT /api/account/absence', () => say(phrase('common.saved')));
  const form = useForm({
    values: {
      from: absence?.from ?? '',
      until: absence?.until ?? '',
      deputyId: absence?.deputyId ?? '',
    },
    request: (v) =>
      prepare(staffContract, 'PUT /api/account/absence', {
        body: { absence: { ...v, deputyId: v.deputyId || null } },
      }),
    fieldOf: (path) => path.replace(/^absence\./u, ''),
    after: () => say(phrase('common.saved')),
  });
  return (
    <div className="form">
      <Form
        form={form}
        submit={phrase('clearance.saveAbsence')}
        look="normal"
        beside={
          absence && (
            <Button
              look="plain"
              disabled={back.isPending}
              onClick={() => back.mutate({ body: { absence: null } })}
            >
              {phrase('clearance.notAway')}
            </Button>
          )
        }
      >
        <div className="pair">
          <DateField form={form} name="from" label={phrase('clearance.awayFrom')} required />
          <DateField form={form} name="until" label={phrase('clearance.awayUntil')} required />
        </div>
        <Choose
          form={form}
          name="deputyId"
          label={phrase('clearance.deputy')}
          empty={phrase('clearance.nobodyStandsIn')}
          choices={deputies.map((d) => ({ value: d.id, label: d.name }))}
        />
      </Form>
    </div>
  );
}
