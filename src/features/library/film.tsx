import Box from '@mui/material/Box';
import { useEffect, useRef } from 'react';
import { wrapPhase } from '@/core/math/scalar';
import { partPath, type Part } from '@/core/sheet/silhouette';

const W = 150;
const H = 108;
/** Height (px) of a standing figure. */
const FIGURE = 88;
const FILL: Record<Part['of'], string> = { body: '#C9B8A4', left: '#D8C9B6', right: '#B7A48E', leftFoot: '#C9781E', rightFoot: '#5B4BB7' };

/** Ready paths of some pictures, and how long (s) they take together. */
export interface Film {
  readonly frames: readonly (readonly { readonly path: Path2D; readonly fill: string }[])[];
  readonly seconds: number;
}

/** A film of silhouettes of a figure so tall, m. */
export const filmOf = (pictures: readonly (readonly Part[])[], stature: number, seconds: number): Film => ({
  frames: pictures.map((parts) => parts.map((p) => ({ path: new Path2D(partPath(p, W / 2, H - 10, FIGURE / stature)), fill: FILL[p.of] }))),
  seconds,
});

/** A figure in miniature that moves while it is in sight; it stands still where a person asks for less motion. */
export function FilmCanvas({ make, width = W }: { make: () => Film; width?: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const node = canvas.current!;
    const pen = node.getContext('2d')!;
    let made: Film | null = null;
    let frame = 0;
    let seen = false;
    const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
    const draw = (now: number) => {
      made ??= make();
      const phase = still ? 0 : wrapPhase(now / 1000 / made.seconds);
      pen.setTransform(2, 0, 0, 2, 0, 0);
      pen.clearRect(0, 0, W, H);
      pen.strokeStyle = '#1F2933';
      pen.lineWidth = 0.7;
      pen.beginPath();
      pen.moveTo(0, H - 10);
      pen.lineTo(W, H - 10);
      pen.stroke();
      for (const { path, fill } of made.frames[Math.floor(phase * made.frames.length)]!) {
        pen.fillStyle = fill;
        pen.fill(path);
        pen.stroke(path);
      }
      node.dataset.phase = phase.toFixed(2);
      if (seen && !still) frame = requestAnimationFrame(draw);
    };
    const watch = new IntersectionObserver(([entry]) => {
      seen = entry!.isIntersecting;
      cancelAnimationFrame(frame);
      if (seen) frame = requestAnimationFrame(draw);
    });
    watch.observe(node);
    return () => {
      watch.disconnect();
      cancelAnimationFrame(frame);
    };
  }, [make]);
  return (
    <Box
      component="canvas"
      ref={canvas}
      width={W * 2}
      height={H * 2}
      aria-hidden
      sx={{ width, height: (H * width) / W, flexShrink: 0, display: 'block', bgcolor: '#F6F3EC' }}
    />
  );
}
