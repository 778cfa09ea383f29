import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo } from 'react';
import { fitGait } from '@/core/gait/fit';
import type { GaitSpec } from '@/core/gait/spec';
import type { Item, ItemKind } from '@/core/project/kinds';
import { useBody } from '../document/selectors';
import { useSession } from '../stage/session';

interface Props {
  readonly id: string;
  readonly kind: ItemKind;
  readonly mine: Item['spec'];
  readonly theirs: Item['spec'];
}

/** Every value in which two specs differ, by its dotted path. */
function leaves(value: unknown, path: string, into: Map<string, string>): Map<string, string> {
  if (value && typeof value === 'object') for (const [key, v] of Object.entries(value)) leaves(v, path ? `${path}.${key}` : key, into);
  else into.set(path, typeof value === 'number' ? String(Number(value.toPrecision(6))) : String(value));
  return into;
}

/** Mine and theirs in numbers; of a gait, theirs also walks as a ghost beside mine. */
export function ConflictComparison({ kind, mine, theirs }: Props) {
  const set = useSession((s) => s.set);
  const { legLength } = useBody();
  useEffect(() => {
    if (kind !== 'gait') return;
    set({ ghost: { gait: fitGait(theirs as GaitSpec, legLength), name: 'theirs' } });
    return () => set({ ghost: null });
  }, [kind, theirs, legLength, set]);
  const rows = useMemo(() => {
    const a = leaves(mine, '', new Map()),
      b = leaves(theirs, '', new Map());
    return [...new Set([...a.keys(), ...b.keys()])].filter((k) => a.get(k) !== b.get(k)).map((k) => [k, a.get(k) ?? '–', b.get(k) ?? '–'] as const);
  }, [mine, theirs]);
  return (
    <>
      {kind === 'gait' && <Typography sx={{ fontSize: 13 }}>Theirs walks as a ghost beside yours.</Typography>}
      <Table size="small" aria-label="Mine and theirs">
        <TableHead>
          <TableRow>
            <TableCell>Value</TableCell>
            <TableCell align="right">mine</TableCell>
            <TableCell align="right">theirs</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(([path, a, b]) => (
            <TableRow key={path}>
              <TableCell>{path}</TableCell>
              <TableCell align="right">{a}</TableCell>
              <TableCell align="right">{b}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}
