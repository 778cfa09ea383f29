import { toRadians } from '../math/scalar';
import { DELAY_RANGE, PARAMETER_LIST, type Channel, type Range, type Unit } from './parameters';
import { CARRIES, copyChannel, HELD, type GaitSpec, type Held } from './spec';
import { follow, follower, structuredCloneGait } from './timing';

/** A fault in one KEY=VALUE: what it names, what is wrong, what is allowed. */
export interface AssignFault {
  readonly key: string;
  readonly message: string;
}

const SUFFIXES: Readonly<Record<string, { unit: Unit; factor: number }>> = {
  deg: { unit: 'rad', factor: toRadians(1) },
  rad: { unit: 'rad', factor: 1 },
  cm: { unit: 'm', factor: 0.01 },
  mm: { unit: 'm', factor: 0.001 },
  m: { unit: 'm', factor: 1 },
  s: { unit: 's', factor: 1 },
  'm/s': { unit: 'm/s', factor: 1 },
  '%': { unit: 'share', factor: 0.01 },
  Hz: { unit: 'Hz', factor: 1 },
};

/**
 * Sets dotted paths of a gait (`timing.speed=1.4`, `feet.landingPitch=20deg`, `hips.rise.amount=2cm`), all or none: returns a new gait,
 * or every fault. Where one or two of stride length, speed and stride time are set, the others follow.
 */
export function assign(gait: GaitSpec, settings: readonly (readonly [key: string, value: string])[]): { gait: GaitSpec } | { faults: AssignFault[] } {
  const next = structuredCloneGait(gait);
  const faults: AssignFault[] = [];
  const timed: Held[] = [];
  for (const [key, text] of settings) {
    if (key === 'carry') {
      const carry = CARRIES.find((c) => c === text.trim());
      if (carry) next.carry = carry;
      else faults.push({ key, message: `"${text}" is none of ${CARRIES.join(', ')}` });
      continue;
    }
    const target = findTarget(key);
    if (!target) {
      faults.push({ key, message: 'no such parameter; `nimbret gaits --json` prints a whole gait' });
      continue;
    }
    const value = parseValue(text, target.unit);
    if (value === null) faults.push({ key, message: `"${text}" is not a number${target.unit === 'rad' ? ' (radians, or degrees as 20deg)' : ''}` });
    else if (target.unit === 'count' && !Number.isInteger(value)) faults.push({ key, message: `${text} is not a whole number` });
    else if (!(value >= target.range[0] && value <= target.range[1]))
      faults.push({ key, message: `${text} is outside ${round(target.range[0])} to ${round(target.range[1])} ${target.unit}` });
    else target.write(next, value);
    if (HELD.some((h) => key === `timing.${h}`)) timed.push(key.slice('timing.'.length) as Held);
  }
  const free = timed.length === 1 ? follower(timed[0]!, gait.held) : HELD.find((h) => !timed.includes(h));
  if (timed.length > 0 && free) follow(next.timing, free);
  if (timed.length > 0 && free && faults.length === 0) {
    const range = findTarget(`timing.${free}`)!.range;
    const value = next.timing[free];
    if (!(value >= range[0] && value <= range[1]))
      faults.push({ key: `timing.${free}`, message: `follows as ${value.toFixed(3)}, outside ${range[0]} to ${range[1]}` });
  }
  if (timed.length >= 3 && !free && Math.abs(next.timing.speed * next.timing.strideTime - next.timing.strideLength) > 1e-6 * next.timing.strideLength)
    faults.push({ key: 'timing', message: 'stride length, speed and stride time do not agree (stride length = speed × stride time); set two of them' });
  return faults.length > 0 ? { faults } : { gait: next };
}

interface Target {
  readonly unit: Unit;
  readonly range: Range;
  readonly write: (gait: GaitSpec, value: number) => void;
}

/** What a key names: a parameter or part of a channel; with `right.` in front, the right side's own value of it. */
function findTarget(key: string): Target | null {
  if (key.startsWith('right.')) return rightTarget(key.slice('right.'.length));
  for (const { path, group, key: name, parameter: p } of PARAMETER_LIST) {
    const values = (gait: GaitSpec) => gait[group] as unknown as Record<string, unknown>;
    if (p.kind === 'scalar' && key === path) return { unit: p.unit, range: p.range, write: (g, v) => (values(g)[name] = v) };
    if (p.kind !== 'channel' || !key.startsWith(`${path}.`)) continue;
    const part = key.slice(path.length + 1);
    const write = (g: GaitSpec, v: number) => ((values(g)[name] as Record<string, number>)[part] = v);
    if (part === 'offset' || part === 'amount') return { unit: p.unit, range: p[part], write };
    if (part === 'delay') return { unit: 'phase', range: DELAY_RANGE, write };
  }
  return null;
}

function rightTarget(key: string): Target | null {
  const plain = findTarget(key);
  const entry = PARAMETER_LIST.find((e) => e.parameter.perSide && (key === e.path || key.startsWith(`${e.path}.`)));
  if (!plain || !entry) return null;
  const { path, group, key: name } = entry;
  const write = (gait: GaitSpec, v: number) => {
    if (key === path) return (gait.right[path] = v);
    // The right side starts from what both had.
    const own = (gait.right[path] ?? (gait[group] as unknown as Record<string, Channel>)[name]!) as Channel;
    return (gait.right[path] = { ...copyChannel(own), [key.slice(path.length + 1)]: v });
  };
  return { ...plain, write };
}

function parseValue(text: string, unit: Unit): number | null {
  const match = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*([a-z/%]*)$/i.exec(text.trim());
  if (!match) return null;
  const suffix = match[2]!;
  if (suffix === '') return Number(match[1]);
  const known = SUFFIXES[suffix];
  return known && known.unit === unit ? Number(match[1]) * known.factor : null;
}

const round = (v: number): number => Math.round(v * 1e4) / 1e4;
