import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { useInterface } from '../shell/state.ts';

/** A person's name; a click opens their slide-over without losing the place. */
export function Person({ id, name }: { id: string | null; name: string }) {
  const show = useInterface((s) => s.showPerson);
  if (!id)
    return <span className="name">{name || <span className="soft">{phrase('common.toBeNamed')}</span>}</span>;
  return (
    <Button look="link" fontFamily="title" color="inherit" onClick={() => show(id)}>
      {name}
    </Button>
  );
}
