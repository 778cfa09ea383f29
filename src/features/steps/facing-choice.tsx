import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { memo } from 'react';
import { PLACE_LIMIT_M } from '@/core/course/spec';
import type { PlanSpec } from '@/core/steps/plan';
import { useWalkPart } from '../document/selectors';
import { Figures, FiguresGrid } from './cells';
import { useWalkChange } from './editing';

type Kind = 'along' | NonNullable<PlanSpec['facing']>['kind'];
const WORDS: Record<Kind, string> = { along: 'along the course', held: 'in one direction', point: 'a place' };
const PLACE = [-PLACE_LIMIT_M, PLACE_LIMIT_M] as const;

/** A place beside the course to begin with: half way, so far (m) to its left. */
const BESIDE_M = 2;
function placeBeside({ course: { knots } }: PlanSpec): { x: number; z: number } {
  const [a, b] = [knots[0]!, knots[knots.length - 1]!];
  const heading = Math.atan2(b.x - a.x, b.z - a.z);
  const round = (v: number) => Math.round(v * 100) / 100;
  return { x: round((a.x + b.x) / 2 + BESIDE_M * Math.cos(heading)), z: round((a.z + b.z) / 2 - BESIDE_M * Math.sin(heading)) };
}

/** Where the figure faces while it goes along its course. */
export const FacingChoice = memo(function FacingChoice() {
  const facing = useWalkPart((w) => w.facing);
  const change = useWalkChange();
  const choose = (kind: Kind) =>
    change('facing', (p) => {
      p.facing = kind === 'along' ? null : kind === 'held' ? { kind, headingDeg: 0 } : { kind, ...placeBeside(p) };
    });
  return (
    <Box title="Going along the course it may face elsewhere: then it walks aslant, sideways or back, as a set of directions does, from step to step.">
      <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr', alignItems: 'center', gap: 1 }}>
        <Typography>Faces</Typography>
        <Select value={facing?.kind ?? 'along'} inputProps={{ 'aria-label': 'Faces' }} onChange={(e) => choose(e.target.value)}>
          {(Object.keys(WORDS) as Kind[]).map((kind) => (
            <MenuItem key={kind} value={kind}>
              {WORDS[kind]}
            </MenuItem>
          ))}
        </Select>
      </Box>
      {facing?.kind === 'held' && (
        <Figures
          name="Faces in direction"
          label=""
          unit="°"
          digits={0}
          step={5}
          value={facing.headingDeg}
          range={[-360, 360]}
          onChange={(v) => change('facing', (p) => void (p.facing = { kind: 'held', headingDeg: v }))}
        />
      )}
      {facing?.kind === 'point' && (
        <FiguresGrid>
          <Figures
            name="Faces place ahead"
            label="ahead"
            value={facing.z}
            range={PLACE}
            onChange={(z) => change('facing', (p) => void (p.facing = { ...facing, z }))}
          />
          <Figures
            name="Faces place to the left"
            label="left"
            value={facing.x}
            range={PLACE}
            onChange={(x) => change('facing', (p) => void (p.facing = { ...facing, x }))}
          />
        </FiguresGrid>
      )}
    </Box>
  );
});
