/** One email or telephone as it is edited. */
export interface ReachLine {
  value: string;
  kind: string;
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
            aria-label={`Take away ${label.toLowerCase()} ${at + 1}`}
            onClick={() => set(lines.filter((_, n) => n !== at))}
          >
            Take away
          </button>
          {wrong(at) && <div className="error">{wrong(at)}</div>}
        </div>
      ))}
      <button type="button" className="link" onClick={() => set([...lines, { value: '', kind: '' }])}>
        Add {type === 'email' ? 'an email' : 'a telephone'}
      </button>
    </fieldset>
  );
}
