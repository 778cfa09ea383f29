import { useEffect, useState } from 'react';

/**
 * What `make` finds for `of`, found after the page has been painted: solving never holds up a render. Until then, what was
 * found for the one before. `make` must not change between renders.
 */
export function useAfterPaint<I, T>(of: I, make: (of: I) => T): T | null {
  const [found, setFound] = useState<T | null>(null);
  useEffect(() => {
    const frame = requestAnimationFrame(() => setFound(make(of)));
    return () => cancelAnimationFrame(frame);
  }, [of, make]);
  return found;
}
