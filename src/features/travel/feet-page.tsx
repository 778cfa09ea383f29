import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import type { ClipContact } from '@/core/clip/clip';
import { HOLDS, type Hold } from '@/core/travel/names';
import type { PivotSlide } from '@/core/travel/pivot-slide';
import { defaultLock } from '@/core/travel/spec';
import type { Clock } from '../stage/clock';
import { Figures } from '../steps/cells';
import { useClipChange } from './editing';
import { worstMm } from './travel-page';
import type { ClipOnStage } from './use-clip';

const HOLD_WORDS: Readonly<Record<Hold, string>> = { both: 'place and heading', place: 'place alone', heading: 'heading alone' };
/** Contacts that are listed at most: the worst. */
const LISTED = 60;

/** The feet of a clip: its contacts with the slide of each, and how they are locked. */
export function FeetPage({ clip, clock }: { clip: ClipOnStage; clock: Clock }) {
  const change = useClipChange(clip.id);
  const { answer } = clip;
  const { lock, contacts } = clip.spec.travel;
  const [before, after] = [answer ? worstMm(answer.before) : null, answer ? worstMm(answer.after) : null];
  const rows = answer ? [...answer.before].sort((a, b) => b.metres - a.metres).slice(0, LISTED) : [];
  const rate = answer?.clip.rate ?? 1;
  /** What a lock makes of a contact, in words. */
  const lockedWords = ({ foot, from, to }: ClipContact) => {
    const of = (slides: readonly PivotSlide[] = []) => slides.filter((s) => s.contact.foot === foot && s.contact.from <= to && s.contact.to >= from);
    const mm = (slides: readonly PivotSlide[], digits: number) => worstMm(slides)!.toFixed(digits);
    const [drags, held] = [of(answer?.drags), of(answer?.after)];
    if (drags.length > 0) return `dragged ${mm(drags, 0)}`;
    return held.length > 0 ? `${mm(held, 2)} locked` : 'not held';
  };
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
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
          Slide {before?.toFixed(1)} mm before, <b>{after?.toFixed(2)} mm</b> locked. The hips give way by {(answer.hips.mean * 1000).toFixed(1)} mm on the
          whole, {(answer.hips.most * 1000).toFixed(0)} mm at most.
          {answer.drags.length > 0 &&
            ` In ${answer.drags.length === 1 ? 'one contact' : `${answer.drags.length} contacts`} the foot is dragged to another place, by up to ${worstMm(answer.drags)?.toFixed(0)} mm; only its stays are held there.`}
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
        On the chart a contact’s ends are dragged; double-click takes one out, or puts one in on an empty row.
      </Typography>
      {answer && answer.contacts.length === 0 && <Alert severity="warning">No foot ever stands. Put contacts in on the chart.</Alert>}
      <List dense disablePadding data-testid="contacts">
        {rows.map(({ contact, contact: { foot, from, to }, metres, worstFrame }) => (
          <ListItemButton
            key={`${foot}${from}`}
            onClick={() => clock.set(worstFrame / rate)}
            sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, whiteSpace: 'nowrap', py: 0, fontSize: 13 }}
          >
            <span>
              {foot === 'left' ? 'L left' : 'R right'}, {(from / rate).toFixed(2)} to {(to / rate).toFixed(2)} s
            </span>
            <span>
              {(metres * 1000).toFixed(1)} mm
              {lock && `, ${lockedWords(contact)}`}
            </span>
          </ListItemButton>
        ))}
      </List>
    </Box>
  );
}
