import { useEffect, useState, type RefObject } from 'react';

/** Width (CSS pixels) of an element, now and whenever it changes; 800 before it is there. */
export function useWidth(element: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(800);
  useEffect(() => {
    const node = element.current!;
    const watch = new ResizeObserver(([entry]) => setWidth(Math.max(120, Math.round(entry!.contentRect.width))));
    watch.observe(node);
    return () => watch.disconnect();
  }, [element]);
  return width;
}
