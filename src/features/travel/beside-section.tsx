import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { useShallow } from 'zustand/react/shallow';
import { toDegrees } from '@/core/math/scalar';
import { LAID, type Laid } from '@/core/motion/laid';
import { compareTravel, nearestRelation, type Relation } from '@/core/travel/compare';
import type { ClipAnswer } from '@/workers/protocol';
import { idsOf, useDocument } from '../document/context';
import { useSession } from '../stage/session';
import { Facts } from './facts';
import type { ClipOnStage } from './use-clip';

const LAID_WORDS: Readonly<Record<Laid, string>> = {
  inStep: 'side by side, in step',
  left: 'laid over at a left landing',
  right: 'laid over at a right landing',
};
const RELATION_WORDS: Readonly<Record<Relation, string>> = { equal: 'equal', opposite: 'equal and opposite', mirrored: 'mirror images' };
const NOBODY = 'nobody';

/** Another clip beside this one: how the two are shown together, and how their travels agree. */
export function BesideSection({ clip }: { clip: ClipOnStage }) {
  const beside = useSession((s) => s.clipBeside);
  const set = useSession((s) => s.set);
  const others = useDocument(useShallow((s) => idsOf(s, 'clip').filter((id) => id !== clip.id)));
  const names = useDocument(
    useShallow((s) =>
      idsOf(s, 'clip')
        .filter((id) => id !== clip.id)
        .map((id) => s.specs[id]!.name),
    ),
  );
  if (others.length === 0) return null;
  const chosen = beside && others.includes(beside.id) ? beside : null;
  return (
    <Box sx={{ display: 'grid', gap: 0.75 }}>
      <Typography variant="h3">Beside another clip</Typography>
      <Select
        value={chosen?.id ?? NOBODY}
        inputProps={{ 'aria-label': 'Clip beside it' }}
        onChange={(e) => set({ clipBeside: e.target.value === NOBODY ? null : { id: e.target.value, laid: chosen?.laid ?? 'inStep' } })}
      >
        <MenuItem value={NOBODY}>none</MenuItem>
        {others.map((id, i) => (
          <MenuItem key={id} value={id}>
            {names[i]}
          </MenuItem>
        ))}
      </Select>
      {chosen && (
        <Select
          value={chosen.laid}
          inputProps={{ 'aria-label': 'How the two are shown' }}
          onChange={(e) => set({ clipBeside: { ...chosen, laid: e.target.value } })}
        >
          {LAID.map((laid) => (
            <MenuItem key={laid} value={laid}>
              {LAID_WORDS[laid]}
            </MenuItem>
          ))}
        </Select>
      )}
      {chosen && clip.answer && clip.other && <Together one={clip.answer} other={clip.other} />}
    </Box>
  );
}

const secondsOf = ({ clip }: ClipAnswer): number => (clip.loop ? clip.frames : Math.max(1, clip.frames - 1)) / clip.rate;

function Together({ one, other }: { one: ClipAnswer; other: ClipAnswer }) {
  const [a, b] = [one, other].map((answer) => ({ facts: answer.kept, seconds: secondsOf(answer) })) as [
    Parameters<typeof compareTravel>[0],
    Parameters<typeof compareTravel>[1],
  ];
  const nearest = nearestRelation(compareTravel(a, b));
  const signed = (v: number, digits: number) => v.toFixed(digits).replace('-', '−');
  const words = ({ facts, seconds }: typeof a) =>
    `${facts.distance.toFixed(3)} m, displaced ${facts.displacement.toFixed(3)} m at ${signed(toDegrees(facts.direction), 1)}°, turns ${signed(toDegrees(facts.turn), 1)}°, ${seconds.toFixed(2)} s`;
  return (
    <Facts
      testId="together"
      strong={`Nearest to ${RELATION_WORDS[nearest.relation]}`}
      facts={[
        ['This one', words(a)],
        ['The other', words(b)],
        [
          `Nearest to ${RELATION_WORDS[nearest.relation]}`,
          `off by ${(nearest.way * 1000).toFixed(1)} mm, ${toDegrees(nearest.turn).toFixed(2)}°, ${nearest.time.toFixed(2)} s`,
        ],
      ]}
    />
  );
}
