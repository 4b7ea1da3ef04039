import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { crewContract } from '#contract/crew.ts';
import { sayAmount } from '#core/money/amount.ts';
import { sayConsequence } from '#core/time/distance.ts';
import { Form } from '../form/Form.tsx';
import {
  Chips,
  Choose,
  Count,
  DateField,
  LongText,
  Money,
  OneOf,
  SeveralOf,
  Text,
  Tick,
  TimeField,
  ZoneField,
} from '../form/fields.tsx';
import { prepare } from '../form/request.ts';
import { useForm } from '../form/useForm.ts';
import { type Found, SearchField } from '../SearchField.tsx';

const events: Found[] = [
  { value: '1', label: 'Open Water Day', hint: 'Sat 8 Aug' },
  { value: '2', label: 'Fen Talk: Otters', hint: 'Wed 22 Jul' },
];

/** Every field: blank, filled in, and wrong once the form was sent. */
export function FormStates() {
  const [typed, setTyped] = useState('');
  const form = useForm({
    values: {
      role: '',
      place: 'Landing A',
      about: '',
      price: '12.5',
      date: '2026-08-08',
      from: '09:00',
      zone: 'America/Halifax',
      wished: '',
      audience: 'everyone',
      kind: 'crew',
      flags: ['boats'] as string[],
      tags: ['canoe', 'first aid'] as string[],
      publicSignUp: true,
    },
    request: (v) =>
      prepare(crewContract, 'POST /api/events/:id/shifts', {
        params: { id: '00000000-0000-7000-8000-000000000001' },
        body: {
          role: v.role,
          place: v.place,
          startsLocal: `${v.date}T${v.from}`,
          endsLocal: `${v.date}T13:00`,
          wished: Number(v.wished) || 0,
          publicSignUp: v.publicSignUp,
        },
      }),
    check: (v) => (v.about ? [] : [{ path: 'about', message: 'Write a line or two.' }]),
    fieldOf: (path) => (path === 'startsLocal' ? 'date' : path),
  });
  const found = typed ? events.filter((e) => e.label.toLowerCase().includes(typed.toLowerCase())) : [];
  return (
    <Form form={form} submit="Add the shift">
      <chakra.div display="grid" gridTemplateColumns={{ base: '1fr', md: '1fr 1fr' }} gap="0 24px">
        <Text form={form} name="role" label="Role" required help="As it stands on the crew’s own page." />
        <Text form={form} name="place" label="Place" />
        <LongText form={form} name="about" label="Briefing" required rows={2} />
        <Money
          form={form}
          name="price"
          label="Deposit"
          currency="CAD"
          sayAmount={(amount) => sayAmount(amount, 'CAD')}
        />
        <DateField
          form={form}
          name="date"
          label="Date"
          required
          consequence={form.values.date ? sayConsequence(form.values.date, '2026-07-09') : ''}
        />
        <TimeField form={form} name="from" label="From" />
        <ZoneField form={form} name="zone" label="Time zone" />
        <Count form={form} name="wished" label="How many" required />
        <Choose
          form={form}
          name="audience"
          label="Asked of"
          choices={['everyone', 'adults', 'minors'].map((v) => ({ value: v, label: v }))}
        />
        <SearchField
          label="Event"
          typed={typed}
          type={setTyped}
          found={found}
          pick={(e) => setTyped(e.label)}
          placeholder="Part of its name"
        />
        <OneOf
          form={form}
          name="kind"
          label="Kind"
          choices={[
            { value: 'crew', label: 'Crew' },
            { value: 'guide', label: 'Guide' },
          ]}
        />
        <SeveralOf
          form={form}
          name="flags"
          label="What applies"
          choices={[
            { value: 'boats', label: 'boats are used' },
            { value: 'food', label: 'food is served' },
          ]}
        />
        <Chips form={form} name="tags" label="Skills" help="Enter or a comma ends one." />
        <Tick form={form} name="publicSignUp" label="anybody may sign up for it" />
      </chakra.div>
    </Form>
  );
}
