import { memo } from 'react';
import { groundDistance, type Course } from '@/core/course/course';
import type { RibbonMap } from './ribbon-view';

/** The chart's rules: metres, and ten times finer where there is room. */
export const Rules = memo(function Rules({ map, width, height }: { map: RibbonMap; width: number; height: number }) {
  const step = map.view.scale > 14 ? 1 : map.view.scale > 3 ? 5 : 25;
  // As many have a number as there is room for.
  const numbered = step * (map.view.scale * step > 34 ? 1 : 5);
  const told = (v: number) => `${String(v).replace('-', '−')} m`;
  const a = map.place(0, height),
    b = map.place(width, 0);
  const lines = (from: number, to: number) =>
    Array.from({ length: Math.max(0, Math.min(200, Math.floor(to / step) - Math.ceil(from / step) + 1)) }, (_, i) => (Math.ceil(from / step) + i) * step);
  return (
    <g stroke="currentColor" strokeOpacity={0.13} pointerEvents="none">
      {lines(a.z, b.z).map((z) => (
        <line key={`z${z}`} x1={map.px(0, z)[0]} x2={map.px(0, z)[0]} y1={0} y2={height} />
      ))}
      {lines(a.x, b.x).map((x) => (
        <line key={`x${x}`} y1={map.px(x, 0)[1]} y2={map.px(x, 0)[1]} x1={0} x2={width} />
      ))}
      <g stroke="none" fill="currentColor" fillOpacity={0.6} fontSize={9.5} data-rule-numbers>
        {lines(a.z, b.z)
          .filter((z) => z % numbered === 0)
          .map((z) => (
            <text key={`z${z}`} x={map.px(0, z)[0] + 2} y={height - 3}>
              {told(z)}
            </text>
          ))}
        {lines(a.x, b.x)
          .filter((x) => x % numbered === 0 && map.px(x, 0)[1] < height - 14)
          .map((x) => (
            <text key={`x${x}`} x={3} y={map.px(x, 0)[1] - 2}>
              {told(x)}
            </text>
          ))}
      </g>
    </g>
  );
});

/** Where a way was looked for. */
export const Searched = memo(function Searched({ places, map }: { places: readonly { readonly x: number; readonly z: number }[]; map: RibbonMap }) {
  const d = places
    .map((p) => {
      const [x, y] = map.px(p.x, p.z);
      return `M${x.toFixed(1)} ${y.toFixed(1)}h0.01`;
    })
    .join('');
  return <path d={d} stroke="var(--sea)" strokeOpacity={0.35} strokeWidth={4} strokeLinecap="round" pointerEvents="none" data-searched={places.length} />;
});

/** The course as a rope with a mark and its number every metre, and short feathers that show where the figure faces. */
export const Rope = memo(function Rope({ course, facing, map }: { course: Course; facing: (s: number) => number; map: RibbonMap }) {
  const p = [0, 0, 0, 0];
  const at = (s: number) => {
    course.at(s, p, 0);
    return [...map.px(p[0]!, p[1]!), p[2]!] as const;
  };
  const n = Math.min(1200, Math.max(16, Math.ceil(course.length * 6)));
  const line = Array.from({ length: n + 1 }, (_, i) => {
    const [x, y] = at((course.length * i) / n);
    return `${x.toFixed(1)},${y.toFixed(1)}`;
  }).join(' ');
  const every = map.view.scale > 26 ? 1 : map.view.scale > 8 ? 5 : 25;
  const marks: { s: number; metre: number }[] = [];
  let next = 0;
  for (let i = 0; i <= n * 4; i++) {
    const s = (course.length * i) / (n * 4);
    if (groundDistance(course, s) >= next - 1e-9) {
      marks.push({ s, metre: next });
      next += every;
    }
  }
  return (
    <g pointerEvents="none">
      <polyline points={line} fill="none" stroke="var(--sea)" strokeWidth={2.2} strokeOpacity={0.9} />
      {marks.map(({ s, metre }) => {
        const [x, y, h] = at(s);
        const [dx, dy] = [Math.cos(h), -Math.sin(h)];
        const [fx, fy] = [Math.cos(facing(s)), -Math.sin(facing(s))];
        return (
          <g key={metre}>
            <line x1={x - 6 * dy} y1={y + 6 * dx} x2={x + 6 * dy} y2={y - 6 * dx} stroke="var(--sea)" strokeWidth={1.4} />
            <path d={`M${x} ${y}l${(8 * fx).toFixed(1)} ${(8 * fy).toFixed(1)}`} stroke="var(--sea)" strokeWidth={1.4} />
            <text x={x + 12 * dy} y={y - 12 * dx + 3} fontSize={10} textAnchor="middle" fill="currentColor" fillOpacity={0.8}>
              {metre}
            </text>
          </g>
        );
      })}
    </g>
  );
});
