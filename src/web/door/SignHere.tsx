import { useState } from 'react';
import type { DoorRow } from '#contract/doors.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '../kit/Field.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';
import { nameOf } from './saying.ts';

/** The waiver, read and signed on the device of the door: by the person, or by a guardian for a child. */
export function SignHere({
  waiver,
  row,
  done,
}: {
  waiver: NonNullable<Answer<'GET /api/events/:id/doors'>['waiver']>;
  row: DoorRow;
  done: () => void;
}) {
  const [ticked, setTicked] = useState<string[]>([]);
  const [typedName, setTypedName] = useState('');
  const guardian = row.missing.includes('guardian');
  const sign = useAction('POST /api/registrations/:id/signatures', () => {
    say(`Signed for ${nameOf(row)}`);
    done();
  });
  const wrong = sign.problem?.fields ?? {};
  return (
    <form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        sign.mutate({
          params: { id: row.registrationId },
          body: { relation: guardian ? 'guardian' : 'self', typedName, ticked },
        });
      }}
    >
      <h3>{waiver.title}</h3>
      <p className="soft">
        {guardian ? `A guardian signs for ${nameOf(row)}, with their own name.` : `${nameOf(row)} signs.`}
      </p>
      <Problems of={sign.problem} />
      {waiver.clauses.map((c) => (
        <label key={c.id} className="tick">
          <input
            type="checkbox"
            checked={ticked.includes(c.id)}
            onChange={(e) =>
              setTicked(e.target.checked ? [...ticked, c.id] : ticked.filter((x) => x !== c.id))
            }
          />
          <span>{c.text}</span>
        </label>
      ))}
      <TextField
        label={guardian ? 'Guardian’s full name' : 'Full name'}
        value={typedName}
        set={setTypedName}
        error={wrong.typedName}
        help="Typing the name signs."
      />
      <div className="acts">
        <Button type="submit" look="main" size="touch" disabled={sign.isPending}>
          Sign
        </Button>
        <Button look="plain" size="touch" onClick={done}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
