import { bodyOf } from '@/core/body/body';
import { measuredBody } from '@/core/body/measured';
import { JOINT } from '@/core/body/roles';
import { createWorldPose, forwardKinematics, poseSize, rotationAt } from '@/core/body/skeleton';
import { silhouette } from '@/core/sheet/silhouette';
import { encodeClip } from '@/core/formats/encode';
import { EXPORT_FORMATS } from '@/core/formats/format';
import { signature } from '@/core/clip/signature';
import { FormatFault } from '@/core/formats/limits';
import { encodeContacts } from '@/core/formats/contacts/file';
import { bring, type Brought } from '@/core/formats/bring';
import { readingMotionFile, type MotionFile } from '@/core/formats/motion-file';
import { clipContacts, clipFile, clipOnBody, clipTable, dragWords, knowClip, prepareKnown, type KnownClip } from '@/core/handover/clip-file';
import type { Analysis } from '@/core/travel/analysis';
import { bodyWay } from '@/core/travel/body-way';
import { finished } from '@/core/travel/edited';
import { findLoops } from '@/core/travel/find-loops';
import type { ClipSpec } from '@/core/travel/clip-spec';
import { travelFacts } from '@/core/travel/kinds';
import { clipStride, NO_STRIDE, takingGait } from '@/core/travel/take-gait';
import type { PreparedClip } from '@/core/travel/prepare';
import type { Mended } from '@/core/travel/repair';
import { noEdits } from '@/core/travel/spec';
import type { Work, WorkerCalls } from './protocol';

/** Files kept in memory, and clips as they were found in them; the latest last. */
const KEPT = 2;
const FOUND = 3;

interface Loaded {
  readonly bytes: Uint8Array;
  readonly file: MotionFile;
}

/** Pictures of a clip in miniature, and how long (s) they take. */
const FILM_PICTURES = 16;
const FILM_S = 1.6;

/** Files brought in, read once, and what was found of the clip that was asked for last. */
export class Clips {
  /** `fetchFile` gets the bytes of a file by their hash, where it was not brought in here or was put away. */
  constructor(private readonly fetchFile: (hash: string) => Promise<Uint8Array>) {}

  private readonly files = new Map<string, Loaded>();
  private readonly found = new Map<string, KnownClip>();

  /** Reads a file and tells what is in it. */
  async *bring({ hash, name, bytes }: WorkerCalls['bring']['request']): Work<WorkerCalls['bring']['answer']> {
    if (!this.files.has(hash)) {
      const reading = readingMotionFile(bytes, name);
      for (;;) {
        const { done, value } = await reading.next();
        if (done) {
          // A BVH is written from its numbers; its text is not looked at again.
          this.files.set(hash, { bytes: value.bvh ? new Uint8Array(0) : bytes, file: value });
          break;
        }
        yield { done: Math.round(value * 100), total: 100, name };
      }
      while (this.files.size > KEPT) this.files.delete(this.files.keys().next().value!);
    }
    const { file } = this.files.get(hash)!;
    // What cannot be brought in is refused before anything is kept of it.
    const clips = file.clips.map((found) => {
      bring(found);
      return { name: found.clip.name, frames: found.clip.frames, rate: found.clip.rate, skeleton: signature(found.clip.skeleton) };
    });
    return { clips, oddities: file.oddities };
  }

  /** A clip as its spec wants it. */
  async *clip({ spec }: WorkerCalls['clip']['request']): Work<WorkerCalls['clip']['answer']> {
    yield;
    const known = yield* this.foundOf(spec);
    const { brought, analysis, mended: done } = known;
    yield;
    const result = prepareKnown(known, spec);
    return answerOf((yield* this.loaded(spec)).file, brought, analysis, done, { ...result, clip: finished(result.clip, { ...spec.edits, repeat: 1 }) });
  }

  /** A clip as it came, without its edits. */
  async *clipLook({ spec }: WorkerCalls['clipLook']['request']): Work<WorkerCalls['clipLook']['answer']> {
    yield;
    const found = (yield* this.loaded(spec)).file.clips[spec.file.index];
    if (!found) throw new FormatFault(`the file has no clip ${spec.file.index + 1}`);
    const { figure } = bring(found, spec.said);
    const { roles, feet, legLength } = figure;
    const clip = figure.clip === found.clip || figure.clip.poses === found.clip.poses ? { ...figure.clip, poses: figure.clip.poses.slice() } : figure.clip;
    const { places } = bodyWay(figure);
    return {
      clip,
      figure: { roles, feet, legLength },
      contacts: [],
      places,
      floor: 0,
      transfer: [clip.poses.buffer as ArrayBuffer, places.buffer as ArrayBuffer],
    };
  }

  /** Loops in the whole of a clip, whatever is cut out of it. */
  async *loops({ spec }: WorkerCalls['loops']['request']): Work<WorkerCalls['loops']['answer']> {
    yield;
    const { analysis } = yield* this.foundOf({ ...spec, edits: noEdits() });
    yield;
    return findLoops(analysis.figure, analysis.contacts, analysis.first);
  }

  /** A clip as a file. */
  async *clipFile({ spec, format, body, carrier }: WorkerCalls['clipFile']['request']): Work<WorkerCalls['clipFile']['answer']> {
    yield;
    const known = yield* this.foundOf(spec);
    const { bytes, file } = yield* this.loaded(spec);
    const prepared = prepareKnown(known, spec);
    const drags = dragWords(prepared);
    const text = (words: string, mime: string) => ({ bytes: new TextEncoder().encode(words), mime, slide: null, drags });
    if (format === 'csv') return text(clipTable(prepared, spec.edits), 'text/csv');
    if (format !== 'own') {
      const to = EXPORT_FORMATS.find((f) => f.id === format)!;
      const { document, slide } = clipOnBody(known, prepared, spec, { body: bodyOf(body!), name: spec.name, carrier });
      const beside = to.id === 'bvh' ? { contacts: encodeContacts(document.clip, null, document.info.contacts) } : {};
      return { bytes: await encodeClip(to, document), mime: to.mime, slide, drags, ...beside };
    }
    const made = await clipFile({ bytes, file, index: spec.file.index }, known, prepared, spec.edits, carrier);
    return typeof made === 'string'
      ? { ...text(made, 'text/plain'), contacts: clipContacts(prepared, spec.edits) }
      : { bytes: made, mime: 'model/gltf-binary', slide: null, drags };
  }

  /** A few pictures from the middle of a clip, in miniature. */
  async *clipFilm({ spec }: WorkerCalls['clipFilm']['request']): Work<WorkerCalls['clipFilm']['answer']> {
    yield;
    const { analysis } = yield* this.foundOf(spec);
    const { floor, figure } = analysis;
    const { clip } = figure;
    const { body, rig } = measuredBody(clip.skeleton, figure, spec.name);
    const from = Math.max(analysis.first, Math.round((clip.frames - FILM_S * clip.rate) / 2));
    const last = Math.min(clip.frames - 1, Math.round(from + FILM_S * clip.rate));
    const pose = new Float64Array(poseSize(body.skeleton));
    const world = createWorldPose(body.skeleton);
    const size = poseSize(clip.skeleton);
    const pictures = Array.from({ length: FILM_PICTURES }, (_, i) => {
      rig.take(clip.poses, Math.round(from + ((last - from) * i) / FILM_PICTURES) * size, pose, 0);
      pose[4] = pose[4]! - floor;
      // Seen from its side, whichever way it faces.
      const h = rotationAt(body.skeleton, JOINT.hips);
      const half = Math.atan2(pose[h + 1]!, pose[h + 3]!);
      pose.set([0, -Math.sin(half), 0, Math.cos(half)], 6);
      forwardKinematics(body.skeleton, pose, 0, world);
      return silhouette(body, world, 'side', world.positions[JOINT.hips * 3]!, world.positions[JOINT.hips * 3 + 2]!);
    });
    const { oddities } = (yield* this.loaded(spec)).file;
    return { pictures, stature: body.spec.stature, seconds: (last - from) / clip.rate, oddities };
  }

  /** The skins a clip's file has. */
  async *clipSkin({ spec }: WorkerCalls['clipSkin']['request']): Work<WorkerCalls['clipSkin']['answer']> {
    yield;
    const { brought } = yield* this.foundOf(spec);
    const found = (yield* this.loaded(spec)).file.clips[spec.file.index]!;
    const skins = found.skins().map(({ skin, faces }) => ({ skin: { ...skin, bound: skin.bound.map((v) => v * brought.unit) }, faces }));
    return { skins, transfer: skins.flatMap(({ skin, faces }) => [skin.bound, skin.weights, skin.joints, faces].map((a) => a.buffer as ArrayBuffer)) };
  }

  /** A gait fitted to a clip's strides. */
  async *takeGait({ spec }: WorkerCalls['takeGait']['request']): Work<WorkerCalls['takeGait']['answer']> {
    yield;
    const { analysis } = yield* this.foundOf(spec);
    const found = clipStride(analysis, spec.name, spec.travel, [spec.baked, spec.layers]);
    if (!found) throw new Error(NO_STRIDE);
    const { strides, strideTime, strideLength, direction, stands, rightLands } = found.stride;
    const fit = takingGait(found.stride, found.body, spec.name);
    for (;;) {
      const { done, value } = fit.next();
      if (done) return { ...value, strides, strideTime, strideLength, direction, stands, rightLands };
      yield { done: Math.round(value * 100), total: 100, name: spec.name };
    }
  }

  private async *loaded({ file: { hash, name } }: ClipSpec): Work<Loaded> {
    if (!this.files.has(hash)) yield* this.bring({ hash, name, bytes: await this.fetchFile(hash) });
    return this.files.get(hash)!;
  }

  private async *foundOf(spec: ClipSpec): Work<KnownClip> {
    const { file } = yield* this.loaded(spec);
    const key = JSON.stringify([spec.file.hash, spec.file.index, spec.said, spec.repair, { ...spec.edits, repeat: 1, hold: 1 }]);
    let found = this.found.get(key);
    if (!found) {
      const clip = file.clips[spec.file.index];
      if (!clip) throw new FormatFault(`the file has no clip ${spec.file.index + 1}`);
      found = knowClip(clip, spec);
      this.found.set(key, found);
      if (this.found.size > FOUND) this.found.delete(this.found.keys().next().value!);
    }
    return found;
  }
}

function answerOf(file: MotionFile, brought: Brought, analysis: Analysis, done: readonly Mended[], result: PreparedClip): WorkerCalls['clip']['answer'] {
  const { clip, contacts, held, put, travel, before, after, drags, moved } = result;
  const { roles, feet, legLength } = analysis.figure;
  // What is sent is given away: nothing of the source may be in it.
  const sent = clip.poses === brought.figure.clip.poses || clip.poses === analysis.figure.clip.poses ? { ...clip, poses: clip.poses.slice() } : clip;
  return {
    clip: sent,
    figure: { roles, feet, legLength },
    contacts,
    held,
    places: put.places,
    floor: analysis.floor,
    first: analysis.first,
    inPlace: analysis.inPlace,
    made: analysis.calm === Infinity,
    unit: brought.unit,
    up: brought.up,
    unsure: brought.unsure,
    doubts: [...file.oddities, ...brought.doubts],
    facts: travelFacts(travel, analysis.figure.clip, analysis.first),
    kept: travelFacts(put, analysis.figure.clip, analysis.first),
    wholeFrames: brought.figure.clip.frames,
    before,
    after,
    drags,
    moved,
    mended: done,
    transfer: [sent.poses.buffer as ArrayBuffer, put.places.buffer as ArrayBuffer],
  };
}
