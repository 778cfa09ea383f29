import Typography from '@mui/material/Typography';
import { memo } from 'react';
import { PROPORTIONS, type Proportion } from '@/core/body/proportions';
import { createBody } from '@/core/body/body';
import type { BodySpec } from '@/core/body/spec';
import { ChannelStrip } from '../channel/strip';
import { specOf, useDocument, useDocumentStore } from '../document/context';
import { bodyIdOf } from '../document/selectors';
import { editItem } from '../document/store';

/** One edited length of the sole: how it is read from the proportions and written to them; shares of stature and of the foot. */
interface SoleLength {
  readonly key: string;
  readonly label: string;
  readonly tooltip: string;
  readonly range: readonly [number, number];
  readonly get: (p: Record<Proportion, number>) => number;
  readonly set: (p: Record<Proportion, number>, value: number) => Partial<Record<Proportion, number>>;
}

// Heel, ball and tip are edited apart: the foot's length and the two shares follow.
const rebuilt = (heel: number, ball: number, tip: number): Partial<Record<Proportion, number>> => ({
  footLength: heel + tip,
  heelShare: heel / (heel + tip),
  ballShare: (heel + ball) / (heel + tip),
});
const heelOf = (p: Record<Proportion, number>) => p.footLength * p.heelShare;
const ballOf = (p: Record<Proportion, number>) => p.footLength * (p.ballShare - p.heelShare);
const tipOf = (p: Record<Proportion, number>) => p.footLength * (1 - p.heelShare);

const LENGTHS: readonly SoleLength[] = [
  {
    key: 'heel',
    label: 'Heel behind ankle',
    tooltip: 'Where the heel’s pivot is behind the ankle.',
    range: [0.01, 0.08],
    get: heelOf,
    set: (p, v) => rebuilt(v, ballOf(p), tipOf(p)),
  },
  {
    key: 'ball',
    label: 'Ball ahead',
    tooltip: 'Where the toes bend, ahead of the ankle.',
    range: [0.03, 0.12],
    get: ballOf,
    set: (p, v) => rebuilt(heelOf(p), v, Math.max(tipOf(p), v + 0.012)),
  },
  {
    key: 'tip',
    label: 'Toe tip ahead',
    tooltip: 'Where the toes end, ahead of the ankle.',
    range: [0.045, 0.2],
    get: tipOf,
    set: (p, v) => rebuilt(heelOf(p), Math.min(ballOf(p), v - 0.012), v),
  },
  {
    key: 'breadth',
    label: 'Sole breadth',
    tooltip: 'How broad the sole is.',
    range: [0.02, 0.12],
    get: (p) => p.footBreadth,
    set: (_, v) => ({ footBreadth: v }),
  },
  {
    key: 'ankle',
    label: 'Ankle height',
    tooltip: 'Height of the ankle over the flat sole.',
    range: [0.02, 0.08],
    get: (p) => p.ankleHeight,
    set: (_, v) => ({ ankleHeight: v }),
  },
];

/** Proportions of a body with one length of its sole set, or null where the body could not stand on it. */
function withLength(spec: BodySpec, length: SoleLength, value: number): BodySpec | null {
  const all = { ...PROPORTIONS, ...spec.proportions };
  const next = { ...spec, proportions: { ...spec.proportions, ...length.set(all, value / spec.stature) } };
  try {
    createBody(next);
    return next;
  } catch {
    return null;
  }
}

/** The body's sole, edited where its effect is seen: in the sole view. Lengths are the body's, not the gait's. */
export const SoleStrips = memo(function SoleStrips() {
  const store = useDocumentStore();
  const id = useDocument(bodyIdOf);
  const spec = useDocument((s) => specOf(s, 'body', id));
  const all = { ...PROPORTIONS, ...spec.proportions };
  return (
    <>
      <Typography sx={{ fontSize: 12.5, color: 'text.secondary', mt: 0.75 }}>Sole of {spec.name}, seen in the sole view</Typography>
      {LENGTHS.map((length) => (
        <ChannelStrip
          key={length.key}
          path={`sole.${length.key}`}
          label={length.label}
          tooltip={length.tooltip}
          unit="m"
          range={[length.range[0] * spec.stature, length.range[1] * spec.stature]}
          value={length.get(all) * spec.stature}
          fallback={length.get(PROPORTIONS) * spec.stature}
          onChange={(v, mark) => {
            const next = withLength(spec, length, v);
            if (next) editItem<'body'>(store, id, `sole ${length.key}`, (b) => void (b.proportions = next.proportions), mark);
          }}
        />
      ))}
    </>
  );
});
