import { PRESETS } from '../src/core/gait/presets';
import { parseOptions } from './input';

/** `gaits`: the gaits that ship. */
export async function gaitsCommand(args: string[]): Promise<number> {
  const { values } = parseOptions(args, { json: { type: 'boolean' } });
  if (values.json)
    process.stdout.write(
      `${JSON.stringify(
        PRESETS.map((p) => ({ key: p.key, about: p.about, gait: p.make() })),
        null,
        2,
      )}\n`,
    );
  else for (const p of PRESETS) process.stdout.write(`${p.key}\t${p.about}\n`);
  return 0;
}
