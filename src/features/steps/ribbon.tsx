import Box from '@mui/material/Box';
import { memo, useEffect, useMemo, useRef, type PointerEvent as ReactPointer, type RefObject } from 'react';
import type { Course } from '@/core/course/course';
import { groundDistance } from '@/core/course/course';
import { frameOf } from '@/core/ground/frame';
import { clamp } from '@/core/math/scalar';
import type { Foothold } from '@/core/motion/motion';
import { printFaults } from '@/core/steps/faults';
import { planCourse } from '@/core/steps/motion';
import { EDIT_RANGES } from '@/core/steps/print-spec';
import { useWalk } from '../document/selectors';
import { freshMark } from '../document/history';
import { useWidth } from '../footfall/width';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSession, type Session } from '../stage/session';
import { addKnot, knotBefore, removeKnot } from './course-editing';
import { editOf, useWalkChange } from './editing';
import { CHART_INK } from './ink';
import { RibbonGround } from './ribbon-ground';
import { useRibbonView, type Box2, type RibbonMap } from './ribbon-view';

interface Props {
  readonly motion: StageMotion;
  readonly clock: Clock;
  readonly height: number;
  /** Filled with what shows all of the walk. */
  readonly fit: RefObject<() => void>;
}

/** Most prints drawn at once; of a longer walk those in sight. */
const MOST_PRINTS = 400;
const DEG = Math.PI / 180;
/** Length (m) of a print's stalk, by which it is turned. */
const STALK_M = 0.42;
/** What an arrow key moves a print by, m, and turns it by, degrees. */
const KEY_M = 0.01;
const KEY_DEG = 1;

/** The walk from above: ground, course and prints, all moved by hand. */
export function Ribbon({ motion, clock, height, fit }: Props) {
  const { id, spec: plan } = useWalk();
  const change = useWalkChange();
  const chosen = useSession((s) => s.chosen);
  const searched = useSession((s) => s.searched);
  const set = useSession((s) => s.set);
  const frame = useRef<HTMLDivElement>(null);
  const figure = useRef<SVGGElement>(null);
  const width = useWidth(frame);
  const course = useMemo((): Course | null => {
    try {
      return planCourse(plan, motion.gait);
    } catch {
      return null;
    }
  }, [plan, motion.gait]);
  const { source } = motion;
  const holds = useMemo(() => source.footholds(0, source.duration), [source]);
  const faults = useMemo(() => new Map(printFaults(source).map((f) => [f.step, f.words])), [source]);
  const box = useMemo(() => boxOf(holds, plan.course.knots), [holds, plan.course.knots]);
  const { map, fit: fitNow, pan } = useRibbonView(id, box, width, height, frame);
  useEffect(() => {
    fit.current = fitNow;
  }, [fit, fitNow]);
  useEffect(() => {
    const place = new Float64Array(4);
    return clock.subscribe((t) => {
      source.place(Math.min(t, source.duration), place);
      const [x, y] = map.px(place[0]!, place[2]!);
      figure.current?.setAttribute('transform', `translate(${x.toFixed(1)} ${y.toFixed(1)}) rotate(${(-place[3]! / DEG).toFixed(1)})`);
    });
  }, [clock, source, map]);

  const placeOf = (e: { clientX: number; clientY: number }) => {
    const bounds = frame.current!.getBoundingClientRect();
    return map.place(e.clientX - bounds.left, e.clientY - bounds.top);
  };
  /** Follows the pointer until it is let go; every move of one drag is one step of undo. */
  const drag = (e: ReactPointer, move: (at: { x: number; z: number }, by: { x: number; z: number }, mark: string, event: PointerEvent) => void) => {
    if (e.button !== 0) return;
    e.stopPropagation();
    e.preventDefault();
    const start = placeOf(e);
    const mark = freshMark('ribbon');
    const onMove = (event: PointerEvent) => {
      const at = placeOf(event);
      move(at, { x: at.x - start.x, z: at.z - start.z }, mark, event);
    };
    const end = () => {
      window.removeEventListener('pointermove', onMove);
      window.removeEventListener('pointerup', end);
      window.removeEventListener('pointercancel', end);
    };
    window.addEventListener('pointermove', onMove);
    window.addEventListener('pointerup', end);
    window.addEventListener('pointercancel', end);
  };
  const grabGround = (featureId: string, part: 'whole' | 'end' | 'heading' | number, e: ReactPointer) => {
    set({ chosen: { kind: 'feature', key: featureId } });
    const was = plan.ground.features.find((f) => f.id === featureId)!;
    const lies = frameOf(was);
    drag(e, (at, by, mark) =>
      change(
        part === 'whole' ? 'move ground' : 'size ground',
        (p) => {
          const f = p.ground.features.find((g) => g.id === featureId);
          if (!f) return;
          if (part === 'whole') {
            f.x = round(was.x + by.x);
            f.z = round(was.z + by.z);
          } else if (typeof part === 'number') {
            if (f.kind !== 'stones' || was.kind !== 'stones') return;
            f.stones[part]!.z = round(was.stones[part]!.z + by.x * lies.sin + by.z * lies.cos);
            f.stones[part]!.x = round(was.stones[part]!.x + by.x * lies.cos - by.z * lies.sin);
          } else {
            const along = (at.x - was.x) * lies.sin + (at.z - was.z) * lies.cos;
            if (f.kind === 'stairs') f.count = clamp(Math.round(along / f.tread), 1, 200);
            else if ('length' in f) f.length = round(clamp(along, 0.5, 2000));
          }
        },
        mark,
      ),
    );
  };
  const grabKnot = (i: number, e: ReactPointer) => {
    set({ chosen: { kind: 'knot', key: i } });
    const was = plan.course.knots[i]!;
    drag(e, (_, by, mark) =>
      change(
        'move a knot',
        (p) => {
          p.course.knots[i]!.x = round(was.x + by.x);
          p.course.knots[i]!.z = round(was.z + by.z);
        },
        mark,
      ),
    );
  };
  /** Heading of the course where a print's foot lands: edits are told along it. */
  const courseHeading = (hold: Foothold): number => {
    const place = new Float64Array(4);
    source.place(hold.landing, place);
    return place[3]!;
  };
  const grabPrint = (hold: Foothold, part: 'whole' | 'stalk', e: ReactPointer) => {
    if (hold.step < 1) return;
    const all = chosenPrints(chosen);
    if (e.shiftKey) {
      // With Shift it is chosen besides the others, or no more.
      const next = all.includes(hold.step) ? all.filter((k) => k !== hold.step) : [hold.step, ...all];
      e.stopPropagation();
      return set({ chosen: next.length > 0 ? { kind: 'print', key: next[0]!, more: next.slice(1) } : null });
    }
    const moved = part === 'whole' && all.includes(hold.step) ? all : [hold.step];
    if (moved.length === 1) set({ chosen: { kind: 'print', key: hold.step } });
    const starts = new Map(moved.map((k) => [k, plan.edits.find((o) => o.step === k) ?? { along: 0, aside: 0, turnDeg: 0 }]));
    const was = starts.get(hold.step)!;
    const heading = courseHeading(hold);
    const [sin, cos] = [Math.sin(heading), Math.cos(heading)];
    drag(e, (at, by, mark) =>
      change(
        part === 'whole' ? 'move a print' : 'turn a print',
        (p) => {
          if (part === 'whole')
            for (const [step, start] of starts) {
              const edit = editOf(p, step);
              edit.along = clamp(round(start.along + by.x * sin + by.z * cos), ...EDIT_RANGES.along);
              edit.aside = clamp(round(start.aside + by.x * cos - by.z * sin), ...EDIT_RANGES.aside);
            }
          else {
            const edit = editOf(p, hold.step);
            const towards = Math.atan2(at.x - hold.x, at.z - hold.z);
            const turned = (towards - hold.heading) / DEG;
            edit.turnDeg = clamp(Math.round(was.turnDeg + turned - 360 * Math.round(turned / 360)), ...EDIT_RANGES.turnDeg);
          }
        },
        mark,
      ),
    );
  };
  const background = (e: ReactPointer) => {
    if (e.button !== 0) return;
    set({ chosen: null });
    let last = { x: e.clientX, y: e.clientY };
    const move = (event: PointerEvent) => {
      pan(event.clientX - last.x, event.clientY - last.y);
      last = { x: event.clientX, y: event.clientY };
    };
    const up = () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
  };
  const onKey = (e: React.KeyboardEvent) => {
    if (!chosen) return;
    const by = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
    if (chosen.kind === 'print') {
      const turn = { q: 1, e: -1 }[e.key.toLowerCase()];
      if (!by && !turn && e.key !== 'Delete') return;
      e.preventDefault();
      e.stopPropagation();
      change('move a print', (p) => {
        const all = chosenPrints(chosen);
        if (e.key === 'Delete') {
          p.edits = p.edits.filter((o) => !all.includes(o.step));
          return;
        }
        const k = e.shiftKey ? 10 : e.altKey ? 0.1 : 1;
        for (const step of all) {
          const edit = editOf(p, step);
          if (by) {
            edit.along = clamp(edit.along + by[0]! * KEY_M * k, ...EDIT_RANGES.along);
            edit.aside = clamp(edit.aside + by[1]! * KEY_M * k, ...EDIT_RANGES.aside);
          }
          if (turn) edit.turnDeg = clamp(edit.turnDeg + turn * KEY_DEG * k, ...EDIT_RANGES.turnDeg);
        }
      });
      return;
    }
    if (chosen.kind === 'knot' && (by || e.key === 'Delete')) {
      e.preventDefault();
      e.stopPropagation();
      change('move a knot', (p) => {
        if (e.key === 'Delete') return removeKnot(p, chosen.key);
        const knot = p.course.knots[chosen.key]!;
        knot.z = round(knot.z + by![0]! * (e.shiftKey ? 0.5 : 0.05));
        knot.x = round(knot.x + by![1]! * (e.shiftKey ? 0.5 : 0.05));
      });
      return;
    }
    if (chosen.kind === 'feature' && (by || e.key === 'Delete')) {
      e.preventDefault();
      e.stopPropagation();
      change(e.key === 'Delete' ? 'remove ground' : 'move ground', (p) => {
        if (e.key === 'Delete') p.ground.features = p.ground.features.filter((f) => f.id !== chosen.key);
        const f = p.ground.features.find((g) => g.id === chosen.key);
        if (!f) return;
        f.z = round(f.z + by![0]! * (e.shiftKey ? 0.5 : 0.05));
        f.x = round(f.x + by![1]! * (e.shiftKey ? 0.5 : 0.05));
      });
    }
  };
  const inSight = holds.filter((h) => {
    const [x, y] = map.px(h.x, h.z);
    return x > -40 && x < width + 40 && y > -40 && y < height + 40;
  });
  const { sole } = motion.body;
  return (
    <Box
      ref={frame}
      tabIndex={0}
      role="application"
      aria-label={`Ribbon: the walk from above, ${holds.length} prints, ${plan.course.knots.length} knots, ${plan.ground.features.length} features of the ground. Arrow keys move what is chosen.`}
      data-testid="ribbon"
      onKeyDown={onKey}
      onPointerDown={background}
      onDoubleClick={(e) => {
        const at = placeOf(e);
        if (!course || nearest(course, at) > 14 / map.view.scale) return;
        change('add a knot', (p) => addKnot(p, knotBefore(p.course.knots, at.x, at.z), { x: round(at.x), z: round(at.z) }));
      }}
      sx={{
        height,
        overflow: 'hidden',
        touchAction: 'none',
        userSelect: 'none',
        ...CHART_INK,
      }}
    >
      <svg width={width} height={height} aria-hidden style={{ display: 'block' }}>
        <defs>
          <pattern id="fault-hatch" width={5} height={5} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1={0} y1={0} x2={0} y2={5} stroke="var(--fault)" strokeWidth={2} />
          </pattern>
        </defs>
        <Rules map={map} width={width} height={height} />
        <RibbonGround
          ground={plan.ground}
          map={map}
          width={width}
          height={height}
          chosen={chosen?.kind === 'feature' ? chosen.key : null}
          onGrab={grabGround}
        />
        {searched && <Searched places={searched} map={map} />}
        {course && <Rope course={course} map={map} />}
        {inSight.slice(0, MOST_PRINTS).map((h) => (
          <Print
            key={`${h.step} ${h.side} ${h.landing}`}
            hold={h}
            map={map}
            outline={h.side === 0 ? leftSole(sole) : rightSole(sole)}
            chosen={h.step > 0 && chosenPrints(chosen).includes(h.step)}
            moved={plan.edits.some((o) => o.step === h.step)}
            fault={faults.get(h.step) ?? null}
            onGrab={grabPrint}
          />
        ))}
        {plan.course.knots.map((k, i) => {
          const [x, y] = map.px(k.x, k.z);
          const on = chosen?.kind === 'knot' && chosen.key === i;
          return (
            <g key={i} data-knot-mark={i} onPointerDown={(e) => grabKnot(i, e)} style={{ cursor: 'grab' }}>
              <circle cx={x} cy={y} r={11} fill="transparent" />
              <circle cx={x} cy={y} r={on ? 6.5 : 5} fill={on ? 'var(--sea)' : 'var(--paper)'} stroke="var(--sea)" strokeWidth={2} />
              {k.turnDeg !== undefined && (
                <text x={x + 9} y={y + 15} fontSize={11} fill="currentColor">
                  turn {k.turnDeg.toFixed(0)}°
                </text>
              )}
            </g>
          );
        })}
        <g ref={figure} pointerEvents="none">
          <path d="M-9 -6.5L11 0L-9 6.5L-4 0Z" fill="currentColor" />
        </g>
      </svg>
    </Box>
  );
}

/** Steps whose prints are chosen, the first one first. */
const chosenPrints = (chosen: Session['chosen']): readonly number[] => (chosen?.kind === 'print' ? [chosen.key, ...(chosen.more ?? [])] : []);

const round = (v: number): number => Math.round(v * 1000) / 1000;

function boxOf(holds: readonly Foothold[], knots: readonly { readonly x: number; readonly z: number }[]): Box2 {
  const all = [...holds, ...knots];
  return [
    Math.min(...all.map((p) => p.x)) - 0.4,
    Math.min(...all.map((p) => p.z)) - 0.4,
    Math.max(...all.map((p) => p.x)) + 0.4,
    Math.max(...all.map((p) => p.z)) + 0.4,
  ];
}

/** Looks along a course. */
const LOOKS = 240;

/** Least distance (m) of a place from a course. */
function nearest(course: Course, at: { readonly x: number; readonly z: number }): number {
  const p = [0, 0, 0, 0];
  let least = Infinity;
  for (let i = 0; i <= LOOKS; i++) {
    course.at((course.length * i) / LOOKS, p, 0);
    least = Math.min(least, Math.hypot(p[0]! - at.x, p[1]! - at.z));
  }
  return least;
}

/** The chart's rules: metres, and ten times finer where there is room. */
function Rules({ map, width, height }: { map: RibbonMap; width: number; height: number }) {
  const step = map.view.scale > 14 ? 1 : map.view.scale > 3 ? 5 : 25;
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
    </g>
  );
}

/** Where a way was looked for. */
const Searched = memo(function Searched({ places, map }: { places: readonly { readonly x: number; readonly z: number }[]; map: RibbonMap }) {
  const d = places
    .map((p) => {
      const [x, y] = map.px(p.x, p.z);
      return `M${x.toFixed(1)} ${y.toFixed(1)}h0.01`;
    })
    .join('');
  return <path d={d} stroke="var(--sea)" strokeOpacity={0.35} strokeWidth={4} strokeLinecap="round" pointerEvents="none" data-searched={places.length} />;
});

/** The course as a rope with a mark and its number every metre, and short feathers that show where the figure faces. */
function Rope({ course, map }: { course: Course; map: RibbonMap }) {
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
        return (
          <g key={metre}>
            <line x1={x - 6 * dy} y1={y + 6 * dx} x2={x + 6 * dy} y2={y - 6 * dx} stroke="var(--sea)" strokeWidth={1.4} />
            <path d={`M${x} ${y}l${(7 * dx).toFixed(1)} ${(7 * dy).toFixed(1)}`} stroke="var(--sea)" strokeWidth={1.4} />
            <text x={x + 12 * dy} y={y - 12 * dx + 3} fontSize={10} textAnchor="middle" fill="currentColor" fillOpacity={0.8}>
              {metre}
            </text>
          </g>
        );
      })}
    </g>
  );
}

type SoleShape = { readonly heelBack: number; readonly ballAhead: number; readonly tipAhead: number; readonly breadth: number };

/** Outlines in metres: ahead to the right, left up; the left one round, the right one square. */
const leftSole = ({ heelBack: b, ballAhead: m, tipAhead: t, breadth }: SoleShape): string => {
  const w = breadth / 2;
  return `M${-b} 0Q${-b} ${-w * 0.8} ${-b + w} ${-w * 0.74}L${m} ${-w}Q${t} ${-w} ${t} 0Q${t} ${w} ${m} ${w}L${-b + w} ${w * 0.74}Q${-b} ${w * 0.8} ${-b} 0Z`;
};
const rightSole = ({ heelBack: b, ballAhead: m, tipAhead: t, breadth }: SoleShape): string => {
  const w = breadth / 2;
  return `M${-b} ${-w * 0.76}L${m * 0.3} ${-w * 0.68}L${m} ${-w}L${t} ${-w}L${t} ${w}L${m} ${w}L${m * 0.3} ${w * 0.68}L${-b} ${w * 0.76}Z`;
};

interface PrintProps {
  readonly hold: Foothold;
  readonly map: RibbonMap;
  readonly outline: string;
  readonly chosen: boolean;
  readonly moved: boolean;
  readonly fault: string | null;
  readonly onGrab: (hold: Foothold, part: 'whole' | 'stalk', e: ReactPointer) => void;
}

function Print({ hold, map, outline, chosen, moved, fault, onGrab }: PrintProps) {
  const [x, y] = map.px(hold.x, hold.z);
  const { scale } = map.view;
  const ink = hold.side === 0 ? 'var(--left)' : 'var(--right)';
  const size = Math.max(scale, 34);
  return (
    <g
      transform={`translate(${x.toFixed(1)} ${y.toFixed(1)}) rotate(${(-hold.heading / DEG).toFixed(1)})`}
      data-print={hold.step}
      data-side={hold.side === 0 ? 'left' : 'right'}
    >
      <g onPointerDown={(e) => onGrab(hold, 'whole', e)} style={{ cursor: hold.step > 0 ? 'grab' : 'default' }}>
        <path
          d={outline}
          transform={`scale(${size} ${-size})`}
          fill={fault ? 'url(#fault-hatch)' : ink}
          fillOpacity={fault ? 1 : hold.step === 0 ? 0.25 : 0.75}
          stroke={chosen ? 'currentColor' : ink}
          strokeWidth={(chosen ? 2.2 : 1) / size}
          strokeDasharray={moved ? `${3 / size} ${2 / size}` : undefined}
        />
        {size > 60 && (
          <text
            transform={`translate(${0.03 * size} 0) rotate(${(hold.heading / DEG).toFixed(1)})`}
            fontSize={10}
            fontWeight={700}
            textAnchor="middle"
            dominantBaseline="central"
            fill="var(--paper)"
          >
            {hold.side === 0 ? 'L' : 'R'}
          </text>
        )}
      </g>
      {chosen && (
        <>
          <line x1={0} y1={0} x2={STALK_M * size} y2={0} stroke="currentColor" strokeWidth={1.2} pointerEvents="none" />
          <circle
            data-stalk={hold.step}
            cx={STALK_M * size}
            cy={0}
            r={5.5}
            fill="var(--paper)"
            stroke="currentColor"
            strokeWidth={1.6}
            style={{ cursor: 'crosshair' }}
            onPointerDown={(e) => onGrab(hold, 'stalk', e)}
          />
          <text transform={`rotate(${(hold.heading / DEG).toFixed(1)}) translate(0 24)`} fontSize={11} textAnchor="middle" fill="currentColor">
            {hold.step}: {hold.landing.toFixed(2)}–{hold.leaving.toFixed(2)} s
          </text>
        </>
      )}
      {fault && (
        <text
          transform={`rotate(${(hold.heading / DEG).toFixed(1)}) translate(0 -14)`}
          fontSize={11}
          textAnchor="middle"
          fill="var(--fault)"
          pointerEvents="none"
        >
          {fault}
        </text>
      )}
    </g>
  );
}
