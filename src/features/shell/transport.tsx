'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Slider from '@mui/material/Slider';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { memo, useEffect, useRef } from 'react';
import { wrapPhase } from '@/core/math/scalar';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useStable } from '../stage/use-stable';
import { useSession, type FlagName, type ViewName } from '../stage/session';
import { shotIn } from '@/core/project/motion-spec';
import { frameShown } from '@/core/steps/frame-numbers';
import { stepFrame, togglePlay } from './playback';

/** Below the walkway: playing, scrubbing, speed, and how the view holds the figure. */
export const Transport = memo(function Transport({ motion, clock }: { motion: StageMotion; clock: Clock }) {
  const head = useRef<HTMLInputElement>(null);
  const shown = useRef<HTMLSpanElement>(null);
  const { endless, spec, part } = motion;
  const shot = shotIn(spec, part);
  // A loop that takes several strides to close, as one with a slow look around, is scrubbed over its whole length.
  const duration = motion.duration * (endless ? motion.source.rounds : 1);
  useEffect(
    () =>
      clock.subscribe((t) => {
        const at = endless ? wrapPhase(t / duration) * duration : Math.min(t, duration);
        if (head.current) head.current.value = String(at / duration);
        // Frames are counted from 1, as animators count pictures, or from what the shot says.
        if (shown.current) shown.current.textContent = `frame ${frameShown(shot, clock.session.getState().fps, at)} · ${at.toFixed(2)} s`;
      }),
    [clock, duration, endless, shot],
  );
  return (
    <Box
      component="section"
      aria-label="Playback"
      sx={{ borderTop: 1, borderColor: 'divider', px: 1.5, py: 0.5, display: 'grid', gap: 0.25, bgcolor: 'background.paper' }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: { xs: 0.5, lg: 1 } }}>
        <PlayButtons clock={clock} motion={useStable(() => motion)} />
        <Box
          component="input"
          type="range"
          ref={head}
          min={0}
          max={1}
          step={0.0005}
          defaultValue={0}
          aria-label="Playhead"
          onChange={(e: React.ChangeEvent<HTMLInputElement>) =>
            clock.set((endless ? Math.floor(clock.time / duration) * duration : 0) + Number(e.target.value) * duration)
          }
          sx={{ flex: 1, minWidth: 60, accentColor: 'var(--mui-palette-primary-main)' }}
        />
        <Typography ref={shown} component="span" data-testid="time" noWrap sx={{ width: 122, flexShrink: 0, textAlign: 'right' }} />
        <Pace />
      </Box>
      <Looks />
    </Box>
  );
});

const PlayButtons = memo(function PlayButtons({ clock, motion }: { clock: Clock; motion: () => StageMotion }) {
  const playing = useSession((s) => s.playing);
  return (
    <>
      <Button variant="outlined" aria-keyshortcuts="Space" onClick={() => togglePlay(clock, motion())} sx={{ minWidth: 64 }}>
        {playing ? 'Pause' : 'Play'}
      </Button>
      <Button aria-label="−1, one frame back" title="One frame back ( , )" onClick={() => stepFrame(clock, motion(), -1)} sx={{ minWidth: 30 }}>
        −1
      </Button>
      <Button aria-label="+1, one frame on" title="One frame on ( . )" onClick={() => stepFrame(clock, motion(), 1)} sx={{ minWidth: 30 }}>
        +1
      </Button>
    </>
  );
});

/** How fast it plays, and at how many pictures a second. */
const Pace = memo(function Pace() {
  const rate = useSession((s) => s.rate);
  const fps = useSession((s) => s.fps);
  const set = useSession((s) => s.set);
  return (
    <>
      <Slider
        size="small"
        aria-label="Playback speed"
        min={0.1}
        max={2}
        step={0.1}
        value={rate}
        onChange={(_, v) => set({ rate: v as number })}
        sx={{ width: { xs: 48, lg: 90 }, flexShrink: 0, ml: 1 }}
      />
      <Typography component="span" sx={{ width: 34, flexShrink: 0 }}>
        {rate.toFixed(1)}×
      </Typography>
      <Select value={fps} inputProps={{ 'aria-label': 'Frames a second' }} variant="standard" onChange={(e) => set({ fps: Number(e.target.value) })}>
        {[12, 24, 25, 30, 60].map((f) => (
          <MenuItem key={f} value={f}>
            {f} fps
          </MenuItem>
        ))}
      </Select>
    </>
  );
});

/** From where and with what the figure is seen. */
const Looks = memo(function Looks() {
  const view = useSession((s) => s.view);
  const set = useSession((s) => s.set);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', flexWrap: 'wrap' }}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={view}
        aria-label="View"
        onChange={(_, chosen: ViewName | null) => chosen && set({ view: chosen })}
        sx={{ '& .MuiToggleButton-root': { py: 0, px: 1 } }}
      >
        {(['side', 'front', 'top', 'free'] as const).map((v) => (
          <ToggleButton key={v} value={v}>
            {v}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Flag name="follow" />
      <Flag name="treadmill" />
      <Flag name="prints" />
      <Flag name="travelLine" label="line" />
      <Flag name="weightPoint" label="weight" />
      <Flag name="footfallChart" label="chart" />
      <Flag name="soleView" label="sole view" />
      <Flag name="loop" />
    </Box>
  );
});

/** A switch of the session by its name. */
const Flag = memo(function Flag({ name, label = name }: { name: FlagName; label?: string }) {
  const on = useSession((s) => s[name]);
  const set = useSession((s) => s.set);
  return (
    <FormControlLabel
      label={label}
      control={<Switch size="small" checked={on} onChange={(_, v) => set({ [name]: v })} />}
      sx={{ m: 0, whiteSpace: 'nowrap', '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
    />
  );
});
