import { useEffect, useRef, useState, type RefObject } from 'react';
import { clamp } from '@/core/math/scalar';
import type { Clock } from '../stage/clock';

/** Room (px) a chart in time leaves at its sides. */
export interface Sides {
  readonly left: number;
  readonly right: number;
}

/** Shortest time (s) that fills a chart. */
const LEAST_S = 0.4;

/** A chart's part of the time: zoomed and moved with the wheel, its playhead written by the clock without rendering. */
export function useTimeSpan(
  frame: RefObject<HTMLElement | null>,
  head: RefObject<HTMLElement | null>,
  clock: Clock,
  duration: number,
  width: number,
  sides: Sides,
  endless = false,
) {
  const [span, setSpan] = useState<readonly [number, number] | null>(null);
  const [from, to] = span && span[1] <= duration + 1e-9 ? span : [0, duration];
  const held = useRef({ from, to, duration, width, sides, endless });
  useEffect(() => {
    held.current = { from, to, duration, width, sides, endless };
  });
  useEffect(
    () =>
      clock.subscribe((t) => {
        const now = held.current;
        const at =
          now.sides.left +
          (((now.endless ? t - Math.floor(t / now.duration) * now.duration : Math.min(t, now.duration)) - now.from) / (now.to - now.from)) *
            (now.width - now.sides.left - now.sides.right);
        if (!head.current) return;
        head.current.style.transform = `translateX(${at.toFixed(1)}px)`;
        head.current.style.visibility = at < now.sides.left - 1 || at > now.width ? 'hidden' : 'visible';
      }),
    [clock, from, to, width, duration, head],
  );
  useEffect(() => {
    const node = frame.current!;
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      const now = held.current;
      const inside = now.width - now.sides.left - now.sides.right;
      const u = clamp((e.clientX - node.getBoundingClientRect().left - now.sides.left) / inside, 0, 1);
      const long = clamp((now.to - now.from) * Math.exp(e.deltaY * 0.0016), Math.min(LEAST_S, now.duration), now.duration);
      const at = now.from + u * (now.to - now.from);
      const begin = clamp(at - u * long + (e.deltaX / now.width) * long, 0, now.duration - long);
      setSpan([begin, begin + long]);
    };
    node.addEventListener('wheel', onWheel, { passive: false });
    return () => node.removeEventListener('wheel', onWheel);
  }, [frame]);
  const inside = width - sides.left - sides.right;
  return {
    from,
    to,
    x: (t: number) => sides.left + ((t - from) / (to - from)) * inside,
    timeAt: (e: { clientX: number }) =>
      clamp(from + ((e.clientX - frame.current!.getBoundingClientRect().left - sides.left) / inside) * (to - from), 0, duration),
  };
}
