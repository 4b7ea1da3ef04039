import { chakra } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { holdsOn, saySpan } from '#core/contacts/membership.ts';
import { Button } from '#web/kit/Button.tsx';
import { ChoiceField, Field, TextField } from '../kit/Field.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { OwnFields } from './OwnFields.tsx';

/** What plans choose from: places, units, funds and waivers. */
export default function Registers() {
  const choices = useAsk('GET /api/choices');
  return (
    <chakra.div className="page" maxWidth="860px">
      <h1>Places, units, funds and waivers</h1>
      <Loaded of={choices}>
        {(c) => (
          <>
            <Register
              title="Places"
              rows={c.venues.map((v) => [v.name, `${v.address}${v.capacity ? `, holds ${v.capacity}` : ''}`])}
            >
              <AddVenue />
            </Register>
            <Register
              title="Units"
              rows={c.units.map((u) => [u.name, ''])}
              more={(at) => <UnitPeople id={c.units[at]!.id} />}
            >
              <AddNamed key="unit" endpoint="POST /api/units" label="Unit" />
            </Register>
            <Register title="Funds" rows={c.funds.map((f) => [f.name, ''])}>
              <AddNamed key="fund" endpoint="POST /api/funds" label="Fund" />
            </Register>
            <Register
              title="Waivers"
              rows={c.waivers.map((w) => [
                `${w.title}, version ${w.version}`,
                `asked of ${w.audience}, ${w.clauses} ${w.clauses === 1 ? 'clause' : 'clauses'}`,
              ])}
            >
              <AddWaiver />
            </Register>
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
      {rows.length === 0 && <p className="soft">None yet.</p>}
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
          Add one
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
          {people.length === 0 && (
            <p className="soft">Nobody has a role in it yet. Roles are given on the page of a contact.</p>
          )}
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

function AddNamed({ endpoint, label }: { endpoint: 'POST /api/units' | 'POST /api/funds'; label: string }) {
  const [name, setName] = useState('');
  const add = useAction(endpoint, () => {
    say('Added');
    setName('');
  });
  return (
    <form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate({ body: { name } });
      }}
    >
      <TextField label={label} value={name} set={setName} error={add.problem?.fields.name} />
      <Button type="submit" disabled={add.isPending}>
        Add
      </Button>
    </form>
  );
}

const noVenue = { name: '', address: '', capacity: '', accessNotes: '' };
function AddVenue() {
  const [form, setForm] = useState(noVenue);
  const add = useAction('POST /api/venues', () => {
    say('Added');
    setForm(noVenue);
  });
  const wrong = add.problem?.fields ?? {};
  return (
    <form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate({ body: { ...form, capacity: form.capacity ? Number(form.capacity) : null } });
      }}
    >
      <div className="pair">
        <TextField
          label="Name of the place"
          value={form.name}
          set={(name) => setForm({ ...form, name })}
          error={wrong.name}
        />
        <TextField
          label="Holds"
          type="number"
          value={form.capacity}
          set={(capacity) => setForm({ ...form, capacity })}
          error={wrong.capacity}
          help="People; empty when nobody knows."
        />
      </div>
      <TextField
        label="Address"
        value={form.address}
        set={(address) => setForm({ ...form, address })}
        error={wrong.address}
      />
      <TextField
        label="Access"
        value={form.accessNotes}
        set={(accessNotes) => setForm({ ...form, accessNotes })}
        help="Steps, ramps, toilets; shown on the public page."
      />
      <Button type="submit" disabled={add.isPending}>
        Add
      </Button>
    </form>
  );
}

function AddWaiver() {
  const [title, setTitle] = useState('');
  const [audience, setAudience] = useState<'everyone' | 'minors' | 'adults'>('everyone');
  const [clauses, setClauses] = useState('');
  const add = useAction('POST /api/waivers', ({ version }) => {
    say(`Added as version ${version}`);
    setTitle('');
    setClauses('');
  });
  return (
    <form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate({
          body: {
            title,
            audience,
            clauses: clauses
              .split('\n')
              .map((c) => c.trim())
              .filter(Boolean),
          },
        });
      }}
    >
      <Problems of={add.problem} />
      <div className="pair">
        <TextField
          label="Title"
          value={title}
          set={setTitle}
          error={add.problem?.fields.title}
          help="The same title again makes its next version."
        />
        <ChoiceField
          label="Asked of"
          value={audience}
          set={(v) => setAudience(v as typeof audience)}
          choices={['everyone', 'minors', 'adults'].map((v) => ({ value: v, label: v }))}
        />
      </div>
      <Field label="Clauses, one a line" error={add.problem?.fields.clauses}>
        {(props) => (
          <textarea {...props} rows={4} value={clauses} onChange={(e) => setClauses(e.target.value)} />
        )}
      </Field>
      <Button type="submit" disabled={add.isPending}>
        Add
      </Button>
    </form>
  );
}
