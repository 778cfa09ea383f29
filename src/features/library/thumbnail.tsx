import Box from '@mui/material/Box';
import { useEffect, useRef } from 'react';
import type { Body } from '@/core/body/body';
import { createWorldPose, forwardKinematics, poseSize } from '@/core/body/skeleton';
import type { GaitSpec } from '@/core/gait/spec';
import { wrapPhase } from '@/core/math/scalar';
import { cycle } from '@/core/motion/solved';
import { partPath, silhouette, type Part } from '@/core/sheet/silhouette';

const W = 150;
const H = 108;
const FRAMES = 20;
const FILL: Record<Part['of'], string> = { body: '#C9B8A4', left: '#D8C9B6', right: '#B7A48E', leftFoot: '#C9781E', rightFoot: '#5B4BB7' };

/** Ready paths of one cycle. */
interface Film {
  readonly frames: readonly (readonly { readonly path: Path2D; readonly fill: string }[])[];
  readonly strideTime: number;
}

function film(body: Body, gait: GaitSpec): Film {
  const motion = cycle(gait, body);
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const scale = 88 / body.spec.stature;
  const frames = Array.from({ length: FRAMES }, (_, f) => {
    motion.pose((f / FRAMES) * motion.duration, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    return silhouette(body, world, 'side', pose[0]!, pose[2]!).map((p) => ({ path: new Path2D(partPath(p, W / 2, H - 10, scale)), fill: FILL[p.of] }));
  });
  return { frames, strideTime: motion.strideTime };
}

/** A gait in miniature that walks while it is in sight; it stands still where a person asks for less motion. */
export function GaitThumbnail({ body, gait, width = W }: { body: Body; gait: GaitSpec; width?: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const node = canvas.current!;
    const pen = node.getContext('2d')!;
    let made: Film | null = null;
    let frame = 0;
    let seen = false;
    const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
    const draw = (now: number) => {
      made ??= film(body, gait);
      const phase = still ? 0 : wrapPhase(now / 1000 / made.strideTime);
      pen.setTransform(2, 0, 0, 2, 0, 0);
      pen.clearRect(0, 0, W, H);
      pen.strokeStyle = '#1F2933';
      pen.lineWidth = 0.7;
      pen.beginPath();
      pen.moveTo(0, H - 10);
      pen.lineTo(W, H - 10);
      pen.stroke();
      for (const { path, fill } of made.frames[Math.floor(phase * FRAMES)]!) {
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
  }, [body, gait]);
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
