import { useDeferredValue, useState } from 'react';
import type { FieldProps } from '../kit/Field.tsx';
import { SearchField } from '../kit/SearchField.tsx';
import { useAsk } from './ask.ts';

/** Somebody among the contacts, found while part of their name, email or telephone is typed. */
export function PersonSearch({
  chosen,
  pick,
  ...field
}: FieldProps & {
  /** The name of who is picked; empty when nobody is. */
  chosen: string;
  pick: (person: { id: string; name: string } | null) => void;
  placeholder?: string;
  autoFocus?: boolean;
}) {
  const [typed, setTyped] = useState('');
  const q = useDeferredValue(typed.trim());
  const search = useAsk('GET /api/search', { query: { q }, enabled: q.length > 0 && !chosen });
  const found = q && !chosen ? (search.data?.contacts ?? []) : [];
  return (
    <SearchField
      {...field}
      typed={chosen || typed}
      type={(text) => {
        setTyped(text);
        if (chosen) pick(null);
      }}
      searching={search.isFetching || q !== typed.trim()}
      found={found.map((c) => ({
        value: c.id,
        label: `${c.given} ${c.family}`.trim(),
        hint: c.email ?? undefined,
      }))}
      pick={({ value, label }) => pick({ id: value, name: label })}
    />
  );
}
