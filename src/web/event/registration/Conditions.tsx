import { chakra } from '@chakra-ui/react';
import { X } from 'lucide-react';
import { useState } from 'react';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { type Comparison, type Condition, comparisonsOf } from '#core/seats/narrowing.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice, InlineText } from '#web/kit/Inline.tsx';
import { Chip } from '#web/kit/ListViews.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import type { NarrowColumn } from './narrowing.ts';

const compared: Record<Comparison, string> = {
  'any of': phrase('seats.any of'),
  'none of': phrase('seats.none of'),
  holds: phrase('seats.holds'),
  'at least': phrase('seats.at least'),
  'at most': phrase('seats.at most'),
  given: phrase('seats.given'),
  missing: phrase('seats.missing'),
};

/** Past this many choices they are not laid out beside one another. */
const mostChips = 12;

/** What the table is narrowed to, condition by condition; all of them hold. */
export function Conditions({
  columns,
  conditions,
  set,
}: {
  columns: readonly NarrowColumn[];
  conditions: readonly Condition[];
  set: (conditions: Condition[]) => void;
}) {
  const change = (at: number, to: Condition) => set(conditions.map((c, n) => (n === at ? to : c)));
  return (
    <chakra.div display="grid" gap="6px">
      {conditions.map((condition, at) => {
        const column = columns.find((c) => c.id === condition.column);
        return (
          <chakra.div
            // Conditions have no other name than their place.
            key={at}
            display="flex"
            flexWrap="wrap"
            gap="6px"
            alignItems="center"
            role="group"
            aria-label={column?.heading ?? condition.column}
          >
            <InlineChoice
              label={phrase('seats.columnOf')}
              maxWidth="220px"
              value={condition.column}
              set={(id) => {
                const next = columns.find((c) => c.id === id);
                if (next) change(at, { column: id, is: comparisonsOf[next.kind][0]!, values: [] });
              }}
              choices={columns.map((c) => ({ value: c.id, label: c.heading }))}
            />
            {column && (
              <InlineChoice
                label={phrase('seats.howCompared')}
                value={condition.is}
                set={(is) => change(at, { ...condition, is: is as Comparison })}
                choices={comparisonsOf[column.kind].map((is) => ({
                  value: is,
                  label: compared[is],
                }))}
              />
            )}
            {column && condition.is !== 'given' && condition.is !== 'missing' && (
              <Values
                column={column}
                condition={condition}
                set={(values) => change(at, { ...condition, values })}
              />
            )}
            <Button
              look="plain"
              aria-label={phrase('seats.removeCondition')}
              title={phrase('seats.removeCondition')}
              onClick={() => set(conditions.filter((_, n) => n !== at))}
            >
              <X size={14} aria-hidden />
            </Button>
          </chakra.div>
        );
      })}
    </chakra.div>
  );
}

/** What a column is compared with: chosen among what there is, or typed. */
function Values({
  column,
  condition,
  set,
}: {
  column: NarrowColumn;
  condition: Condition;
  set: (values: string[]) => void;
}) {
  const { values } = condition;
  if (column.kind === 'choice' && column.choices.length > mostChips)
    return (
      <InlineChoice
        label={phrase('seats.value')}
        maxWidth="240px"
        value={values[0] ?? ''}
        empty="…"
        set={(v) => set(v ? [v] : [])}
        choices={column.choices}
      />
    );
  if (column.kind === 'choice')
    return column.choices.map((c) => (
      <Chip
        key={c.value}
        aria-pressed={values.includes(c.value)}
        onClick={() =>
          set(values.includes(c.value) ? values.filter((v) => v !== c.value) : [...values, c.value])
        }
      >
        {c.label}
      </Chip>
    ));
  if (column.kind === 'amount') return <AmountValue amount={values[0]} set={(v) => set(v ? [v] : [])} />;
  return (
    <InlineText
      label={phrase('seats.value')}
      width={column.kind === 'text' ? '180px' : '150px'}
      type={column.kind === 'day' ? 'date' : 'text'}
      inputMode={column.kind === 'number' ? 'decimal' : undefined}
      value={values[0] ?? ''}
      set={(v) => set(v ? [v] : [])}
    />
  );
}

/** An amount as it is typed; it counts as soon as it can be read. */
function AmountValue({ amount, set }: { amount: string | undefined; set: (amount: string | null) => void }) {
  const { currency } = useSaying();
  const [typed, setTyped] = useState(amount ? plainAmount(Number(amount), currency) : '');
  return (
    <InlineText
      label={phrase('seats.value')}
      width="110px"
      inputMode="decimal"
      value={typed}
      set={(text) => {
        setTyped(text);
        const read = readAmount(text, currency);
        set(read === null ? null : String(read));
      }}
    />
  );
}
