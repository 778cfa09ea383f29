import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { memo } from 'react';
import { TRACK_RANGES, type TrackName, type TrackSpec } from '@/core/steps/plan';
import { ChannelStrip } from '../channel/strip';
import { useWalk } from '../document/selectors';
import { ChannelAmounts } from './channel-amounts';
import { useWalkChange } from './editing';
import { GaitKeys } from './gait-keys';
import { Halts } from './halts';
import { Head, KeyRows } from './track-keys';

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
  {
    name: 'belt',
    label: 'Floor speed',
    unit: 'm/s',
    about: 'A belt or deck under the feet that moves along the course’s first heading.',
    start: one('time', -0.5),
  },
  { name: 'clock', label: 'Time warp', unit: '×', about: 'Time itself: 1 as it is, 0.5 slow motion, 0 a held moment.', start: one('time', 1) },
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
export const TracksPage = memo(function TracksPage() {
  const { spec: plan } = useWalk();
  const change = useWalkChange();
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <GaitKeys gaits={plan.gaits} gait={plan.gait} />
      <Halts halts={plan.halts} />
      {TRACKS.map((t) => (
        <TrackKeys key={t.name} track={plan[t.name]} {...t} />
      ))}
      <ChannelAmounts channels={plan.channels} />
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
});

const TrackKeys = memo(function TrackKeys({ track, name, label, unit, about, start }: { track: TrackSpec | null } & (typeof TRACKS)[number]) {
  const change = useWalkChange();
  if (!track)
    return (
      <Head label={label} about={about}>
        <Button aria-label={`Add keys: ${label.toLowerCase()}`} onClick={() => change(`add ${label.toLowerCase()}`, (p) => void (p[name] = start))}>
          Add keys
        </Button>
      </Head>
    );
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
      <KeyRows
        label={label}
        id={name}
        unit={unit}
        track={track}
        range={TRACK_RANGES[name]}
        onKeys={(what, recipe) => change(what, (p) => recipe(p[name]!.keys))}
      />
    </Box>
  );
});
