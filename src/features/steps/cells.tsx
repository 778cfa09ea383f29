import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { memo, useEffect, useRef, type ReactNode } from 'react';
import { NumberField } from '../channel/number-field';
import { TimeUnit } from '../stage/times';
import { useStable } from '../stage/use-stable';

interface Props {
  readonly name: string;
  readonly label: string;
  readonly unit?: string;
  readonly value: number;
  readonly range: readonly [number, number];
  readonly digits?: number;
  readonly step?: number;
  readonly onChange: (value: number) => void;
}

/** A number with its name before it and its unit behind. Dozens stand on a page: each is rendered again only when it changes. */
export function Figures({ onChange, ...rest }: Props) {
  return <StableFigures {...rest} onChange={useStable(onChange)} />;
}

const StableFigures = memo(
  function StableFigures({ name, label, unit = 'm', value, range, digits = 2, step = 0.05, onChange }: Props) {
    return (
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.25 }}>
        <Typography component="span" sx={{ fontSize: 12.5, color: 'text.secondary', minWidth: label === '' ? 0 : 40 }}>
          {label}
        </Typography>
        <NumberField label={`${name} (${unit})`} value={value} unit={unit} digits={digits} step={step} min={range[0]} max={range[1]} onChange={onChange} />
        {unit === 's' ? (
          <TimeUnit width={18} />
        ) : (
          <Typography component="span" sx={{ fontSize: 12, color: 'text.secondary', width: 18 }}>
            {unit}
          </Typography>
        )}
      </Box>
    );
  },
  (was, is) => {
    const { range: a, ...one } = was,
      { range: b, ...two } = is;
    return a[0] === b[0] && a[1] === b[1] && (Object.keys({ ...one, ...two }) as (keyof typeof one)[]).every((k) => one[k] === two[k]);
  },
);

/** Numbers side by side, three in a row. */
export const FiguresGrid = ({ children }: { children: ReactNode }) => (
  <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, auto)', justifyContent: 'start', columnGap: 0.5, rowGap: 0.5 }}>{children}</Box>
);

/** Brings a row into view once it is chosen, as from the ribbon. */
export function useInView(chosen: boolean) {
  const row = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (chosen) row.current?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  return row;
}

/** Rows of a list that can be chosen. */
export const rowSx = (chosen: boolean) =>
  ({ borderBottom: 1, borderColor: 'divider', borderLeft: '3px solid', borderLeftColor: chosen ? 'primary.main' : 'transparent', px: 0.75, py: 0.5 }) as const;
