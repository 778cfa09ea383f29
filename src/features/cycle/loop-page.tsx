'use client';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMemo, type ReactNode } from 'react';
import { ownFeet } from '@/core/body/foot-model';
import { poseSize } from '@/core/body/skeleton';
import type { HandoverSpec } from '@/core/handover/spec';
import { measureSeam, type Seam } from '@/core/measure/seam';
import { sampleClip } from '@/core/motion/sample';
import { build, type MotionSpec, type ProjectPart } from '@/core/project/motion-spec';
import { traceClip } from '@/core/travel/trace';
import { NumberField } from '../channel/number-field';
import { useDocumentStore } from '../document/context';
import { useSole } from '../document/selectors';
import { editItem } from '../document/store';
import { useAfterPaint } from '../stage/after-paint';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { TRAILS, useSession, type OnionMode, type TrailName } from '../stage/session';
import { KeyPoseSheet } from './key-pose-sheet';

/** The loop in pictures: whole frames, seam, repeating and holding; what is drawn around the figure; the key pose sheet. */
export function LoopPage({ gaitId, motion }: { gaitId: string; clock: Clock; motion: StageMotion }) {
  return (
    <Box>
      <SeamWords motion={motion} />
      <Pictures />
      <OnionSkins />
      <Trails />
      <Part title="Key pose sheet">
        <KeyPoseSheet motion={motion} gaitId={gaitId} />
      </Part>
    </Box>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mt: 1.25 }}>
      <Typography component="h3" variant="h3" sx={{ borderBottom: '1.5px solid', borderColor: 'text.primary', mb: 0.5 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

/** The seam of a motion sampled at `fps`: its last picture is followed to just before the first. */
function seamOf({ spec, part, fps }: { spec: MotionSpec; part: ProjectPart; fps: number }): { readonly seam: Seam | null } {
  const { motion, body } = build(spec, part, { rate: fps });
  const closing = new Float64Array(poseSize(body.skeleton));
  motion.pose(motion.duration * motion.rounds * (1 - 1e-12), closing, 0);
  return { seam: measureSeam(traceClip(sampleClip(motion, fps), ownFeet(body)), closing) };
}

/** The seam as measured between the last picture and the first. */
function SeamWords({ motion: { spec, part } }: { motion: StageMotion }) {
  const fps = useSession((s) => s.fps);
  const asked = useMemo(() => ({ spec, part, fps }), [spec, part, fps]);
  const found = useAfterPaint(asked, seamOf);
  const seam = found?.seam;
  return (
    <Part title="Seam">
      <Typography sx={{ fontSize: 13.5 }} data-testid="seam">
        {!found
          ? 'Measuring …'
          : seam
            ? `The frame after the last meets the first within ${(seam.positionM * 1000).toFixed(3)} mm; ${
                (seam.velocityShare ?? 0) < 0.01
                  ? 'no jump in speed stands out.'
                  : `a jump in speed of ${((seam.velocityShare ?? 0) * 100).toFixed(0)} % stands out at ${fps} a second.`
              }`
            : 'This motion is no loop.'}
      </Typography>
    </Part>
  );
}

/** On ones, twos or threes on the walkway and in files; repeating; the closing picture. */
function Pictures() {
  const store = useDocumentStore();
  const hold = useSession((s) => s.hold);
  const set = useSession((s) => s.set);
  const { id, spec } = useSole('asset');
  const change = (label: string, recipe: (h: HandoverSpec) => void) => editItem<'asset'>(store, id, label, recipe);
  const holds = [
    [1, 'ones'],
    [2, 'twos'],
    [3, 'threes'],
  ] as const;
  return (
    <Part title="Frames held">
      <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr', alignItems: 'center', rowGap: 0.75, fontSize: 13.5 }}>
        <span>On the walkway</span>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={hold}
          aria-label="Frames held on the walkway"
          onChange={(_, v: number | null) => v !== null && set({ hold: v })}
          sx={TOGGLES}
        >
          <ToggleButton value={0}>smooth</ToggleButton>
          {holds.map(([n, word]) => (
            <ToggleButton key={n} value={n}>
              {word}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <span>In files</span>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={spec.hold}
          aria-label="Frames held in files"
          onChange={(_, v: number | null) => v !== null && change('hold', (h) => void (h.hold = v))}
          sx={TOGGLES}
        >
          {holds.map(([n, word]) => (
            <ToggleButton key={n} value={n}>
              {word}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <span>Cycles in files</span>
        <Box>
          <NumberField
            label="Cycles in files"
            value={spec.cycles}
            digits={0}
            step={1}
            min={1}
            max={100}
            onChange={(v) => change('cycles', (h) => void (h.cycles = Math.round(v)))}
          />
        </Box>
      </Box>
      <FormControlLabel
        label="Store the closing frame as well"
        control={<Checkbox size="small" checked={spec.closing} onChange={(_, on) => change('closing frame', (h) => void (h.closing = on))} sx={{ py: 0.25 }} />}
      />
    </Part>
  );
}

const TOGGLES = { '& .MuiToggleButton-root': { py: 0, px: 1, fontSize: 12.5 } } as const;

function OnionSkins() {
  const onion = useSession((s) => s.onion);
  const set = useSession((s) => s.set);
  const put = (change: Partial<typeof onion>) => set({ onion: { ...onion, ...change } });
  const number = (label: string, key: 'every' | 'before' | 'after', min: number, max: number) => (
    <Box key={key} sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
      <span>{label}</span>
      <NumberField label={`Onion skins ${label}`} value={onion[key]} digits={0} step={1} min={min} max={max} onChange={(v) => put({ [key]: Math.round(v) })} />
    </Box>
  );
  return (
    <Part title="Onion skins">
      <ToggleButtonGroup
        exclusive
        size="small"
        value={onion.mode}
        aria-label="Onion skins"
        onChange={(_, v: OnionMode | null) => v && put({ mode: v })}
        sx={TOGGLES}
      >
        <ToggleButton value="off">off</ToggleButton>
        <ToggleButton value="keyPoses">key poses</ToggleButton>
        <ToggleButton value="everyFrames">every n frames</ToggleButton>
      </ToggleButtonGroup>
      {onion.mode === 'everyFrames' && (
        <Box sx={{ display: 'flex', gap: 1.5, fontSize: 13.5, mt: 0.5 }}>
          {number('every', 'every', 1, 30)}
          {number('before', 'before', 0, 4)}
          {number('after', 'after', 0, 4)}
        </Box>
      )}
    </Part>
  );
}

function Trails() {
  const trails = useSession((s) => s.trails);
  const set = useSession((s) => s.set);
  return (
    <Part title="Trails">
      <ToggleButtonGroup size="small" value={[...trails]} aria-label="Trails" onChange={(_, v: TrailName[]) => set({ trails: v })} sx={TOGGLES}>
        {TRAILS.map((t) => (
          <ToggleButton key={t} value={t}>
            {t}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Typography sx={{ fontSize: 12.5, color: 'text.secondary', mt: 0.25 }}>A tick for every frame: the wider apart, the faster.</Typography>
    </Part>
  );
}
