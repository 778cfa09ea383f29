import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { memo } from 'react';
import { KNOT_WAYS, PLACE_LIMIT_M, type CourseKnot, type KnotWay } from '@/core/course/spec';
import { useWalkPart } from '../document/selectors';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { useStable } from '../stage/use-stable';
import { Figures, FiguresGrid, rowSx, useInView } from './cells';
import { addKnot, bend, removeKnot } from './course-editing';
import { useWalkChange } from './editing';
import { FacingChoice } from './facing-choice';
import { WayFinder } from './way-finder';

const WAY_WORDS: Record<KnotWay, string> = { smooth: 'smoothly', straight: 'straight', circle: 'on a circle' };
const PLACE = [-PLACE_LIMIT_M, PLACE_LIMIT_M] as const;

/** The course knot by knot. */
export function CoursePage({ motion }: { motion: StageMotion }) {
  const knots = useWalkPart((w) => w.course.knots);
  const chosen = useSession((s) => s.chosen);
  return (
    <Box sx={{ display: 'grid', gap: 0.75 }}>
      <Typography sx={{ color: 'text.secondary' }}>
        On the ribbon: drag a knot; double-click the rope for a new one. Where straight pieces meet in a corner the figure turns on the spot.
      </Typography>
      <WayFinder motion={useStable(() => motion)} />
      <FacingChoice />
      {knots.map((knot, i) => (
        <KnotRow key={i} knot={knot} i={i} removable={knots.length > 2} chosen={chosen?.kind === 'knot' && chosen.key === i} />
      ))}
      <Shapes />
    </Box>
  );
}

/** What is done to all of the course. */
const Shapes = memo(function Shapes() {
  const change = useWalkChange();
  return (
    <Box>
      <Button
        title="A knot half way along the longest stretch, to the left of it; drag it to where the bend should go"
        onClick={() => change('bend the course', bend)}
      >
        Bend
      </Button>
      <Button onClick={() => change('smooth the course', (p) => p.course.knots.forEach((k) => void (k.by = 'smooth')))}>All smooth</Button>
      <Button onClick={() => change('straighten the course', (p) => p.course.knots.forEach((k) => void (k.by = 'straight')))}>All straight</Button>
    </Box>
  );
});

/** One knot in numbers; of a course that is dragged only the one that moves is rendered again. */
const KnotRow = memo(function KnotRow({ knot, i, removable, chosen }: { knot: CourseKnot; i: number; removable: boolean; chosen: boolean }) {
  const change = useWalkChange();
  const set = useSession((s) => s.set);
  return (
    <Box ref={useInView(chosen)} data-knot={i} sx={rowSx(chosen)} onFocus={() => set({ chosen: { kind: 'knot', key: i } })}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 0.25 }}>
        <Typography sx={{ fontWeight: 600, width: 54 }}>{i === 0 ? 'Start' : `Knot ${i}`}</Typography>
        {i > 0 && (
          <Select
            value={knot.by}
            variant="standard"
            inputProps={{ 'aria-label': `How the course comes to knot ${i}` }}
            onChange={(e) => change('course to a knot', (p) => void (p.course.knots[i]!.by = e.target.value))}
            sx={{ fontSize: 13 }}
          >
            {KNOT_WAYS.map((w) => (
              <MenuItem key={w} value={w}>
                {WAY_WORDS[w]}
              </MenuItem>
            ))}
          </Select>
        )}
        <Box sx={{ flex: 1 }} />
        <Button aria-label={`Add a knot after ${i}`} onClick={() => change('add a knot', (p) => addKnot(p, i))} sx={{ minWidth: 0 }}>
          Add
        </Button>
        <Button aria-label={`Remove knot ${i}`} disabled={!removable} onClick={() => change('remove a knot', (p) => removeKnot(p, i))} sx={{ minWidth: 0 }}>
          Remove
        </Button>
      </Box>
      <FiguresGrid>
        <Figures
          name={`Knot ${i} ahead`}
          label="ahead"
          value={knot.z}
          range={PLACE}
          onChange={(v) => change('move a knot', (p) => void (p.course.knots[i]!.z = v))}
        />
        <Figures
          name={`Knot ${i} to the left`}
          label="left"
          value={knot.x}
          range={PLACE}
          onChange={(v) => change('move a knot', (p) => void (p.course.knots[i]!.x = v))}
        />
        <Figures
          name={`Turn at knot ${i}`}
          label="turn"
          unit="°"
          digits={0}
          step={15}
          value={knot.turnDeg ?? 0}
          range={[-1080, 1080]}
          onChange={(v) =>
            change('turn on the spot', (p) => {
              if (v === 0) delete p.course.knots[i]!.turnDeg;
              else p.course.knots[i]!.turnDeg = v;
            })
          }
        />
      </FiguresGrid>
    </Box>
  );
});
