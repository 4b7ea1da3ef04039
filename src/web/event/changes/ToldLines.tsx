/** What something would bring about, line by line; what does not concern it is left out. */
export function ToldLines({ lines }: { lines: readonly (string | false)[] | null }) {
  if (!lines) return null;
  return (
    <ul className="lines" aria-live="polite">
      {lines
        .filter((line): line is string => line !== false)
        .map((line) => (
          <li key={line}>{line}</li>
        ))}
    </ul>
  );
}
