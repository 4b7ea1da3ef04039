import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { type ReactNode, useId } from 'react';
import { Button } from '#web/kit/Button.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { phrase } from '#web/words/phrase.ts';

/** One register: what is in it, what it is for while it is empty, and how something is added. */
export function RegisterSection({
  title,
  empty,
  rows,
  add,
  act,
}: {
  title: string;
  /** What it will hold and what that is for, said while there is nothing. */
  empty: string;
  /** List items. */
  rows: readonly ReactNode[];
  /** What the button says that adds one. */
  add: string;
  act: () => void;
}) {
  const id = useId();
  return (
    <chakra.section marginTop="26px" aria-labelledby={id}>
      <h2 id={id}>{title}</h2>
      {rows.length === 0 ? <Empty padding="2px 0 4px">{empty}</Empty> : <ul className="lines">{rows}</ul>}
      <chakra.div marginTop="4px">
        <Button look="plain" onClick={act}>
          <Plus size={15} aria-hidden /> {add}
        </Button>
      </chakra.div>
    </chakra.section>
  );
}

/** What can be done with a row of a register, beside or under it. */
export const RowActs = chakra('span', {
  base: { display: 'inline-flex', alignItems: 'baseline', gap: '12px', fontSize: '13.5px', flexShrink: 0 },
});

/** Changes a row of a register, and takes it out. */
export function ChangeOrRemove({
  name,
  change,
  remove,
  removing,
}: {
  name: string;
  change: () => void;
  remove: () => void;
  removing: boolean;
}) {
  return (
    <>
      <Button
        look="link"
        color="verdigris"
        aria-label={phrase('team.changeNamed', { name })}
        onClick={change}
      >
        {phrase('common.change')}
      </Button>
      <Button
        look="link"
        color="soft"
        disabled={removing}
        aria-label={phrase('team.removeNamed', { name })}
        onClick={remove}
      >
        {phrase('common.remove')}
      </Button>
    </>
  );
}
