import { useCallback, useEffect, useMemo, useRef, useState, type RefObject } from 'react';

/** What of the ground a ribbon shows: its middle (m) and pixels a metre. Ahead (+Z) runs to the right, left (+X) up. */
export interface RibbonView {
  readonly x: number;
  readonly z: number;
  readonly scale: number;
}

export interface RibbonMap {
  readonly view: RibbonView;
  /** Pixels of a place, and the place of pixels. */
  px(x: number, z: number): readonly [number, number];
  place(px: number, py: number): { readonly x: number; readonly z: number };
}

export type Box2 = readonly [x0: number, z0: number, x1: number, z1: number];

const SCALES = [2, 900] as const;
const MARGIN_PX = 34;

/** The view that shows all of a box. */
function fitView([x0, z0, x1, z1]: Box2, width: number, height: number): RibbonView {
  const scale = Math.min((width - 2 * MARGIN_PX) / Math.max(0.5, z1 - z0), (height - 2 * MARGIN_PX) / Math.max(0.5, x1 - x0));
  return { x: (x0 + x1) / 2, z: (z0 + z1) / 2, scale: Math.min(SCALES[1], Math.max(SCALES[0], scale)) };
}

function mapOf(view: RibbonView, width: number, height: number): RibbonMap {
  return {
    view,
    px: (x, z) => [width / 2 + (z - view.z) * view.scale, height / 2 - (x - view.x) * view.scale],
    place: (px, py) => ({ x: view.x - (py - height / 2) / view.scale, z: view.z + (px - width / 2) / view.scale }),
  };
}

/** A view that is moved and scaled by hand; fitted to the box of a walk when that is another, or when asked. */
export function useRibbonView(key: string, box: Box2, width: number, height: number, frame: RefObject<HTMLElement | null>) {
  const [view, setView] = useState<RibbonView | null>(null);
  const shown = useRef('');
  const latest = useRef(box);
  useEffect(() => {
    latest.current = box;
  });
  const fit = useCallback((to: Box2 = latest.current) => setView(fitView(to, width, height)), [width, height]);
  const ready = width !== 800;
  useEffect(() => {
    if (!ready || shown.current === key) return;
    shown.current = key;
    fit();
  }, [key, ready, fit]);
  const now = useMemo(() => view ?? fitView(box, width, height), [view, box, width, height]);
  const map = useMemo(() => mapOf(now, width, height), [now, width, height]);
  const held = useRef(map);
  useEffect(() => {
    held.current = map;
  });
  useEffect(() => {
    const node = frame.current!;
    // React's own wheel listener may not keep the page from scrolling.
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      const { view: was } = held.current;
      const bounds = node.getBoundingClientRect();
      const [px, py] = [e.clientX - bounds.left, e.clientY - bounds.top];
      const at = held.current.place(px, py);
      const scale = Math.min(SCALES[1], Math.max(SCALES[0], was.scale * Math.exp(-e.deltaY * 0.0016)));
      const k = was.scale / scale;
      setView({ scale, x: at.x + (was.x - at.x) * k, z: at.z + (was.z - at.z) * k });
    };
    node.addEventListener('wheel', onWheel, { passive: false });
    return () => node.removeEventListener('wheel', onWheel);
  }, [frame]);
  const pan = useCallback((dx: number, dy: number) => setView((v) => (v ? { ...v, z: v.z - dx / v.scale, x: v.x + dy / v.scale } : v)), []);
  return { map, fit, pan };
}
