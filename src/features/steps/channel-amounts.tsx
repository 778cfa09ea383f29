import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { memo } from 'react';
import { SWINGING } from '@/core/gait/without-channel';
import { TRACK_RANGES, type PlanSpec } from '@/core/steps/plan';
import { useWalkChange } from './editing';
import { Head, KeyRows } from './track-keys';

const LABELS = new Map(SWINGING.map((e) => [e.path, e.parameter.label]));
/** What is looked for first: a look round. */
const FIRST = 'head.turn';

/** Amounts of single channels over time. */
export const ChannelAmounts = memo(function ChannelAmounts({ channels }: { channels: PlanSpec['channels'] }) {
  const change = useWalkChange();
  const taken = channels.map((c) => c.channel);
  const next = [FIRST, ...LABELS.keys()].find((path) => !taken.includes(path));
  return (
    <Box>
      <Head label="One channel" about="How much of one channel’s swing is shown over time: a look round, a nod in the middle. Its swing itself is the gait’s.">
        <Button
          disabled={next === undefined}
          onClick={() =>
            change('add a channel', (p) => void p.channels.push({ channel: next!, amount: { over: 'time', keys: [{ at: 0, value: 1, next: 'smooth' }] } }))
          }
        >
          Add a channel
        </Button>
      </Head>
      {channels.map(({ channel, amount }, i) => {
        const label = LABELS.get(channel)!;
        return (
          <Box key={channel} data-track={channel}>
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
              <Select
                value={channel}
                variant="standard"
                inputProps={{ 'aria-label': `Channel ${i + 1}` }}
                onChange={(e) => change('channel', (p) => void (p.channels[i]!.channel = e.target.value))}
                sx={{ flex: 1, fontSize: 13 }}
              >
                {[...LABELS].map(([path, name]) => (
                  <MenuItem key={path} value={path} disabled={path !== channel && taken.includes(path)}>
                    {name}
                  </MenuItem>
                ))}
              </Select>
              <Button
                aria-label={`Add a key of ${label.toLowerCase()}`}
                onClick={() =>
                  change(`key of ${label.toLowerCase()}`, (p) => {
                    const { keys } = p.channels[i]!.amount;
                    const last = keys[keys.length - 1]!;
                    keys.push({ ...last, at: last.at + 1 });
                  })
                }
              >
                Add
              </Button>
              <Button
                aria-label={`Without ${label.toLowerCase()}`}
                onClick={() => change(`without ${label.toLowerCase()}`, (p) => void p.channels.splice(i, 1))}
              >
                Without
              </Button>
            </Box>
            <KeyRows
              label={label}
              id={channel}
              unit="×"
              track={amount}
              range={TRACK_RANGES.amount}
              onKeys={(what, recipe) => change(what, (p) => recipe(p.channels[i]!.amount.keys))}
            />
          </Box>
        );
      })}
    </Box>
  );
});
