'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { useDocumentStore } from '../document/context';
import type { Clock } from '../stage/clock';
import { useSession, useSessionStore } from '../stage/session';
import { Leading } from './leading';
import { addWalk } from './walk-actions';

const AHEAD: Readonly<Record<string, number>> = { ArrowUp: 1, ArrowDown: -1 };
const LEFT: Readonly<Record<string, number>> = { ArrowLeft: 1, ArrowRight: -1 };

/** Arrow keys that are held lead the figure; all others stay what they are. */
function useLeadKeys(led: Leading | null): void {
  useEffect(() => {
    if (!led) return;
    const held = new Set<string>();
    const tell = (fast: boolean) => {
      const sum = (of: Readonly<Record<string, number>>) => [...held].reduce((v, key) => v + (of[key] ?? 0), 0);
      const [ahead, left] = [sum(AHEAD), sum(LEFT)];
      if (ahead === 0 && left === 0 && led.keys) led.halt();
      led.keys = ahead === 0 && left === 0 ? null : { ahead, left, fast };
    };
    const down = (e: KeyboardEvent) => {
      if (e.key === 'Escape') return led.halt();
      if (e.key in AHEAD || e.key in LEFT) {
        held.add(e.key);
        e.preventDefault();
        e.stopImmediatePropagation();
      } else if (e.key !== 'Shift') return;
      tell(e.shiftKey);
    };
    const up = (e: KeyboardEvent) => {
      if (held.delete(e.key) || e.key === 'Shift') tell(e.shiftKey);
    };
    const away = () => {
      held.clear();
      tell(false);
    };
    window.addEventListener('keydown', down, true);
    window.addEventListener('keyup', up, true);
    window.addEventListener('blur', away);
    return () => {
      window.removeEventListener('keydown', down, true);
      window.removeEventListener('keyup', up, true);
      window.removeEventListener('blur', away);
    };
  }, [led]);
}

/** Below the walkway while a figure is led: how it goes, and what becomes of it. */
export function LeadBar({ clock }: { clock: Clock }) {
  const store = useDocumentStore();
  const session = useSessionStore();
  const on = useSession((s) => s.led);
  const playing = useSession((s) => s.playing);
  const set = useSession((s) => s.set);
  const led = on instanceof Leading ? on : null;
  const steps = useSyncExternalStore(
    (heard) => led?.onStep(heard) ?? (() => {}),
    () => led?.lead.steps.length ?? 0,
    () => 0,
  );
  const [forgotten, setForgotten] = useState(0);
  useLeadKeys(led);
  const last = led?.lead.steps.at(-1);
  const end = () => {
    clock.set(0);
    set({ led: null });
  };
  const keep = () => {
    const walk = led?.walk();
    if (!walk) return;
    addWalk(store, walk, 'keep a led walk');
    end();
    set({ notice: { text: `Kept as a walk of ${walk.free!.prints.length} steps`, undo: true } });
  };
  // Who goes to another station keeps what was walked.
  const leave = useRef(keep);
  const here = useRef(false);
  useEffect(() => {
    leave.current = keep;
  });
  useEffect(() => {
    here.current = true;
    return () => {
      here.current = false;
      setTimeout(() => {
        if (here.current || session.getState().led !== led) return;
        leave.current();
        session.setState({ led: null });
      });
    };
  }, [session, led]);
  return (
    <Box
      component="section"
      aria-label="Led by hand"
      data-testid="lead-bar"
      sx={{
        borderTop: 1,
        borderColor: 'divider',
        px: 1.5,
        py: 0.75,
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        bgcolor: 'background.paper',
        minHeight: 62,
      }}
    >
      <Button variant="outlined" onClick={() => set({ playing: !playing })} sx={{ minWidth: 64 }}>
        {playing ? 'Pause' : 'Play'}
      </Button>
      <Typography role="status" sx={{ flex: 1 }} data-led-steps={steps}>
        {steps === 0 ? 'Point to where it is to go.' : `${steps} ${steps === 1 ? 'step' : 'steps'}, ${(last?.pace ?? 0).toFixed(1)} m/s`}
        {forgotten > 0 && steps === 0 && ' From here on counts.'}
      </Typography>
      <Button
        disabled={steps === 0}
        title="What was walked so far is let go; a walk that is kept begins here."
        onClick={() => {
          led?.lead.forget();
          setForgotten(forgotten + 1);
        }}
      >
        From here on
      </Button>
      <Button disabled={steps < 2} variant="outlined" onClick={keep}>
        Keep as a walk
      </Button>
      <Button onClick={end}>Discard</Button>
    </Box>
  );
}
