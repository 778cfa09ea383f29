import { FormatFault } from '../src/core/formats/limits';
import { readMotionFile } from '../src/core/formats/motion-file';
import { basename, extname } from 'node:path';
import { clipOnBody, knowClip, prepareKnown } from '../src/core/handover/clip-file';
import { findLoops, type LoopCandidate } from '../src/core/travel/find-loops';
import { InputFault, parseOptions, readBody, readCarrier, readInput, readWhole } from './input';
import type { Done, Wish } from './travel-done';
import { write, writeGait, type Writing } from './travel-files';
import { editsOf, layersOf, repairOf, rolesOf, saidOf, specOf, TRAVEL_OPTIONS } from './travel-options';
import { comparison, cyclesOf, factsOf, words } from './travel-words';

/** `travel`: root motion of clips made elsewhere: found, changed, feet locked, and written on their own skeletons or as a table. */
export async function travelCommand(args: string[]): Promise<number> {
  const { values, positionals: files } = parseOptions(args, TRAVEL_OPTIONS, true);
  if (files.length === 0) throw new InputFault(['travel needs a file, or several']);
  const wish: Wish = {
    said: saidOf(values),
    travel: specOf(values),
    layers: await layersOf(values.layers),
    roles: values.role,
    repair: repairOf(values.mend, values.calm),
    edits: editsOf(values),
    loop: values.loop === true || values['poor-loop'] === true,
    poorLoop: values['poor-loop'] === true,
  };
  const onBody = values.body !== undefined || values.stature !== undefined;
  const how = { body: onBody ? await readBody(values.body, values.stature) : null, carrier: readCarrier(values.on), contacts: values.contacts === true };
  const cycles = values.cycles === undefined ? null : readWhole('cycles', values.cycles, 1, 1, 1000);
  if (values.compare && files.length !== 2) throw new InputFault([`--compare: two files are held against each other; there are ${files.length}`]);
  const done: Done[] = [];
  const faults: string[] = [];
  // Everything is read and found before anything is written.
  for (const file of files) {
    try {
      done.push(...(await prepared(file, wish, how)));
    } catch (error) {
      if (!(error instanceof FormatFault || error instanceof InputFault)) throw error;
      faults.push(...(error instanceof InputFault ? error.lines : [`${file}: ${error.message}`]));
    }
  }
  if (faults.length > 0) throw new InputFault(faults);
  if (values.gait !== undefined) await writeGait(done, values.gait);
  if (values.out !== undefined) await write(done, values.out, files.length > 1, how);
  if (values.json) process.stdout.write(`${JSON.stringify(done.map(factsOf), null, 2)}\n`);
  else for (const one of done) process.stdout.write(words(one));
  // What is read by programs stays whole.
  const out = values.json ? process.stderr : process.stdout;
  if (cycles !== null) for (const one of done) out.write(cyclesOf(one, cycles));
  if (values.compare) out.write(comparison(done[0]!, done[1]!));
  return 0;
}

/** Why no loop is cut: there is none, or none but poor ones, with what closing the best of these would move. */
function loopFault(file: string, clip: string, poor: LoopCandidate | undefined): string {
  if (!poor) return `${file}: no stretch of ${clip} comes back to where it began`;
  return `${file}: no stretch of ${clip} comes back near to where it began; closing frames ${poor.from} to ${poor.to} would move joints by up to ${(poor.closing * 1000).toFixed(0)} mm: --poor-loop cuts it all the same`;
}

/** Seconds on either side of a seam over which it is closed. */
const CLOSED_OVER_S = 0.25;

async function prepared(file: string, wish: Wish, { body, carrier }: Writing): Promise<Done[]> {
  const bytes = await readInput(file);
  const source = await readMotionFile(bytes, file);
  return source.clips.map((found, index) => {
    let seam: number | null = null;
    const { edits, ...known } = knowClip(found, {
      ...wish,
      said: { ...wish.said, roles: rolesOf(wish.roles, found.clip.skeleton.names) },
      edits: ({ figure, contacts, first }) => {
        // What is a loop already is one.
        if (!wish.loop || figure.clip.loop) return wish.edits;
        const loops = findLoops(figure, contacts, first);
        const best = loops.find((l) => !l.poor || wish.poorLoop);
        if (!best) throw new InputFault([loopFault(file, found.clip.name, loops[0])]);
        seam = best.seam;
        return { ...wish.edits, loop: { from: best.from, to: best.to, span: CLOSED_OVER_S } };
      },
    });
    const result = prepareKnown(known, { travel: wish.travel, baked: [], layers: [...wish.layers] });
    return {
      file,
      bytes,
      index,
      source,
      known,
      edits,
      travel: wish.travel,
      layers: wish.layers,
      seam,
      result,
      onBody: body && clipOnBody(known, result, { travel: wish.travel, edits }, { body, name: basename(file, extname(file)), carrier }),
    };
  });
}
