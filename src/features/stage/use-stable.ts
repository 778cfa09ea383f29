import { useCallback, useInsertionEffect, useRef } from 'react';

/** The same function at every rendering, which does what the latest one given would: what gets it need not be rendered again. */
export function useStable<A extends unknown[], R>(latest: (...args: A) => R): (...args: A) => R {
  const held = useRef(latest);
  useInsertionEffect(() => {
    held.current = latest;
  });
  return useCallback((...args: A) => held.current(...args), []);
}
