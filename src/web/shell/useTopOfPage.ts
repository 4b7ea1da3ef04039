import { useLayoutEffect, useRef } from 'react';
import { NavigationType, useLocation, useNavigationType } from 'react-router';

/**
 * A page one goes to begins at its top, not as far down as the one before was read. Where one comes back to is the browser’s to
 * find again, and what changes on the same page (a person beside it, a filter) leaves it where it is.
 */
export function useTopOfPage(): void {
  const { pathname, hash } = useLocation();
  const way = useNavigationType();
  const before = useRef(pathname);
  useLayoutEffect(() => {
    if (pathname === before.current) return;
    before.current = pathname;
    if (way !== NavigationType.Pop && !hash) window.scrollTo(0, 0);
  }, [pathname, hash, way]);
}
