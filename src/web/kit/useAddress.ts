import { useCallback, useMemo } from 'react';
import { useSearchParams } from 'react-router';

/**
 * What is shown, kept in the address of the page: it outlives going away and coming back, and can be passed on. `usual` holds
 * what is not written there. What somebody chooses is a step to go back from; what they type is not.
 */
export function useAddress<T extends Record<string, string>>(
  usual: T,
): [T, (part: Partial<T>, how?: { typed?: boolean }) => void] {
  const [search, setSearch] = useSearchParams();
  const now = useMemo(
    () =>
      Object.fromEntries(Object.entries(usual).map(([key, value]) => [key, search.get(key) ?? value])) as T,
    [search, usual],
  );
  const put = useCallback(
    (part: Partial<T>, { typed = false } = {}) =>
      setSearch(
        (before) => {
          const next = new URLSearchParams(before);
          for (const [key, value] of Object.entries(part))
            if (value === undefined || value === usual[key]) next.delete(key);
            else next.set(key, value);
          return next;
        },
        { replace: typed },
      ),
    [setSearch, usual],
  );
  return [now, put];
}
