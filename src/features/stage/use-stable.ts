import { useCallback, useInsertionEffect, useMemo, useRef } from 'react';

/** The same function at every rendering, which does what the latest one given would: what gets it need not be rendered again. */
export function useStable<A extends unknown[], R>(latest: (...args: A) => R): (...args: A) => R {
  const held = useRef(latest);
  useInsertionEffect(() => {
    held.current = latest;
  });
  return useCallback((...args: A) => held.current(...args), []);
}

/** The same for an object of actions; one that is null now is null. A new object comes only when another of them can be done. */
export function useStableActions<T extends object>(latest: T): T {
  const held = useRef(latest);
  useInsertionEffect(() => {
    held.current = latest;
  });
  const names = Object.keys(latest) as (keyof T)[];
  const can = names.filter((name) => latest[name] !== null).join();
  return useMemo(() => {
    const call =
      (name: keyof T) =>
      (...args: unknown[]) =>
        (held.current[name] as (...args: unknown[]) => unknown)(...args);
    return Object.fromEntries(names.map((name) => [name, can.split(',').includes(String(name)) ? call(name) : null])) as T;
    // The names never change.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [can]);
}
