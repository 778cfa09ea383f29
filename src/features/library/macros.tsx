import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { applyMacro, describeChange, MACROS, type Macro, type MacroChange } from '@/core/gait/macros';
import { NumberField } from '../channel/number-field';
import { shownUnit, type StripUnit } from '../channel/units';
import { useBaseline } from '../cycle/baseline';
import { useGait } from '../document/selectors';

/** Named sets of channel changes, each open to see and to apply in part. */
export function MacroList({ gaitId }: { gaitId: string }) {
  return (
    <>
      {MACROS.map((m) => (
        <MacroRow key={m.key} macro={m} gaitId={gaitId} />
      ))}
    </>
  );
}

function MacroRow({ macro, gaitId }: { macro: Macro; gaitId: string }) {
  const gait = useGait(gaitId);
  const control = useBaseline(gaitId, gait, 0);
  const [open, setOpen] = useState(false);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const lay = (strength: number, out: ReadonlySet<string>) =>
    control.apply(strength, macro.label, (base) =>
      applyMacro(
        base,
        macro.changes.filter((c) => !out.has(c.path)),
        strength,
      ),
    );
  const toggle = (path: string) => {
    const next = new Set(left);
    if (!next.delete(path)) next.add(path);
    setLeft(next);
    if (control.value !== 0) lay(control.value, next);
  };
  return (
    <Box sx={{ borderBottom: 1, borderColor: 'divider' }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '70px 46px 1fr 52px 52px 24px', alignItems: 'center', columnGap: 0.75, height: 30 }}>
        <Typography component="span" sx={{ fontSize: 13.5, fontWeight: 600 }}>
          {macro.label}
        </Typography>
        <Typography component="span" sx={{ fontSize: 12, color: 'text.secondary', textAlign: 'right' }}>
          {macro.less}
        </Typography>
        <Slider size="small" aria-label={macro.label} min={-1} max={1} step={0.01} value={control.value} onChange={(_, v) => lay(v as number, left)} />
        <Typography component="span" sx={{ fontSize: 12, color: 'text.secondary' }}>
          {macro.more}
        </Typography>
        <NumberField label={`${macro.label}, number`} value={control.value} digits={2} step={0.05} min={-1} max={1} onChange={(v) => lay(v, left)} />
        <ButtonBase aria-label={`What ${macro.label} changes`} aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? '–' : '+'}
        </ButtonBase>
      </Box>
      {open && (
        <Box role="group" aria-label={`Changes of ${macro.label}`} sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', pb: 0.5 }}>
          {macro.changes.map((change) => (
            <FormControlLabel
              key={change.path}
              control={<Checkbox size="small" checked={!left.has(change.path)} onChange={() => toggle(change.path)} sx={{ p: 0.25 }} />}
              label={wordsOf(change)}
              sx={{ m: 0, '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
            />
          ))}
        </Box>
      )}
    </Box>
  );
}

/** A change as a person reads it: what, and by how much at full strength. */
function wordsOf(change: MacroChange): string {
  const { label, part, unit } = describeChange(change);
  const shown = shownUnit(unit as StripUnit, change.path);
  const amount = shown.toScreen(change.add);
  return `${label}${part && part !== 'amount' ? ` ${part}` : ''} ${amount > 0 ? '+' : '−'}${Math.abs(amount).toFixed(shown.digits)} ${shown.label}`;
}
