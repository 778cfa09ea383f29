import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import List from '@mui/material/List';
import Link from '@mui/material/Link';
import ListItemButton from '@mui/material/ListItemButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import type { ClipContact, PivotPart } from '@/core/clip/clip';
import { toDegrees } from '@/core/math/scalar';
import { HOLDS, type Hold } from '@/core/travel/names';
import { ANKLE_FAULT_M, type Moved } from '@/core/travel/moved';
import { worstSlide } from '@/core/travel/slide';
import { defaultLock } from '@/core/travel/spec';
import { MeasuresLink } from '../shell/measures-link';
import type { Clock } from '../stage/clock';
import { useTimes } from '../stage/times';
import { Figures } from '../steps/cells';
import { useClipChange } from './editing';
import type { ClipOnStage } from './use-clip';

const PART_WORDS: Readonly<Record<PivotPart, string>> = { heel: 'its heel', flat: 'its sole', ball: 'its ball', tip: 'its tip' };
const HOLD_WORDS: Readonly<Record<Hold, string>> = { both: 'place and heading', place: 'place alone', heading: 'heading alone' };
/** Contacts that are listed at most: the worst. */
const LISTED = 60;

/** The feet of a clip: its contacts with the slide of each, and how they are locked. */
export function FeetPage({ clip, clock }: { clip: ClipOnStage; clock: Clock }) {
  const change = useClipChange(clip.id);
  const { answer } = clip;
  const { lock, contacts } = clip.spec.travel;
  const [before, after] = [answer ? worstSlide(answer.before) : null, answer ? worstSlide(answer.after) : null];
  const rows = answer ? [...answer.before].sort((a, b) => b.atFramesMm - a.atFramesMm).slice(0, LISTED) : [];
  const rate = answer?.clip.rate ?? 1;
  const times = useTimes();
  /** What a lock makes of a contact, in words. */
  const lockedWords = ({ foot, from, to }: ClipContact) => {
    const meets = ({ contact: c }: { readonly contact: ClipContact }) => c.foot === foot && c.from <= to && c.to >= from;
    const drags = (answer?.drags ?? []).filter(meets),
      held = (answer?.after ?? []).filter(meets);
    if (drags.length > 0) return `dragged ${(Math.max(...drags.map((d) => d.metres)) * 1000).toFixed(0)}`;
    return held.length > 0 ? `${worstSlide(held)!.toFixed(2)} locked` : 'not held';
  };
  return (
    <Box sx={{ display: 'grid', gap: 1, gridTemplateColumns: 'minmax(0, 1fr)' }}>
      <FormControlLabel
        control={
          <Switch
            checked={lock !== null}
            onChange={(_, on) => change(on ? 'lock the feet' : 'feet as they are', (c) => void (c.travel.lock = on ? defaultLock() : null))}
          />
        }
        label="Lock the feet"
        title="Standing feet are pinned where they stand, rolling over heel and ball as they do; the hips give way."
      />
      {answer && lock && (
        <Typography data-testid="lock-facts" sx={{ fontSize: 13.5 }}>
          Slide {before?.toFixed(1)} mm before, <b>{after?.toFixed(2)} mm</b> locked.
          {answer.drags.length > 0 &&
            ` In ${answer.drags.length === 1 ? 'one contact' : `${answer.drags.length} contacts`} the foot is dragged to another place, by up to ${(Math.max(...answer.drags.map((d) => d.metres)) * 1000).toFixed(0)} mm; only its stays are held there.`}
          {answer.moved && <MovedWords moved={answer.moved} rate={rate} clock={clock} />}
        </Typography>
      )}
      {answer && !lock && (
        <Typography data-testid="lock-facts" sx={{ fontSize: 13.5 }}>
          {answer.contacts.length} contacts; a standing foot slides up to <b>{before?.toFixed(1) ?? '–'} mm</b>.
        </Typography>
      )}
      {lock && (
        <Box sx={{ display: 'grid', gap: 0.75 }}>
          <Select
            value={lock.hold}
            inputProps={{ 'aria-label': 'What is held' }}
            onChange={(e) => change('what is held', (c) => void (c.travel.lock!.hold = e.target.value))}
          >
            {HOLDS.map((h) => (
              <MenuItem key={h} value={h}>
                {HOLD_WORDS[h]}
              </MenuItem>
            ))}
          </Select>
          <Box sx={{ display: 'flex', gap: 1 }}>
            <Figures
              name="Time into and out of a lock"
              label="blend"
              unit="s"
              value={lock.blend}
              range={[0.02, 1]}
              step={0.02}
              onChange={(v) => change('blend', (c) => void (c.travel.lock!.blend = v), 'blend')}
            />
            <Figures
              name="Farthest a leg is stretched"
              label="reach"
              unit="%"
              digits={1}
              value={lock.reach * 100}
              range={[80, 100]}
              step={0.5}
              onChange={(v) => change('reach', (c) => void (c.travel.lock!.reach = v / 100), 'reach')}
            />
          </Box>
        </Box>
      )}
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant="h3">Contacts, worst first</Typography>
        <Button disabled={contacts === null} onClick={() => change('contacts as found', (c) => void (c.travel.contacts = null))}>
          As found
        </Button>
      </Box>
      <Typography sx={{ fontSize: 12.5, color: 'text.secondary' }}>
        On the chart a contact’s ends are dragged; double-click removes one, or adds one on an empty row. <MeasuresLink />
      </Typography>
      {answer && answer.contacts.length === 0 && <Alert severity="warning">No foot ever stands. Add contacts on the chart.</Alert>}
      <List component="div" dense disablePadding data-testid="contacts">
        {rows.map(({ contact, contact: { foot, from, to, manner }, atFramesMm, worstFrame, worstPart }) => (
          <ListItemButton
            key={`${foot}${from}`}
            onClick={() => clock.set(worstFrame / rate)}
            sx={{ display: 'flex', flexWrap: 'wrap', justifyContent: 'space-between', columnGap: 1, whiteSpace: 'nowrap', py: 0, minHeight: 26, fontSize: 13 }}
          >
            <span>
              {foot === 'left' ? 'L left' : 'R right'}, {times.between(from / rate, to / rate)}
              {manner && manner !== 'stands' ? `, ${manner}` : ''}
            </span>
            <span style={{ marginLeft: 'auto' }}>
              {atFramesMm.toFixed(1)} mm{worstPart && ` on ${PART_WORDS[worstPart]}`}
              {lock && `, ${lockedWords(contact)}`}
            </span>
          </ListItemButton>
        ))}
      </List>
    </Box>
  );
}

/** How far a lock moved hips, ankles and knees, each with its moment; what it calmed. */
function MovedWords({ moved: { hips, ankles, knees, calmHz }, rate, clock }: { moved: Moved; rate: number; clock: Clock }) {
  const at = (frame: number, words: string) => (
    <Link component="button" sx={{ fontSize: 'inherit', verticalAlign: 'baseline' }} onClick={() => clock.set(frame / rate)}>
      {words}
    </Link>
  );
  const far = ankles.most > ANKLE_FAULT_M;
  return (
    <>
      {' '}
      It moves the hips by {(hips.mean * 1000).toFixed(1)} mm on the whole, {at(hips.frame, `${(hips.most * 1000).toFixed(0)} mm at most`)}, the {ankles.foot}{' '}
      ankle by {at(ankles.frame, `${(ankles.most * 1000).toFixed(0)} mm`)}
      {far && <b> (more than {ANKLE_FAULT_M * 1000} mm is a fault)</b>}, and bends the {knees.foot} knee by{' '}
      {at(knees.frame, `${toDegrees(knees.most).toFixed(0)}°`)} anew.
      {calmHz !== null && ` Where feet are held, what shakes faster than ${calmHz} Hz is left out.`}
    </>
  );
}
