import { useInterface } from '../shell/state.ts';

/** A person's name; a click opens their slide-over without losing the place. */
export function Person({ id, name }: { id: string | null; name: string }) {
  const show = useInterface((s) => s.showPerson);
  if (!id) return <span className="name">{name || <span className="soft">to be named</span>}</span>;
  return (
    <button type="button" className="link name" onClick={() => show(id)}>
      {name}
    </button>
  );
}
