import { chakra } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { eventsContract } from '#contract/events.ts';
import { givingContract } from '#contract/giving.ts';
import { holdsOn, saySpan } from '#core/contacts/membership.ts';
import { RegisterSection, RowActs } from '#web/parts/RegisterSection.tsx';
import { Roles } from '#web/parts/Roles.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Button, TextLink } from '../kit/Button.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Text } from '../kit/form/fields.tsx';
import { type Prepared, prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { Kinds } from './Kinds.tsx';
import { Logo } from './Logo.tsx';
import { Measures } from './Measures.tsx';
import { OwnFields } from './OwnFields.tsx';
import { Places } from './Places.tsx';

type Named = keyof typeof registers;
type Row = { id: string; name: string };

/** What plans choose from: places, units, funds, initiatives and waivers. */
export default function Registers() {
  const choices = useAsk('GET /api/choices');
  const books = useMe().data?.staff.roles.some((r) => r === 'coordinator' || r === 'treasurer') ?? false;
  const coordinates = useMe().data?.staff.roles.includes('coordinator') ?? false;
  return (
    <chakra.div className="page" maxWidth="860px">
      <h1>{phrase('team.placesUnitsFundsAnd')}</h1>
      <Loaded of={choices}>
        {(c) => (
          <>
            <Places />
            <NamedRegister
              of="units"
              rows={c.units}
              more={({ id, name }) => (
                <>
                  <UnitPeople id={id} />
                  <chakra.div padding="0 0 8px 16px" fontSize="14px">
                    <h3>{phrase('team.logo')}</h3>
                    <Logo unitId={id} name={name} />
                  </chakra.div>
                </>
              )}
            />
            <NamedRegister of="funds" rows={c.funds} />
            {books && <Initiatives />}
            {coordinates && <Measures />}
            <WaiversLink count={c.waivers.length} />
            <Roles />
            <Kinds />
            <OwnFields />
          </>
        )}
      </Loaded>
    </chakra.div>
  );
}

/** Whoever keeps the books has initiatives. */
function Initiatives() {
  return (
    <Loaded of={useAsk('GET /api/giving/choices')}>
      {(g) => <NamedRegister of="initiatives" rows={g.initiatives} />}
    </Loaded>
  );
}

type Body = { name: string };

/** What each register says, and how a row of it is added and gets another name. */
const registers = {
  units: {
    title: phrase('team.units'),
    empty: phrase('team.noUnits'),
    add: phrase('team.addUnit'),
    adding: (body: Body): Prepared<unknown> => prepare(eventsContract, 'POST /api/units', { body }),
    renaming: (id: string, body: Body) =>
      prepare(eventsContract, 'PATCH /api/units/:id', { params: { id }, body }),
  },
  funds: {
    title: phrase('team.funds'),
    empty: phrase('team.noFunds'),
    add: phrase('team.addFund'),
    adding: (body: Body): Prepared<unknown> => prepare(eventsContract, 'POST /api/funds', { body }),
    renaming: (id: string, body: Body) =>
      prepare(eventsContract, 'PATCH /api/funds/:id', { params: { id }, body }),
  },
  initiatives: {
    title: phrase('team.initiatives'),
    empty: phrase('team.noInitiatives'),
    add: phrase('team.addInitiative'),
    adding: (body: Body): Prepared<unknown> => prepare(givingContract, 'POST /api/initiatives', { body }),
    renaming: (id: string, body: Body) =>
      prepare(givingContract, 'PATCH /api/initiatives/:id', { params: { id }, body }),
  },
};

/** A register whose rows are names. */
function NamedRegister({
  of,
  rows,
  more,
}: {
  of: Named;
  rows: readonly Row[];
  /** What a row shows when it is opened. */
  more?: (row: Row) => ReactNode;
}) {
  const { title, empty, add } = registers[of];
  const [naming, setNaming] = useState<Row | 'new' | null>(null);
  return (
    <>
      <RegisterSection
        title={title}
        empty={empty}
        add={add}
        act={() => setNaming('new')}
        rows={rows.map((row) => (
          <chakra.li key={row.id} className="spread" alignItems="baseline">
            {more ? (
              <Opened title={row.name}>{() => more(row)}</Opened>
            ) : (
              <span className="name">{row.name}</span>
            )}
            <RowActs>
              <Button
                look="link"
                color="verdigris"
                aria-label={phrase('team.renameNamed', { name: row.name })}
                onClick={() => setNaming(row)}
              >
                {phrase('team.rename')}
              </Button>
            </RowActs>
          </chakra.li>
        ))}
      />
      {naming && <Naming of={of} row={naming === 'new' ? null : naming} close={() => setNaming(null)} />}
    </>
  );
}

/** Adds a row to a register, or gives one another name. */
function Naming({ of, row, close }: { of: Named; row: Row | null; close: () => void }) {
  const { add, adding, renaming } = registers[of];
  const form = useForm({
    values: { name: row?.name ?? '' },
    request: (body): Prepared<unknown> => (row ? renaming(row.id, body) : adding(body)),
    after: () => {
      say(phrase(row ? 'common.saved' : 'common.added'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      title={row ? phrase('team.renameNamed', { name: row.name }) : add}
      submit={row ? phrase('common.save') : add}
      close={close}
    >
      <Text form={form} name="name" label={phrase('common.name')} required />
      {row && <p className="soft">{phrase('team.renamedEverywhere')}</p>}
    </FormDialog>
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

/** Waivers have pages of their own. */
function WaiversLink({ count }: { count: number }) {
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  return (
    coordinator && (
      <chakra.section marginTop="26px">
        <h2>{phrase('team.waivers')}</h2>
        <TextLink to="/team/waivers">{phrase('team.toWaivers', { count })}</TextLink>
      </chakra.section>
    )
  );
}
