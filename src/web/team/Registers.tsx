import { chakra } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { eventsContract } from '#contract/events.ts';
import { givingContract } from '#contract/giving.ts';
import { holdsOn, saySpan } from '#core/contacts/membership.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Choose, LongText, Text } from '../kit/form/fields.tsx';
import { type Prepared, prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { Kinds } from './Kinds.tsx';
import { Logo } from './Logo.tsx';
import { OwnFields } from './OwnFields.tsx';
import { Places } from './Places.tsx';

/** What plans choose from: places, units, funds and waivers. */
export default function Registers() {
  const choices = useAsk('GET /api/choices');
  return (
    <chakra.div className="page" maxWidth="860px">
      <h1>{phrase('team.placesUnitsFundsAnd')}</h1>
      <Loaded of={choices}>
        {(c) => (
          <>
            <Places />
            <Register
              title={phrase('team.units')}
              rows={c.units.map((u) => [u.name, ''])}
              more={(at) => (
                <>
                  <UnitPeople id={c.units[at]!.id} />
                  <chakra.div padding="0 0 8px 16px" fontSize="14px">
                    <h3>{phrase('team.logo')}</h3>
                    <Logo unitId={c.units[at]!.id} name={c.units[at]!.name} />
                  </chakra.div>
                </>
              )}
            >
              <AddNamed key="unit" endpoint="POST /api/units" label={phrase('common.unit')} />
            </Register>
            <Register title={phrase('team.funds')} rows={c.funds.map((f) => [f.name, ''])}>
              <AddNamed key="fund" endpoint="POST /api/funds" label={phrase('team.fund')} />
            </Register>
            <Initiatives />
            <Register
              title={phrase('team.waivers')}
              rows={c.waivers.map((w) => [
                phrase('team.version', { title: w.title, version: w.version }),
                phrase('team.askedOfClause', { audience: term(w.audience), clauses: w.clauses }),
              ])}
            >
              <AddWaiver />
            </Register>
            <Kinds />
            <OwnFields />
          </>
        )}
      </Loaded>
    </chakra.div>
  );
}

function Register({
  title,
  rows,
  more,
  children,
}: {
  title: string;
  rows: string[][];
  /** What a row shows when it is opened. */
  more?: (at: number) => ReactNode;
  children: ReactNode;
}) {
  return (
    <chakra.section marginTop="22px">
      <h2>{title}</h2>
      {rows.length === 0 && <p className="soft">{phrase('team.noneYet')}</p>}
      <ul className="lines">
        {rows.map(([name, words], at) =>
          more ? (
            <li key={name}>
              <Opened title={name!}>{() => more(at)}</Opened>
            </li>
          ) : (
            <li key={name} className="spread">
              <span className="name">{name}</span>
              <span className="soft">{words}</span>
            </li>
          ),
        )}
      </ul>
      <chakra.details marginTop="8px">
        <chakra.summary color="verdigris" cursor="pointer">
          {phrase('team.addOne')}
        </chakra.summary>
        <chakra.div className="form" marginTop="8px">
          {children}
        </chakra.div>
      </chakra.details>
    </chakra.section>
  );
}

/** A line that opens, and asks for what it shows only then. */
function Opened({ title, children }: { title: string; children: () => ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <details onToggle={(e) => setOpen(e.currentTarget.open)}>
      <chakra.summary className="name" cursor="pointer">
        {title}
      </chakra.summary>
      {open && children()}
    </details>
  );
}

/** Who does what in a unit, by now and before. */
function UnitPeople({ id }: { id: string }) {
  const { today } = useSaying();
  const unit = useAsk('GET /api/units/:id/people', { params: { id } });
  return (
    <Loaded of={unit}>
      {({ about, people }) => (
        <chakra.div padding="2px 0 8px 16px" fontSize="14px">
          {about && <p className="soft">{about}</p>}
          {people.length === 0 && <p className="soft">{phrase('team.nobodyHasARole')}</p>}
          <ul className="plainlist">
            {people.map((p) => (
              <li key={`${p.contactId}${p.role}${p.from}`} className={holdsOn(p, today) ? '' : 'past'}>
                <span>
                  <Person id={p.contactId} name={p.name} />, {p.role}
                </span>
                <span className="soft num">{saySpan(p)}</span>
              </li>
            ))}
          </ul>
        </chakra.div>
      )}
    </Loaded>
  );
}

/** Longer undertakings that gifts add up to. */
function Initiatives() {
  return (
    <Loaded of={useAsk('GET /api/giving/choices')}>
      {({ initiatives }) => (
        <Register title={phrase('team.initiatives')} rows={initiatives.map((i) => [i.name, ''])}>
          <AddNamed key="initiative" endpoint="POST /api/initiatives" label={phrase('team.initiative')} />
        </Register>
      )}
    </Loaded>
  );
}

function AddNamed({
  endpoint,
  label,
}: {
  endpoint: 'POST /api/units' | 'POST /api/funds' | 'POST /api/initiatives';
  label: string;
}) {
  const form = useForm({
    values: { name: '' },
    request: (body): Prepared<unknown> =>
      endpoint === 'POST /api/initiatives'
        ? prepare(givingContract, endpoint, { body })
        : prepare(eventsContract, endpoint, { body }),
    after: () => say(phrase('common.added')),
    again: true,
  });
  return (
    <Form form={form} submit={phrase('common.add')} look="normal">
      <Text form={form} name="name" label={label} required />
    </Form>
  );
}

function AddWaiver() {
  const form = useForm({
    values: { title: '', audience: 'everyone' as 'everyone' | 'minors' | 'adults', clauses: '' },
    request: ({ clauses, ...v }) =>
      prepare(eventsContract, 'POST /api/waivers', {
        body: {
          ...v,
          clauses: clauses
            .split('\n')
            .map((c) => c.trim())
            .filter(Boolean),
        },
      }),
    fieldOf: (path) => (path.startsWith('clauses.') ? 'clauses' : path),
    after: ({ version }) => say(phrase('team.addedAsVersion', { version })),
    again: true,
  });
  return (
    <Form form={form} submit={phrase('common.add')} look="normal">
      <div className="pair">
        <Text
          form={form}
          name="title"
          label={phrase('team.title')}
          required
          help={phrase('team.theSameTitleAgain')}
        />
        <Choose
          form={form}
          name="audience"
          label={phrase('team.askedOf')}
          choices={['everyone', 'minors', 'adults'].map((v) => ({ value: v, label: term(v) }))}
        />
      </div>
      <LongText form={form} name="clauses" label={phrase('team.clausesOneALine')} required />
    </Form>
  );
}
