import { memo, useMemo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { buildGround } from '@/core/ground/build';
import { frameOf, placeIn } from '@/core/ground/frame';
import { levelSpec, type GroundFeature, type GroundSpec } from '@/core/ground/spec';
import type { RibbonMap } from './ribbon-view';

interface Props {
  readonly ground: GroundSpec;
  readonly map: RibbonMap;
  readonly width: number;
  readonly height: number;
  readonly chosen: string | null;
  readonly onGrab: (id: string, part: 'whole' | 'end' | 'heading' | number, e: React.PointerEvent) => void;
}

/** The ground as a chart draws it: slopes hatched with an arrow downhill, treads with their count, stones on water, contour lines. */
export const RibbonGround = memo(function RibbonGround({ ground, map, width, height, chosen, onGrab }: Props) {
  // An obstacle that is dragged changes no height.
  const heights = useShallow(({ features }: GroundSpec) => features.filter((f) => f.kind === 'rough' || f.kind === 'field'))(ground);
  const contours = useMemo(() => contourPaths(heights, map, width, height), [heights, map, width, height]);
  return (
    <g>
      {contours.map(({ level, d }) => (
        <path key={level} d={d} fill="none" stroke="var(--sea)" strokeOpacity={level % 25 === 0 ? 0.8 : 0.4} strokeWidth={level % 25 === 0 ? 1.2 : 0.8} />
      ))}
      {ground.features.map((f) => (
        <Feature key={f.id} feature={f} map={map} chosen={f.id === chosen} onGrab={onGrab} />
      ))}
    </g>
  );
});

const points = (list: readonly (readonly [number, number])[]): string => list.map((p) => `${p[0].toFixed(1)},${p[1].toFixed(1)}`).join(' ');

/** Corners of a feature that begins at its place and runs along its heading. */
function corners(f: GroundFeature, length: number, breadth: number, map: RibbonMap): (readonly [number, number])[] {
  const frame = frameOf(f);
  return (
    [
      [0, breadth / 2],
      [length, breadth / 2],
      [length, -breadth / 2],
      [0, -breadth / 2],
    ] as const
  ).map(([a, b]) => {
    const at = placeIn(frame, a, b);
    return map.px(at.x, at.z);
  });
}

interface FeatureProps extends Pick<Props, 'onGrab' | 'map'> {
  readonly feature: GroundFeature;
  readonly chosen: boolean;
}

/** One feature; while another is dragged it is not drawn anew. */
const Feature = memo(function Feature(props: FeatureProps) {
  const { feature: f, onGrab } = props;
  return (
    <g data-ground={f.name} onPointerDown={(e) => onGrab(f.id, 'whole', e)} cursor="move">
      <Shape {...props} />
    </g>
  );
});

function Shape({ feature: f, map, chosen, onGrab }: FeatureProps) {
  const frame = frameOf(f);
  const at = (a: number, b: number) => {
    const p = placeIn(frame, a, b);
    return map.px(p.x, p.z);
  };
  const line = { stroke: chosen ? 'var(--sea)' : 'currentColor', strokeWidth: chosen ? 2 : 1.1 };
  if (f.kind === 'bystander' || (f.kind === 'obstacle' && f.shape === 'disc')) {
    const radius = (f.kind === 'bystander' ? 0.28 : f.length / 2) * map.view.scale;
    const [cx, cy] = map.px(f.x, f.z);
    return (
      <>
        <circle cx={cx} cy={cy} r={radius + 0.2 * map.view.scale} fill="none" stroke="currentColor" strokeDasharray="1.5 4" strokeOpacity={0.7} />
        <circle cx={cx} cy={cy} r={Math.max(3, radius)} fill="var(--paper)" fillOpacity={0.85} {...line} />
        {f.kind === 'bystander' && <line x1={cx} y1={cy} x2={at(0.28, 0)[0]} y2={at(0.28, 0)[1]} {...line} />}
        <Name f={f} x={cx} y={cy - radius - 6} />
      </>
    );
  }
  if (f.kind === 'obstacle') {
    const c = corners({ ...f, ...placeIn(frame, -f.length / 2, 0) }, f.length, f.breadth, map);
    return (
      <>
        <polygon points={points(c)} fill="var(--paper)" fillOpacity={0.85} {...line} />
        <Name f={f} x={c[0]![0]} y={c[0]![1] - 5} />
      </>
    );
  }
  const length = f.kind === 'stairs' ? f.tread * f.count : f.length;
  const outline = corners(f, length, f.breadth, map);
  const count = at(length / 2, -f.breadth / 2);
  return (
    <>
      <polygon
        points={points(outline)}
        fill={f.kind === 'stones' ? 'var(--sea)' : 'currentColor'}
        fillOpacity={f.kind === 'stones' ? 0.16 : 0.03}
        {...line}
        strokeDasharray={f.kind === 'rough' || f.kind === 'field' ? '6 3' : undefined}
      />
      {f.kind === 'slope' && <Hatching f={f} at={at} />}
      {f.kind === 'stairs' &&
        Array.from({ length: f.count }, (_, i) => {
          const [x1, y1] = at(i * f.tread, f.breadth / 2),
            [x2, y2] = at(i * f.tread, -f.breadth / 2);
          return <line key={i} x1={x1} y1={y1} x2={x2} y2={y2} stroke="currentColor" strokeWidth={1} />;
        })}
      {f.kind === 'stairs' && (
        <text x={count[0]} y={count[1] - 5} textAnchor="middle" fontSize={12} fontWeight={700} fill="currentColor" pointerEvents="none">
          {f.count} {f.riser > 0 ? 'up' : 'down'}
        </text>
      )}
      {f.kind === 'stones' &&
        f.stones.map((s, i) => {
          const [cx, cy] = at(s.z, s.x);
          return (
            <circle
              key={i}
              data-stone={i}
              cx={cx}
              cy={cy}
              r={Math.max(2, s.radius * map.view.scale)}
              fill="var(--paper)"
              stroke="currentColor"
              onPointerDown={(e) => onGrab(f.id, i, e)}
            />
          );
        })}
      <Name f={f} x={outline[0]![0] + 4} y={Math.min(...outline.map((p) => p[1])) + 13} anchor="start" />
      {chosen && (
        <>
          <circle
            data-grip="end"
            cx={at(length, 0)[0]}
            cy={at(length, 0)[1]}
            r={6}
            fill="var(--sea)"
            cursor="ew-resize"
            onPointerDown={(e) => onGrab(f.id, 'end', e)}
          />
        </>
      )}
    </>
  );
}

const Name = ({ f, x, y, anchor = 'middle' }: { f: GroundFeature; x: number; y: number; anchor?: 'middle' | 'start' }) => (
  <text x={x} y={y} fontSize={11} textAnchor={anchor} fill="currentColor" fillOpacity={0.85} pointerEvents="none">
    {f.name}
  </text>
);

/** Hatching across a slope, and an arrow downhill with its angle. */
function Hatching({ f, at }: { f: Extract<GroundFeature, { kind: 'slope' }>; at: (a: number, b: number) => readonly [number, number] }) {
  const n = Math.max(3, Math.min(40, Math.round(f.length / 0.5)));
  const [tail, tip] = f.angleDeg > 0 ? [f.length * 0.7, f.length * 0.3] : [f.length * 0.3, f.length * 0.7];
  const [x1, y1] = at(tail, 0),
    [x2, y2] = at(tip, 0);
  const turn = Math.atan2(y2 - y1, x2 - x1);
  const barb = (by: number) => `${(x2 - 9 * Math.cos(turn + by)).toFixed(1)} ${(y2 - 9 * Math.sin(turn + by)).toFixed(1)}`;
  return (
    <g pointerEvents="none">
      {Array.from({ length: n }, (_, i) => {
        const a = ((i + 0.5) / n) * f.length;
        const [hx1, hy1] = at(a, f.breadth / 2),
          [hx2, hy2] = at(a, f.breadth / 2 - Math.min(0.4, f.breadth / 4));
        return <line key={i} x1={hx1} y1={hy1} x2={hx2} y2={hy2} stroke="currentColor" strokeOpacity={0.6} />;
      })}
      <path d={`M${x1} ${y1}L${x2} ${y2}M${barb(0.4)}L${x2} ${y2}L${barb(-0.4)}`} stroke="currentColor" strokeWidth={1.4} fill="none" />
      <text x={(x1 + x2) / 2} y={(y1 + y2) / 2 - 6} fontSize={11} textAnchor="middle" fill="currentColor">
        {Math.abs(f.angleDeg).toFixed(0)}°
      </text>
    </g>
  );
}

/** Cells across which contour lines are looked for, and their distance, cm. */
const CELL_PX = 9;
const LEVEL_CM = 5;

/** Contour lines of uneven ground and fields in sight, by marching squares; heights in whole centimetres. */
function contourPaths(features: readonly GroundFeature[], map: RibbonMap, width: number, height: number): { level: number; d: string }[] {
  if (features.length === 0) return [];
  const ground = buildGround({ ...levelSpec(), features: [...features] });
  const nx = Math.ceil(width / CELL_PX) + 1,
    ny = Math.ceil(height / CELL_PX) + 1;
  const heights = Float64Array.from({ length: nx * ny }, (_, k) => {
    const at = map.place((k % nx) * CELL_PX, Math.floor(k / nx) * CELL_PX);
    return ground.height(at.x, at.z) * 100;
  });
  const paths = new Map<number, string>();
  for (let j = 0; j + 1 < ny; j++)
    for (let i = 0; i + 1 < nx; i++) {
      const k = j * nx + i;
      const c = [heights[k]!, heights[k + 1]!, heights[k + nx + 1]!, heights[k + nx]!];
      const low = Math.min(...c),
        high = Math.max(...c);
      for (let level = Math.ceil(low / LEVEL_CM) * LEVEL_CM; level < high && level - low < LEVEL_CM * 12; level += LEVEL_CM) {
        if (level === 0 && high - low < 1e-9) continue;
        const crossings: string[] = [];
        for (let e = 0; e < 4; e++) {
          const a = c[e]!,
            b = c[(e + 1) % 4]!;
          if (a < level === b < level) continue;
          const u = (level - a) / (b - a);
          const [x0, y0] = CORNERS[e]!,
            [x1, y1] = CORNERS[(e + 1) % 4]!;
          crossings.push(`${((i + x0 + u * (x1 - x0)) * CELL_PX).toFixed(1)} ${((j + y0 + u * (y1 - y0)) * CELL_PX).toFixed(1)}`);
        }
        for (let m = 0; m + 1 < crossings.length; m += 2) paths.set(level, `${paths.get(level) ?? ''}M${crossings[m]}L${crossings[m + 1]}`);
      }
    }
  return [...paths].map(([level, d]) => ({ level, d }));
}
const CORNERS = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
] as const;
