import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { memo, useRef } from 'react';
import { SHIPPED_BODIES } from '@/core/body/spec';
import type { GroundFeature } from '@/core/ground/spec';
import { useNames, useWalkPart } from '../document/selectors';
import { useDocumentStore } from '../document/context';
import { useSession, useSessionStore } from '../stage/session';
import { Figures, FiguresGrid, rowSx, useInView } from './cells';
import { useWalkChange } from './editing';
import { readField } from './field-files';
import { putDown, type Common } from './ground-actions';
import { FEATURE_WORDS, SIZES, STAMPS } from './stamps';

const PLACE = [-5000, 5000] as const;

/** The ground feature by feature: put down by a stamp, then placed and sized by numbers or on the ribbon. */
export const GroundPage = memo(function GroundPage() {
  const features = useWalkPart((w) => w.ground.features);
  const chosen = useSession((s) => s.chosen);
  const set = useSession((s) => s.set);
  const file = useRef<HTMLInputElement>(null);
  const store = useDocumentStore();
  const session = useSessionStore();
  const add = (make: (at: Common) => GroundFeature, label: string) => putDown(store, session, label, make);
  return (
    <Box sx={{ display: 'grid', gap: 0.75 }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.25, alignItems: 'center' }}>
        <Typography component="span" sx={{ mr: 0.5 }}>
          Put down
        </Typography>
        {STAMPS.map((s) => (
          <Button key={s.label} variant="outlined" onClick={() => add(s.make, s.label)} sx={{ minWidth: 0, px: 0.75, py: 0 }}>
            {s.label}
          </Button>
        ))}
        <Button variant="outlined" onClick={() => file.current?.click()} sx={{ minWidth: 0, px: 0.75, py: 0 }}>
          Height field…
        </Button>
        <input
          ref={file}
          type="file"
          hidden
          accept=".png,.jpg,.jpeg,.webp,.glb"
          aria-label="Height field: a greyscale image or a GLB"
          onChange={(e) => {
            const picked = e.target.files?.[0];
            e.target.value = '';
            if (!picked) return;
            readField(picked).then(
              (field) => add((at) => ({ kind: 'field', ...at, ...field }), picked.name.replace(/\.\w+$/, '').slice(0, 60) || 'Height field'),
              (error: unknown) => set({ notice: { text: error instanceof Error ? error.message : String(error), undo: false } }),
            );
          }}
        />
      </Box>
      {features.length === 0 && <Typography sx={{ color: 'text.secondary' }}>Level ground everywhere.</Typography>}
      {features.map((f) => (
        <FeatureRow key={f.id} f={f} chosen={chosen?.kind === 'feature' && chosen.key === f.id} />
      ))}
    </Box>
  );
});

/** One feature in numbers; while one is dragged the others are not rendered again. */
const FeatureRow = memo(function FeatureRow({ f, chosen }: { f: GroundFeature; chosen: boolean }) {
  const change = useWalkChange();
  const set = useSession((s) => s.set);
  const alter = (label: string, values: Partial<Record<string, unknown>>) =>
    change(label, (p) => {
      const found = p.ground.features.find((o) => o.id === f.id);
      if (found) Object.assign(found, values);
    });
  return (
    <Box ref={useInView(chosen)} data-feature={f.id} sx={rowSx(chosen)} onFocus={() => set({ chosen: { kind: 'feature', key: f.id } })}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 0.25 }}>
        <Typography sx={{ fontWeight: 600 }}>{f.name}</Typography>
        <Typography sx={{ color: 'text.secondary', fontSize: 12.5 }}>{FEATURE_WORDS[f.kind]}</Typography>
        <Box sx={{ flex: 1 }} />
        <Button
          aria-label={`Remove ${f.name}`}
          onClick={() => change(`remove ${f.name}`, (p) => void (p.ground.features = p.ground.features.filter((o) => o.id !== f.id)))}
          sx={{ minWidth: 0 }}
        >
          Remove
        </Button>
      </Box>
      <FiguresGrid>
        <Figures name={`${f.name} ahead`} label="ahead" value={f.z} range={PLACE} onChange={(v) => alter('move ground', { z: v })} />
        <Figures name={`${f.name} to the left`} label="left" value={f.x} range={PLACE} onChange={(v) => alter('move ground', { x: v })} />
        <Figures
          name={`${f.name} heading`}
          label="heading"
          unit="°"
          digits={0}
          step={5}
          value={f.headingDeg}
          range={[-1080, 1080]}
          onChange={(v) => alter('turn ground', { headingDeg: v })}
        />
        {SIZES[f.kind].map(([field, label, unit, range, step, digits]) => (
          <Figures
            key={field}
            name={`${f.name} ${label}`}
            label={label}
            unit={unit}
            digits={digits}
            step={step}
            range={range}
            value={(f as unknown as Record<string, number>)[field]!}
            onChange={(v) => alter(`size ${f.name}`, { [field]: digits === 0 ? Math.round(v) : v })}
          />
        ))}
      </FiguresGrid>
      {f.kind === 'obstacle' && (
        <Select
          value={f.shape}
          variant="standard"
          inputProps={{ 'aria-label': `${f.name}: shape` }}
          onChange={(e) => alter('shape', { shape: e.target.value })}
          sx={{ fontSize: 13 }}
        >
          <MenuItem value="disc">round</MenuItem>
          <MenuItem value="box">with corners</MenuItem>
        </Select>
      )}
      {f.kind === 'bystander' && <BodyChoice name={f.name} value={f.body} onChoose={(body) => alter('who stands there', { body })} />}
      {f.kind === 'stones' && <Typography sx={{ color: 'text.secondary', fontSize: 12.5 }}>{f.stones.length} stones; drag them on the ribbon.</Typography>}
    </Box>
  );
});

/** Who stands there: a body of the project, or a shipped one by its key. */
function BodyChoice({ name, value, onChoose }: { name: string; value: string; onChoose: (id: string) => void }) {
  const bodies = useNames('body');
  const known = bodies.some(([id]) => id === value);
  return (
    <Select value={value} variant="standard" inputProps={{ 'aria-label': `${name}: who` }} onChange={(e) => onChoose(e.target.value)} sx={{ fontSize: 13 }}>
      {!known && <MenuItem value={value}>{SHIPPED_BODIES[value as keyof typeof SHIPPED_BODIES]?.name ?? 'somebody'}</MenuItem>}
      {bodies.map(([id, label]) => (
        <MenuItem key={id} value={id}>
          {label}
        </MenuItem>
      ))}
    </Select>
  );
}
