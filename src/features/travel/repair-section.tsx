import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import type { Mended } from '@/core/travel/repair';
import type { RepairSpec } from '@/core/travel/spec';
import { Figures } from '../steps/cells';
import { useClipChange } from './editing';
import type { ClipOnStage } from './use-clip';

const ROWS: readonly {
  readonly what: Mended['what'];
  readonly label: string;
  readonly title: string;
  readonly on: (r: RepairSpec) => boolean;
  readonly set: (r: RepairSpec, on: boolean) => RepairSpec;
}[] = [
  {
    what: 'restPose',
    label: 'rest pose cut off',
    title: 'A first picture that is none of the motion',
    on: (r) => r.restPose,
    set: (r, restPose) => ({ ...r, restPose }),
  },
  {
    what: 'spikes',
    label: 'spikes taken out',
    title: 'Joints that jump away and back within three frames',
    on: (r) => r.spikes,
    set: (r, spikes) => ({ ...r, spikes }),
  },
  {
    what: 'jitter',
    label: 'shaking taken out',
    title: 'Butterworth low-pass of second order, there and back',
    on: (r) => r.jitterHz !== null,
    set: (r, on) => ({ ...r, jitterHz: on ? 8 : null }),
  },
  { what: 'tilt', label: 'floor made level', title: 'The plane standing feet lie in is turned level', on: (r) => r.tilt, set: (r, tilt) => ({ ...r, tilt }) },
  {
    what: 'floor',
    label: 'floor brought to 0',
    title: 'The floor standing feet are on is raised or lowered to height 0',
    on: (r) => r.floor,
    set: (r, floor) => ({ ...r, floor }),
  },
];

/** What of a recording is mended first, each with what it changes. */
export function RepairSection({ clip }: { clip: ClipOnStage }) {
  const change = useClipChange(clip.id);
  const { repair } = clip.spec;
  return (
    <Box data-testid="repair">
      <Typography variant="h3">Clean-up</Typography>
      {ROWS.map(({ what, label, title, on, set }) => {
        const done = clip.answer?.mended.find((m) => m.what === what);
        return (
          <Box key={what} title={title} sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
            <FormControlLabel
              control={
                <Switch
                  size="small"
                  checked={on(repair)}
                  onChange={(_, to) =>
                    change(to ? label : `not ${label}`, (c) => {
                      c.repair = set(repair, to);
                      c.travel.contacts = null;
                    })
                  }
                />
              }
              label={label}
            />
            {what === 'jitter' && repair.jitterHz !== null && (
              <Figures
                name="Shaking from"
                label=""
                unit="Hz"
                digits={1}
                step={0.5}
                value={repair.jitterHz}
                range={[0.5, 60]}
                onChange={(v) => change('shaking from', (c) => void (c.repair.jitterHz = v), 'jitterHz')}
              />
            )}
            <Typography sx={{ fontSize: 12.5, color: 'text.secondary' }}>{on(repair) ? wordsOf(what, done) : ''}</Typography>
          </Box>
        );
      })}
    </Box>
  );
}

function wordsOf(what: Mended['what'], done: Mended | undefined): string {
  if (!done) return what === 'restPose' ? 'there is none' : what === 'tilt' ? 'feet do not tell' : '';
  if (what === 'restPose') return 'one frame';
  if (what === 'spikes') return done.count === 0 ? 'none found' : `${done.count} mended, ${(done.most * 1000).toFixed(0)} mm at most`;
  return `${(done.most * 1000).toFixed(1)} mm at most`;
}
