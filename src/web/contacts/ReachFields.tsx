import { chakra } from '@chakra-ui/react';
import { useSaying } from '../parts/saying.ts';

/** One email or telephone as it is edited. */
export interface ReachLine {
  value: string;
  kind: string;
  /** The day from which it is no longer theirs. */
  endedOn: string | null;
}

/** A list of emails or telephones: the first one is written to; any can be changed, taken away or put first. */
export function ReachFields({
  label,
  type,
  lines,
  kinds,
  set,
  wrong,
}: {
  label: string;
  type: 'email' | 'tel';
  lines: readonly ReachLine[];
  kinds: readonly string[];
  set: (lines: ReachLine[]) => void;
  wrong: (at: number) => string | undefined;
}) {
  const { today } = useSaying();
  const put = (at: number, part: Partial<ReachLine>) =>
    set(lines.map((l, n) => (n === at ? { ...l, ...part } : l)));
  return (
    <fieldset className="reach">
      <legend>{label}s</legend>
      {lines.map((line, at) => (
        // A line has no identity but its place.
        <div key={at}>
          <input
            type={type}
            aria-label={`${label} ${at + 1}`}
            aria-invalid={Boolean(wrong(at))}
            value={line.value}
            onChange={(e) => put(at, { value: e.target.value })}
          />
          <select
            aria-label={`${label} ${at + 1}: kind`}
            value={line.kind}
            onChange={(e) => put(at, { kind: e.target.value })}
          >
            {kinds.map((k) => (
              <option key={k} value={k}>
                {k || 'no kind'}
              </option>
            ))}
          </select>
          {line.endedOn === null ? (
            line.value && (
              <button type="button" className="link" onClick={() => put(at, { endedOn: today })}>
                No longer theirs
              </button>
            )
          ) : (
            <label className="soft">
              not theirs since{' '}
              <chakra.input
                type="date"
                value={line.endedOn}
                width="150px"
                onChange={(e) => put(at, { endedOn: e.target.value || null })}
              />
            </label>
          )}
          {at > 0 && (
            <button
              type="button"
              className="link"
              onClick={() => set([line, ...lines.filter((_, n) => n !== at)])}
            >
              Put first
            </button>
          )}
          <button
            type="button"
            className="link"
            aria-label={`Remove ${label.toLowerCase()} ${at + 1}`}
            onClick={() => set(lines.filter((_, n) => n !== at))}
          >
            Remove
          </button>
          {wrong(at) && <div className="error">{wrong(at)}</div>}
        </div>
      ))}
      <button
        type="button"
        className="link"
        onClick={() => set([...lines, { value: '', kind: '', endedOn: null }])}
      >
        Add {type === 'email' ? 'an email' : 'a telephone'}
      </button>
    </fieldset>
  );
}
