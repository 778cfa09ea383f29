import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { LONGEST, REST_RANGE, TRACK_RANGES, type PlanSpec, type TrackName, type TrackSpec } from '@/core/steps/plan';
import { ChannelStrip } from '../channel/strip';
import { useDocument } from '../document/context';
import { gaitFor, useWalk } from '../document/selectors';
import { GaitChoice } from '../library/gait-choice';
import { Figures, rowSx } from './cells';
import { useWalkChange } from './editing';

const NEXT_WORDS = { held: 'held', linear: 'evenly', smooth: 'smoothly' } as const;

const TRACKS: readonly { readonly name: TrackName; readonly label: string; readonly unit: string; readonly about: string; readonly start: TrackSpec }[] = [
  {
    name: 'pace',
    label: 'Pace',
    unit: 'm/s',
    about: 'Speed against the ground under the feet. At 0 the figure closes its feet and rests.',
    start: one('distance', 1.2),
  },
  {
    name: 'place',
    label: 'Place',
    unit: 'm',
    about: 'Be here then: distance along the course at a time. The figure walks as fast as that takes, in place of a pace.',
    start: be(),
  },
  { name: 'amount', label: 'Amount', unit: '×', about: 'How much of the gait’s swings is shown; feet stay where they are.', start: one('time', 1) },
  { name: 'belt', label: 'Ground', unit: 'm/s', about: 'A belt or deck under the feet that moves along the course’s first heading.', start: one('time', -0.5) },
  { name: 'clock', label: 'Clock', unit: '×', about: 'Time itself: 1 as it is, 0.5 slow motion, 0 a held moment.', start: one('time', 1) },
];

/** At the start until the first step, and four metres on five seconds later. */
function be(): TrackSpec {
  return {
    over: 'time',
    keys: [
      { at: 1, value: 0, next: 'linear' },
      { at: 6, value: 4, next: 'linear' },
    ],
  };
}

function one(over: TrackSpec['over'], value: number): TrackSpec {
  return { over, keys: [{ at: 0, value, next: 'smooth' }] };
}

/** What changes in the course of the walk: gaits, rests, pace and the like. */
export function TracksPage() {
  const { spec: plan } = useWalk();
  const change = useWalkChange();
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <GaitKeys plan={plan} />
      <Halts plan={plan} />
      {TRACKS.map((t) => (
        <TrackKeys key={t.name} plan={plan} {...t} />
      ))}
      <ChannelStrip
        path="plan.lengthShare"
        label="Longer steps"
        tooltip="How much of a change of pace the length of the steps takes; the cadence takes the rest. People keep both alike."
        unit="share"
        range={[0, 1]}
        value={plan.lengthShare}
        fallback={0.5}
        onChange={(v, mark) => change('how pace is shared', (p) => void (p.lengthShare = v), mark)}
      />
    </Box>
  );
}

function Head({ label, about, children }: { label: string; about: string; children: ReactNode }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }} title={about}>
      <Typography variant="h3" sx={{ flex: 1 }}>
        {label}
      </Typography>
      {children}
    </Box>
  );
}

function GaitKeys({ plan }: { plan: PlanSpec }) {
  const change = useWalkChange();
  const own = useDocument((s) => gaitFor(s, plan.gait));
  const add = () =>
    change('add a gait', (p) => {
      const last = p.gaits[p.gaits.length - 1];
      p.gaits.push({ at: (last?.at ?? 0) + 4, stretch: 2, gait: own });
    });
  return (
    <Box>
      <Head label="Gaits" about="From one gait into another within the walk, at a distance along the course.">
        <Button onClick={add}>Add a gait</Button>
      </Head>
      {plan.gaits.map((key, i) => (
        <Box key={i} data-gait-key={i} sx={{ ...rowSx(false), display: 'flex', flexWrap: 'wrap', gap: 0.5, alignItems: 'center' }}>
          <GaitValue value={key.gait} label={`Gait ${i + 1} of the walk`} onChoose={(g) => change('gait on the way', (p) => void (p.gaits[i]!.gait = g))} />
          <Figures
            name={`Gait ${i + 1} from`}
            label="from"
            value={key.at}
            range={[i > 0 ? plan.gaits[i - 1]!.at + 0.01 : 0, plan.gaits[i + 1] ? plan.gaits[i + 1]!.at - 0.01 : LONGEST.distance]}
            step={0.25}
            onChange={(v) => change('gait on the way', (p) => void (p.gaits[i]!.at = v))}
          />
          <Figures
            name={`Gait ${i + 1} over`}
            label="over"
            value={key.stretch}
            range={[0, 50]}
            step={0.25}
            onChange={(v) => change('gait on the way', (p) => void (p.gaits[i]!.stretch = v))}
          />
          <Button aria-label={`Remove gait ${i + 1}`} onClick={() => change('remove a gait', (p) => void p.gaits.splice(i, 1))} sx={{ minWidth: 0 }}>
            Remove
          </Button>
        </Box>
      ))}
    </Box>
  );
}

function GaitValue({ value, label, onChoose }: { value: string; label: string; onChoose: (id: string) => void }) {
  const known = useDocument((s) => gaitFor(s, value));
  return <GaitChoice label={label} value={known} onChoose={onChoose} />;
}

function Halts({ plan }: { plan: PlanSpec }) {
  const change = useWalkChange();
  return (
    <Box>
      <Head label="Rests" about="The figure closes its feet at a distance along the course, stands, and goes on.">
        <Button onClick={() => change('add a rest', (p) => void p.halts.push({ at: (p.halts[p.halts.length - 1]?.at ?? 0) + 3, rest: 2 }))}>Add a rest</Button>
      </Head>
      {plan.halts.map((halt, i) => (
        <Box key={i} data-halt={i} sx={{ ...rowSx(false), display: 'flex', gap: 1 }}>
          <Figures
            name={`Rest ${i + 1} at`}
            label="at"
            value={halt.at}
            range={[i > 0 ? plan.halts[i - 1]!.at + 0.01 : 0, plan.halts[i + 1] ? plan.halts[i + 1]!.at - 0.01 : LONGEST.distance]}
            step={0.25}
            onChange={(v) => change('move a rest', (p) => void (p.halts[i]!.at = v))}
          />
          <Figures
            name={`Rest ${i + 1} for`}
            label="for"
            unit="s"
            value={halt.rest}
            range={REST_RANGE}
            step={0.1}
            onChange={(v) => change('length of a rest', (p) => void (p.halts[i]!.rest = v))}
          />
          <Button aria-label={`Remove rest ${i + 1}`} onClick={() => change('remove a rest', (p) => void p.halts.splice(i, 1))} sx={{ minWidth: 0 }}>
            Remove
          </Button>
        </Box>
      ))}
    </Box>
  );
}

function TrackKeys({ plan, name, label, unit, about, start }: { plan: PlanSpec } & (typeof TRACKS)[number]) {
  const change = useWalkChange();
  const track = plan[name];
  if (!track)
    return (
      <Head label={label} about={about}>
        <Button aria-label={`Add ${label.toLowerCase()} keys`} onClick={() => change(`add ${label.toLowerCase()}`, (p) => void (p[name] = start))}>
          Add keys
        </Button>
      </Head>
    );
  const metres = track.over === 'distance';
  const addKey = () =>
    change(`key of ${label.toLowerCase()}`, (p) => {
      const { keys } = p[name]!;
      const last = keys[keys.length - 1]!;
      keys.push({ ...last, at: last.at + 2, value: name === 'place' ? last.value + 2 : last.value });
    });
  return (
    <Box data-track={name}>
      <Head label={label} about={about}>
        {name === 'pace' && (
          <Select
            value={track.over}
            variant="standard"
            inputProps={{ 'aria-label': `${label} over` }}
            onChange={(e) => change(`${label.toLowerCase()} over`, (p) => void (p[name]!.over = e.target.value))}
            sx={{ fontSize: 13 }}
          >
            <MenuItem value="distance">along the course</MenuItem>
            <MenuItem value="time">in time</MenuItem>
          </Select>
        )}
        <Button aria-label={`Add a key of ${label.toLowerCase()}`} onClick={addKey}>
          Add
        </Button>
        <Button aria-label={`Without ${label.toLowerCase()}`} onClick={() => change(`without ${label.toLowerCase()}`, (p) => void (p[name] = null))}>
          Without
        </Button>
      </Head>
      {track.keys.map((key, i) => (
        <Box key={i} data-key={`${name} ${i}`} sx={{ ...rowSx(false), display: 'flex', gap: 0.5, alignItems: 'center' }}>
          <Figures
            name={`${label} key ${i + 1} at`}
            label="at"
            unit={metres ? 'm' : 's'}
            value={key.at}
            range={[i > 0 ? track.keys[i - 1]!.at + 0.01 : 0, track.keys[i + 1] ? track.keys[i + 1]!.at - 0.01 : LONGEST.distance]}
            step={0.1}
            onChange={(v) => change(`key of ${label.toLowerCase()}`, (p) => void (p[name]!.keys[i]!.at = v))}
          />
          <Figures
            name={`${label} key ${i + 1}`}
            label=""
            unit={unit}
            value={key.value}
            range={TRACK_RANGES[name]}
            step={0.05}
            onChange={(v) => change(`key of ${label.toLowerCase()}`, (p) => void (p[name]!.keys[i]!.value = v))}
          />
          <Select
            value={key.next}
            variant="standard"
            inputProps={{ 'aria-label': `${label} key ${i + 1} goes on` }}
            onChange={(e) => change(`key of ${label.toLowerCase()}`, (p) => void (p[name]!.keys[i]!.next = e.target.value))}
            sx={{ fontSize: 13 }}
          >
            {(['held', 'linear', 'smooth'] as const).map((n) => (
              <MenuItem key={n} value={n}>
                {NEXT_WORDS[n]}
              </MenuItem>
            ))}
          </Select>
          <Button
            aria-label={`Remove ${label.toLowerCase()} key ${i + 1}`}
            disabled={track.keys.length < 2}
            onClick={() => change('remove a key', (p) => void p[name]!.keys.splice(i, 1))}
            sx={{ minWidth: 0 }}
          >
            Remove
          </Button>
        </Box>
      ))}
    </Box>
  );
}
