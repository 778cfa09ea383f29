import { stat } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { UPS } from '../src/core/clip/in-world';
import { FormatFault } from '../src/core/formats/limits';
import { readMotionFile, type MotionFile } from '../src/core/formats/motion-file';
import { clipFile, clipTable, knowClip, type KnownClip } from '../src/core/handover/clip-file';
import { toDegrees } from '../src/core/math/scalar';
import type { ClipSpec } from '../src/core/travel/clip-spec';
import { finished } from '../src/core/travel/edited';
import { findLoops } from '../src/core/travel/find-loops';
import { travelFacts } from '../src/core/travel/kinds';
import { clipStride, NO_STRIDE, takingGait } from '../src/core/travel/take-gait';
import { AXES, HOLDS, TRAVEL_KINDS, type Axis, type Hold, type TravelKind } from '../src/core/travel/names';
import { prepareClip, type PreparedClip } from '../src/core/travel/prepare';
import { defaultLock, defaultTravel, noEdits, noRepair, type EditSpec, type RepairSpec, type TravelSpec } from '../src/core/travel/spec';
import { InputFault, parseOptions, readInput, readNumber } from './input';
import { writeWhole } from './output';

const OPTIONS = {
  kind: { type: 'string' },
  axes: { type: 'string' },
  distance: { type: 'string' },
  smooth: { type: 'string' },
  lock: { type: 'boolean' },
  hold: { type: 'string' },
  reach: { type: 'string' },
  mend: { type: 'string' },
  calm: { type: 'string' },
  loop: { type: 'boolean' },
  rounds: { type: 'string' },
  mirror: { type: 'boolean' },
  reverse: { type: 'boolean' },
  faster: { type: 'string' },
  each: { type: 'string' },
  unit: { type: 'string' },
  up: { type: 'string' },
  turn: { type: 'string' },
  gait: { type: 'string' },
  json: { type: 'boolean' },
  out: { type: 'string' },
} as const;

/** `travel`: root motion of clips made elsewhere: found, changed, feet locked, and written on their own skeletons or as a table. */
export async function travelCommand(args: string[]): Promise<number> {
  const { values, positionals: files } = parseOptions(args, OPTIONS, true);
  if (files.length === 0) throw new InputFault(['travel needs a file, or several']);
  const said = {
    unit: values.unit === undefined ? null : readNumber('unit', values.unit, 1, 1e-6, 1000),
    up: values.up === undefined ? null : oneOf('up', values.up, UPS),
    heading: readNumber('turn', values.turn, 0, -360, 360),
    roles: {},
  };
  const wish: Wish = { said, travel: specOf(values), repair: repairOf(values.mend, values.calm), edits: editsOf(values), loop: values.loop === true };
  const done: Done[] = [];
  const faults: string[] = [];
  // Everything is read and found before anything is written.
  for (const file of files) {
    try {
      done.push(...(await prepared(file, wish)));
    } catch (error) {
      if (!(error instanceof FormatFault || error instanceof InputFault)) throw error;
      faults.push(...(error instanceof InputFault ? error.lines : [`${file}: ${error.message}`]));
    }
  }
  if (faults.length > 0) throw new InputFault(faults);
  if (values.gait !== undefined) await writeGait(done, values.gait);
  if (values.out !== undefined) await write(done, values.out, files.length > 1);
  if (values.json) process.stdout.write(`${JSON.stringify(done.map(factsOf), null, 2)}\n`);
  else for (const one of done) process.stdout.write(words(one));
  return 0;
}

/** What is to be done with every clip of every file. */
interface Wish {
  readonly said: ClipSpec['said'];
  readonly travel: TravelSpec;
  readonly repair: RepairSpec;
  readonly edits: EditSpec;
  /** The best loop that is found is cut out. */
  readonly loop: boolean;
}

interface Done {
  readonly file: string;
  readonly bytes: Uint8Array;
  readonly index: number;
  readonly source: MotionFile;
  readonly known: KnownClip;
  readonly edits: EditSpec;
  readonly travel: TravelSpec;
  /** How far joints were apart at the seam before it was closed, m; null where no loop was cut. */
  readonly seam: number | null;
  readonly result: PreparedClip;
}

/** Seconds on either side of a seam over which it is closed. */
const CLOSED_OVER_S = 0.25;

async function prepared(file: string, wish: Wish): Promise<Done[]> {
  const bytes = await readInput(file);
  const source = await readMotionFile(bytes, file);
  return source.clips.map((found, index) => {
    let seam: number | null = null;
    const { edits, ...known } = knowClip(found, {
      ...wish,
      edits: ({ figure, contacts, first }) => {
        // What is a loop already is one.
        if (!wish.loop || figure.clip.loop) return wish.edits;
        const best = findLoops(figure, contacts, first)[0];
        if (!best) throw new InputFault([`${file}: no stretch of ${found.clip.name} comes back to where it began`]);
        seam = best.seam;
        return { ...wish.edits, loop: { from: best.from, to: best.to, span: CLOSED_OVER_S } };
      },
    });
    return {
      file,
      bytes,
      index,
      source,
      known,
      edits,
      travel: wish.travel,
      seam,
      result: prepareClip(known.analysis.figure, wish.travel, null, known.analysis),
    };
  });
}

/** Repairs by the words that name them. */
const REPAIRS = { 'rest-pose': 'restPose', spikes: 'spikes', tilt: 'tilt', floor: 'floor' } as const;

const repairOf = (words = '', calm: string | undefined): RepairSpec => ({
  ...noRepair(),
  ...Object.fromEntries(
    words
      .split(',')
      .filter((w) => w !== '')
      .map((w) => [REPAIRS[oneOf('mend', w.trim(), Object.keys(REPAIRS) as (keyof typeof REPAIRS)[])], true]),
  ),
  jitterHz: calm === undefined ? null : readNumber('calm', calm, 8, 0.5, 60),
});

const editsOf = (values: { rounds?: string; mirror?: boolean; reverse?: boolean; faster?: string; each?: string }): EditSpec => ({
  ...noEdits(),
  mirror: values.mirror === true,
  reverse: values.reverse === true,
  speed: readNumber('faster', values.faster, 1, 0.05, 20),
  repeat: whole('rounds', values.rounds, 200),
  hold: whole('each', values.each, 4),
});

function whole(name: string, text: string | undefined, most: number): number {
  const n = readNumber(name, text, 1, 1, most);
  if (!Number.isInteger(n)) throw new InputFault([`--${name}: "${text}" must be a whole number`]);
  return n;
}

function oneOf<T extends string>(name: string, text: string, all: readonly T[]): T {
  const found = all.find((x) => x.toLowerCase() === text.toLowerCase());
  if (!found) throw new InputFault([`--${name}: "${text}" is none of ${all.join(', ')}`]);
  return found;
}

function specOf(values: { [K in keyof typeof OPTIONS]?: string | boolean }): TravelSpec {
  const text = (k: keyof typeof OPTIONS) => values[k] as string | undefined;
  const kind = text('kind') === undefined ? 'asIs' : oneOf<TravelKind>('kind', text('kind')!.replace(/-/g, ''), TRAVEL_KINDS);
  const kept =
    text('axes') === undefined
      ? null
      : text('axes')!
          .split(',')
          .filter((a) => a !== '')
          .map((a) => oneOf<Axis>('axes', a.trim(), AXES));
  const base = defaultTravel();
  return {
    ...base,
    kind,
    axes: kept
      ? { forward: kept.includes('forward'), sideways: kept.includes('sideways'), height: kept.includes('height'), turn: kept.includes('turn') }
      : base.axes,
    smoothHz: readNumber('smooth', text('smooth'), base.smoothHz, 0.05, 20),
    distance: text('distance') === undefined ? null : readNumber('distance', text('distance'), 0, -10_000, 10_000),
    lock: values.lock
      ? {
          ...defaultLock(),
          hold: text('hold') === undefined ? 'both' : oneOf<Hold>('hold', text('hold')!, HOLDS),
          reach: readNumber('reach', text('reach'), defaultLock().reach, 0.8, 1),
        }
      : null,
  };
}

/** The bytes of one file, all its clips done, as the ending asks for; a table is one clip's. */
async function encoded(done: readonly Done[], ending: string): Promise<Uint8Array> {
  const { source, bytes, result, edits } = done[0]!;
  if (ending === '.csv') return Buffer.from(clipTable(result, edits));
  if (ending !== `.${source.kind}`) throw new InputFault([`--out: a .${source.kind} goes out as .${source.kind} on its own skeleton, or as .csv`]);
  let now: Uint8Array = bytes;
  for (const one of done) now = Buffer.from(await clipFile({ bytes: now, file: source, index: one.index }, one.known, one.result, one.edits));
  return now;
}

async function write(done: readonly Done[], out: string, many: boolean): Promise<void> {
  const folder =
    many ||
    (await stat(out).then(
      (s) => s.isDirectory(),
      () => false,
    ));
  if (!folder) {
    if (done.length > 1 && extname(out).toLowerCase() === '.csv')
      throw new InputFault([`--out: the file has ${done.length} clips; a folder is needed for their tables`]);
    return writeWhole(out, await encoded(done, extname(out).toLowerCase()));
  }
  if (
    !(await stat(out).then(
      (s) => s.isDirectory(),
      () => false,
    ))
  )
    throw new InputFault([`--out: "${out}" must be a folder that is there, as there are several files`]);
  const files = await Promise.all(
    [...new Set(done.map((d) => d.file))].map(async (file) => ({
      name: basename(file),
      bytes: await encoded(
        done.filter((d) => d.file === file),
        extname(file).toLowerCase(),
      ),
    })),
  );
  for (const { name, bytes } of files) await writeWhole(join(out, name), bytes);
}

/** Fits a gait to the one clip there is, and writes it; how well it fits is said. */
async function writeGait(done: readonly Done[], out: string): Promise<void> {
  if (done.length !== 1) throw new InputFault([`--gait: it is taken from one clip; there are ${done.length}`]);
  const { file, known, travel } = done[0]!;
  const name = basename(file, extname(file));
  const found = clipStride(known.analysis, name, travel);
  if (!found) throw new InputFault([`${file}: ${NO_STRIDE}`]);
  const fit = takingGait(found.stride, found.body, name);
  let step = fit.next();
  while (!step.done) step = fit.next();
  const { gait, off, bent } = step.value;
  await writeWhole(out, Buffer.from(`${JSON.stringify(gait, null, 2)}\n`));
  const each = Object.entries(off).map(([role, degrees]) => `${role} ${degrees.toFixed(1)}°`);
  process.stderr.write(
    `${out}: fitted to ${found.stride.strides.length} ${found.stride.strides.length === 1 ? 'stride' : 'strides'}; hips are bent ${bent.hip.toFixed(1)}° otherwise, knees ${bent.knee.toFixed(1)}°, ankles ${bent.ankle.toFixed(1)}°; turned about any axis: ${each.join(', ')} (root mean square)\n`,
  );
}

const most = (slides: PreparedClip['before']) => slides.reduce((m, s) => Math.max(m, s.metres), 0) * 1000;

function factsOf({ file, source, known: { brought, mended }, edits, seam, result }: Done) {
  const { clip: prepared, put, travel, analysis } = result;
  const clip = finished(prepared, edits);
  const round = (v: number) => Math.round(v * 1e6) / 1e6;
  const facts = travelFacts(travel, prepared, analysis.first);
  return {
    format: 'nimbret.travel',
    version: 1,
    file: basename(file),
    clip: clip.name,
    frames: clip.frames,
    rate: clip.rate,
    unitMetres: brought.unit,
    up: brought.up,
    legLengthM: round(brought.figure.legLength),
    restPoseFirst: analysis.first === 1,
    inPlace: analysis.inPlace,
    floorM: round(analysis.floor),
    travel: {
      distanceM: round(facts.distance),
      speedMps: round(facts.speed),
      directionDeg: round(toDegrees(facts.direction)),
      turnDeg: round(toDegrees(facts.turn)),
    },
    keptDistanceM: round(travelFacts(put, prepared, analysis.first).distance),
    contacts: result.held.map((c) => ({ foot: c.foot, from: Math.ceil(c.from - 1e-6), to: Math.floor(c.to + 1e-6) })),
    slideMm: { before: round(most(result.before)), after: round(most(result.after)) },
    dragged: result.drags.map((d) => ({ foot: d.contact.foot, from: d.contact.from, to: d.contact.to, mm: round(d.metres * 1000) })),
    hipsMm: { mean: round(result.hips.mean * 1000), most: round(result.hips.most * 1000) },
    loop: clip.loop || prepared.loop,
    ...(edits.loop === null ? {} : { cut: { from: edits.loop.from, to: edits.loop.to, seamMm: round((seam ?? 0) * 1000) } }),
    mended: mended.map(({ what, count, most, mean }) => ({ what, count, mostMm: round(most * 1000), meanMm: round(mean * 1000) })),
    said: [...source.oddities, ...brought.doubts],
  };
}

function words(done: Done): string {
  const f = factsOf(done);
  const lines = [
    `${f.file}, ${f.clip}: ${f.frames} frames at ${f.rate} fps, ${f.travel.distanceM.toFixed(3)} m at ${f.travel.speedMps.toFixed(3)} m/s, turns ${f.travel.turnDeg.toFixed(1)}°, ${f.contacts.length} contacts`,
    `  a foot slides up to ${f.slideMm.before.toFixed(1)} mm${done.result.after === done.result.before ? '' : `, locked ${f.slideMm.after.toFixed(2)} mm; the hips give way by ${f.hipsMm.mean.toFixed(1)} mm on the whole, ${f.hipsMm.most.toFixed(0)} at most`}`,
    ...(f.cut ? [`  a loop of frames ${f.cut.from} to ${f.cut.to}: joints were ${f.cut.seamMm.toFixed(1)} mm apart at its seam`] : []),
    ...(f.dragged.length > 0
      ? [
          `  in ${f.dragged.length === 1 ? 'one contact' : `${f.dragged.length} contacts`} the foot is dragged, by up to ${Math.max(...f.dragged.map((d) => d.mm)).toFixed(0)} mm; only its stays are held`,
        ]
      : []),
    ...f.mended.map((m) => `  mended ${m.what}: ${m.count} places, ${m.mostMm.toFixed(1)} mm at most, ${m.meanMm.toFixed(2)} on the whole`),
    ...(f.restPoseFirst ? ['  the first picture is a rest pose'] : []),
    ...f.said.map((s) => `  ${s}`),
  ];
  return lines.join('\n') + '\n';
}
