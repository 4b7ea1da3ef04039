import { chakra } from '@chakra-ui/react';
import { Plus, Trash2 } from 'lucide-react';
import { type ReactNode, useId, useState } from 'react';
import type { Texts } from '#core/words/texts.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../../kit/Button.tsx';
import { Group, LongField, TextField } from '../../kit/Field.tsx';

/** A text in both languages beside one another. */
export function BothLanguages({
  label,
  value,
  set,
  error,
  help,
  id,
  long = false,
}: {
  label: string;
  value: Texts;
  set: (value: Texts) => void;
  error?: string | undefined;
  help?: ReactNode;
  id?: string;
  long?: boolean;
}) {
  const Shown = long ? LongField : TextField;
  const rows = long ? { rows: 3 } : {};
  return (
    <div className="pair">
      <Shown
        {...rows}
        label={label}
        value={value.en}
        set={(en) => set({ ...value, en })}
        error={error}
        help={help}
        id={id}
      />
      <Shown
        {...rows}
        label={phrase('event.labelInFrench', { label })}
        value={value.fr ?? ''}
        set={(fr) => set({ en: value.en, ...(fr ? { fr } : {}) })}
      />
    </div>
  );
}

/** One of a list that is written here, with what takes it away. */
export function Entry({ children, remove, name }: { children: ReactNode; remove: () => void; name: string }) {
  return (
    <chakra.li
      display="grid"
      gridTemplateColumns={{ base: '1fr', md: 'minmax(0, 1fr) auto' }}
      gap="0 12px"
      alignItems="start"
      padding="8px 0"
      borderBottom="1px solid"
      borderColor="line"
    >
      <div>{children}</div>
      <Button
        look="plain"
        justifySelf="start"
        marginTop={{ md: '22px' }}
        onClick={remove}
        aria-label={phrase('event.removeNamed', { name })}
      >
        <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
      </Button>
    </chakra.li>
  );
}

/** One of a list that is a line until it is opened; what has no name yet is open. */
export function FoldedEntry({
  children,
  remove,
  name,
  line,
  wrong = false,
  beside,
}: {
  children: ReactNode;
  remove: () => void;
  name: string;
  line: string;
  /** Whether something in it is wrong, which a closed one says too. */
  wrong?: boolean;
  /** What else can be done with it. */
  beside?: ReactNode;
}) {
  const [open, setOpen] = useState(() => !name.trim());
  return (
    <chakra.li padding="6px 0" borderBottom="1px solid" borderColor="line">
      <chakra.details open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
        <chakra.summary cursor="pointer">
          <chakra.span fontWeight={500}>{name || phrase('event.untitled')}</chakra.span>{' '}
          <span className="soft">{line}</span>
          {wrong && !open && <chakra.span color="madder"> {phrase('event.lookAtThis')}</chakra.span>}
        </chakra.summary>
        <chakra.div padding="8px 0 4px">
          {children}
          <Button look="plain" onClick={remove} aria-label={phrase('event.removeNamed', { name })}>
            <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
          </Button>
          {beside}
        </chakra.div>
      </chakra.details>
    </chakra.li>
  );
}

/** Choices as a list: Enter begins the next one, and what is still empty stays until it is written or taken away. */
export function ChoicesField({
  label,
  value,
  set,
  error,
}: {
  label: string;
  value: readonly string[];
  set: (value: string[]) => void;
  error?: string | undefined;
}) {
  const own = useId();
  // One more, after a place; the cursor goes there.
  const add = (after: number) => {
    set([...value.slice(0, after), '', ...value.slice(after)]);
    requestAnimationFrame(() => document.getElementById(`${own}-${after}`)?.focus());
  };
  return (
    <Group label={label} error={error}>
      {value.map((choice, at) => (
        <chakra.div
          key={at}
          display="grid"
          gridTemplateColumns="minmax(0, 1fr) auto"
          gap="0 8px"
          alignItems="center"
          onKeyDown={(e) => {
            if (e.key !== 'Enter') return;
            e.preventDefault();
            add(at + 1);
          }}
        >
          <TextField
            id={`${own}-${at}`}
            headed
            label={phrase('event.choiceN', { n: at + 1 })}
            value={choice}
            set={(text) => set(value.map((c, n) => (n === at ? text : c)))}
          />
          <Button
            look="plain"
            aria-label={phrase('event.removeNamed', {
              name: choice || phrase('event.choiceN', { n: at + 1 }),
            })}
            onClick={() => set(value.filter((_, n) => n !== at))}
          >
            <Trash2 size={15} aria-hidden />
          </Button>
        </chakra.div>
      ))}
      <Button look="plain" onClick={() => add(value.length)}>
        <Plus size={14} aria-hidden /> {phrase('event.addChoice')}
      </Button>
    </Group>
  );
}

/** A moment by the clock where the event is: a date, and a time; until one is given, the day's first minute, or its last where something ends. */
export function MomentField({
  label,
  value,
  set,
  error,
  ends = false,
}: {
  label: string;
  value: string | null;
  set: (value: string | null) => void;
  error: string | undefined;
  /** Whether something ends then. */
  ends?: boolean;
}) {
  const usual = ends ? '23:59' : '00:00';
  const [date, time] = value ? [value.slice(0, 10), value.slice(11, 16)] : ['', ''];
  return (
    <chakra.div display="grid" gridTemplateColumns="1.4fr 1fr" gap="0 8px" alignItems="start">
      <TextField
        label={label}
        type="date"
        value={date}
        set={(d) => set(d ? `${d}T${time || usual}` : null)}
        error={error}
      />
      <TextField
        label={phrase('offers.time', { label })}
        type="time"
        value={time}
        set={(to) => date && set(`${date}T${to || usual}`)}
      />
    </chakra.div>
  );
}

/** A number as it is typed into a field that may be empty. */
export const numberIn = (typed: string): number | null => (typed === '' ? null : Number(typed));
export const typedAs = (n: number | null): string => (n === null ? '' : String(n));

/** Puts the cursor into what was just added. */
export const writeIn = (id: string): void => {
  requestAnimationFrame(() => document.getElementById(`name-${id}`)?.focus());
};

export const Entries = chakra('ul', { base: { listStyleType: 'none', padding: 0, margin: '0 0 6px' } });
