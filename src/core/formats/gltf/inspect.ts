import { FormatFault, READ_LIMITS } from '../limits';

/** A value of the file with the path it stands at, read through checks that fault in our words. */
class At {
  constructor(
    readonly value: unknown,
    readonly path: string,
  ) {}

  fault(message: string): FormatFault {
    return new FormatFault(message, this.path || 'JSON');
  }

  get there(): boolean {
    return this.value !== undefined;
  }

  get(key: string): At {
    if (this.value === null || typeof this.value !== 'object' || Array.isArray(this.value)) throw this.fault('must be an object');
    const record = this.value as Record<string, unknown>;
    return new At(Object.hasOwn(record, key) ? record[key] : undefined, this.path ? `${this.path}.${key}` : key);
  }

  /** Entries of a list; none where it is not there. */
  list(most: number = READ_LIMITS.entries): At[] {
    if (!this.there) return [];
    if (!Array.isArray(this.value)) throw this.fault('must be a list');
    if (this.value.length > most) throw this.fault(`has ${this.value.length} entries; the limit is ${most}`);
    return this.value.map((v, i) => new At(v, `${this.path}[${i}]`));
  }

  whole(min: number, max: number, fallback?: number): number {
    if (!this.there && fallback !== undefined) return fallback;
    if (!Number.isInteger(this.value) || (this.value as number) < min || (this.value as number) > max)
      throw this.fault(`must be a whole number from ${min} to ${max}`);
    return this.value as number;
  }

  /** An index into a list of `count`; null where it is not there and need not be. */
  index(count: number, what: string): number | null {
    if (!this.there) return null;
    if (!Number.isInteger(this.value) || (this.value as number) < 0 || (this.value as number) >= count)
      throw this.fault(`must name one of the file's ${count} ${what}`);
    return this.value as number;
  }

  needed(count: number, what: string): number {
    const i = this.index(count, what);
    if (i === null) throw this.fault(`is missing; it must name one of the file's ${count} ${what}`);
    return i;
  }

  oneOf<T extends string | number>(words: readonly T[], fallback?: T): T {
    if (!this.there && fallback !== undefined) return fallback;
    if (!words.includes(this.value as T)) throw this.fault(`must be one of ${words.join(', ')}`);
    return this.value as T;
  }

  numbers(count: number, bound: number): number[] | null {
    if (!this.there) return null;
    const all = this.list(count);
    if (all.length !== count) throw this.fault(`must have ${count} numbers`);
    return all.map((a) => {
      if (typeof a.value !== 'number' || !(Math.abs(a.value) <= bound)) throw a.fault(`must be a number within ±${bound}`);
      return a.value;
    });
  }

  text(): void {
    if (this.there && typeof this.value !== 'string') throw this.fault('must be text');
  }
}

const COMPONENT_BYTES: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const ELEMENTS: Readonly<Record<string, number>> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };

/**
 * Looks through a glTF document before any library reads it: every index names something, every count fits the bytes there
 * are, the nodes are a forest, nothing claims more than the limits. Throws FormatFault with the path of the first fault.
 * Source of the rules: glTF 2.0 specification.
 */
export function inspectGltf(json: unknown, binBytes: number): void {
  const root = new At(json, '');
  const asset = root.get('asset');
  if (!asset.there || asset.get('version').value !== '2.0') throw asset.fault('must name glTF version 2.0');
  for (const e of root.get('extensionsRequired').list())
    if (!READ_EXTENSIONS.includes(String(e.value))) throw e.fault(`the extension ${String(e.value).slice(0, 60)} is needed, which is not read`);
  for (const list of NAMED_LISTS) for (const entry of root.get(list).list()) entry.get('name').text();
  const views = inspectBuffers(root, binBytes);
  const accessors = inspectAccessors(root, views);
  inspectImages(root, views.length);
  inspectMeshes(root, accessors);
  const nodes = inspectNodes(root);
  inspectSkins(root, nodes, accessors);
  inspectAnimations(root, nodes, accessors);
  const scenes = root.get('scenes').list();
  if (scenes.length === 0) throw new FormatFault('the file has no scene');
  for (const scene of scenes) for (const n of scene.get('nodes').list()) n.needed(nodes, 'nodes');
  root.get('scene').index(scenes.length, 'scenes');
}

/** Extensions a file may insist on: materials change nothing that is measured. */
const READ_EXTENSIONS: readonly string[] = [];
const NAMED_LISTS = [
  'nodes',
  'meshes',
  'animations',
  'skins',
  'scenes',
  'materials',
  'accessors',
  'buffers',
  'bufferViews',
  'cameras',
  'images',
  'textures',
  'samplers',
];

function inspectBuffers(root: At, binBytes: number): number[] {
  const buffers = root
    .get('buffers')
    .list()
    .map((b, i) => {
      const uri = b.get('uri');
      uri.text();
      if (uri.there && !String(uri.value).startsWith('data:')) throw uri.fault('names an outside file; a GLB is read by itself');
      const length = b.get('byteLength').whole(1, READ_LIMITS.bytes);
      if (!uri.there && i > 0) throw b.fault('has no bytes: only the first buffer is the binary part');
      if (!uri.there && length > binBytes) throw b.get('byteLength').fault(`says ${length} bytes, but the binary part has ${binBytes}`);
      return length;
    });
  return root
    .get('bufferViews')
    .list()
    .map((v) => {
      const size = buffers[v.get('buffer').needed(buffers.length, 'buffers')]!;
      const start = v.get('byteOffset').whole(0, READ_LIMITS.bytes, 0);
      const length = v.get('byteLength').whole(1, READ_LIMITS.bytes);
      v.get('byteStride').whole(4, 252, 4);
      if (start + length > size) throw v.fault(`reaches byte ${start + length} of a buffer of ${size}`);
      return length;
    });
}

interface Accessor {
  readonly count: number;
  readonly type: string;
  readonly component: number;
}

function inspectAccessors(root: At, views: readonly number[]): Accessor[] {
  let total = 0;
  return root
    .get('accessors')
    .list()
    .map((a) => {
      const component = a.get('componentType').oneOf([5120, 5121, 5122, 5123, 5125, 5126]);
      const type = a.get('type').oneOf(['SCALAR', 'VEC2', 'VEC3', 'VEC4', 'MAT2', 'MAT3', 'MAT4']);
      const count = a.get('count').whole(1, READ_LIMITS.values);
      const size = COMPONENT_BYTES[component]! * ELEMENTS[type]!;
      total += count * size;
      if (total > READ_LIMITS.accessorBytes) throw a.fault(`the accessors claim more than ${READ_LIMITS.accessorBytes} bytes together`);
      const view = a.get('bufferView').index(views.length, 'buffer views');
      const start = a.get('byteOffset').whole(0, READ_LIMITS.bytes, 0);
      if (start % COMPONENT_BYTES[component]! !== 0) throw a.get('byteOffset').fault(`must be a multiple of ${COMPONENT_BYTES[component]}`);
      if (view !== null) {
        const stride = new At(root.get('bufferViews').list()[view]!.value, '').get('byteStride').whole(4, 252, size);
        if (start + stride * (count - 1) + size > views[view]!)
          throw a.fault(`needs ${start + stride * (count - 1) + size} bytes of a buffer view of ${views[view]}`);
      }
      const sparse = a.get('sparse');
      if (sparse.there) {
        const replaced = sparse.get('count').whole(1, count);
        for (const [part, bytes] of [
          ['indices', COMPONENT_BYTES[sparse.get('indices').get('componentType').oneOf([5121, 5123, 5125])]!],
          ['values', size],
        ] as const) {
          const held = sparse.get(part);
          const v = held.get('bufferView').needed(views.length, 'buffer views');
          const from = held.get('byteOffset').whole(0, READ_LIMITS.bytes, 0);
          if (from + replaced * bytes > views[v]!) throw held.fault(`needs ${from + replaced * bytes} bytes of a buffer view of ${views[v]}`);
        }
      }
      for (const end of ['min', 'max']) if (a.get(end).there) a.get(end).numbers(ELEMENTS[type]!, Number.MAX_VALUE);
      return { count, type, component };
    });
}

function inspectImages(root: At, views: number): void {
  for (const image of root.get('images').list()) {
    image.get('bufferView').index(views, 'buffer views');
    image.get('uri').text();
    if (image.get('uri').there && !String(image.get('uri').value).startsWith('data:'))
      throw image.get('uri').fault('names an outside file; a GLB is read by itself');
  }
  const images = root.get('images').list().length,
    samplers = root.get('samplers').list().length;
  const textures = root.get('textures').list();
  for (const texture of textures) {
    texture.get('source').index(images, 'images');
    texture.get('sampler').index(samplers, 'samplers');
  }
  for (const material of root.get('materials').list()) {
    const rough = material.get('pbrMetallicRoughness');
    const slots = [material.get('normalTexture'), material.get('occlusionTexture'), material.get('emissiveTexture')];
    if (rough.there) slots.push(rough.get('baseColorTexture'), rough.get('metallicRoughnessTexture'));
    for (const slot of slots) if (slot.there) slot.get('index').needed(textures.length, 'textures');
  }
}

function inspectMeshes(root: At, accessors: readonly Accessor[]): void {
  const materials = root.get('materials').list().length;
  for (const mesh of root.get('meshes').list()) {
    const primitives = mesh.get('primitives').list();
    if (primitives.length === 0) throw mesh.get('primitives').fault('must have at least one entry');
    for (const p of primitives) {
      const attributes = p.get('attributes');
      if (attributes.value === null || typeof attributes.value !== 'object') throw attributes.fault('must be an object');
      const counts = Object.keys(attributes.value).map((key) => accessors[attributes.get(key).needed(accessors.length, 'accessors')]!.count);
      if (new Set(counts).size > 1) throw attributes.fault('all attributes must have the same count');
      p.get('indices').index(accessors.length, 'accessors');
      p.get('material').index(materials, 'materials');
      p.get('mode').whole(0, 6, 4);
      for (const target of p.get('targets').list())
        for (const key of Object.keys((target.value ?? {}) as object)) target.get(key).needed(accessors.length, 'accessors');
    }
  }
}

/** Number of nodes; they must hang together as a forest. */
function inspectNodes(root: At): number {
  const nodes = root.get('nodes').list();
  const meshes = root.get('meshes').list().length,
    skins = root.get('skins').list().length,
    cameras = root.get('cameras').list().length;
  const parents = new Map<number, number>();
  nodes.forEach((node, i) => {
    node.get('mesh').index(meshes, 'meshes');
    node.get('skin').index(skins, 'skins');
    node.get('camera').index(cameras, 'cameras');
    node.get('translation').numbers(3, READ_LIMITS.metres);
    const scale = node.get('scale').numbers(3, READ_LIMITS.metres);
    if (scale?.some((s) => s === 0)) throw node.get('scale').fault('a scale of 0 leaves nothing to measure');
    const rotation = node.get('rotation').numbers(4, 2);
    if (rotation && Math.hypot(...rotation) < 1e-6) throw node.get('rotation').fault('a rotation of length 0 turns nowhere');
    const matrix = node.get('matrix').numbers(16, READ_LIMITS.metres);
    if (matrix && (scale || rotation || node.get('translation').there)) throw node.get('matrix').fault('stands beside a translation, rotation or scale');
    if (matrix && Math.abs(determinant(matrix)) < 1e-12) throw node.get('matrix').fault('flattens the node: nothing is left to measure');
    for (const child of node.get('children').list()) {
      const c = child.needed(nodes.length, 'nodes');
      if (parents.has(c)) throw child.fault(`node ${c} hangs on two parents`);
      parents.set(c, i);
    }
  });
  // With one parent each, a node that never comes to a root is in a circle.
  const safe = new Set<number>();
  nodes.forEach((node, i) => {
    const way = new Set<number>();
    for (let n: number | undefined = i; n !== undefined && !safe.has(n); n = parents.get(n)) {
      if (way.has(n)) throw node.get('children').fault('the hierarchy runs in a circle');
      way.add(n);
    }
    for (const n of way) safe.add(n);
  });
  return nodes.length;
}

/** Determinant of the upper left 3 × 3 part, columns first. */
const determinant = (m: readonly number[]): number =>
  m[0]! * (m[5]! * m[10]! - m[6]! * m[9]!) - m[4]! * (m[1]! * m[10]! - m[2]! * m[9]!) + m[8]! * (m[1]! * m[6]! - m[2]! * m[5]!);

function inspectSkins(root: At, nodes: number, accessors: readonly Accessor[]): void {
  for (const skin of root.get('skins').list()) {
    const joints = skin.get('joints').list(READ_LIMITS.joints);
    if (joints.length === 0) throw skin.get('joints').fault('must have at least one entry');
    for (const joint of joints) joint.needed(nodes, 'nodes');
    skin.get('skeleton').index(nodes, 'nodes');
    const inverse = skin.get('inverseBindMatrices').index(accessors.length, 'accessors');
    if (inverse !== null && (accessors[inverse]!.type !== 'MAT4' || accessors[inverse]!.component !== 5126 || accessors[inverse]!.count < joints.length))
      throw skin.get('inverseBindMatrices').fault(`must be ${joints.length} float matrices of 4 × 4`);
  }
}

const PATHS = ['translation', 'rotation', 'scale', 'weights'] as const;

function inspectAnimations(root: At, nodes: number, accessors: readonly Accessor[]): void {
  const animations = root.get('animations').list(READ_LIMITS.animations);
  for (const animation of animations) {
    const samplers = animation.get('samplers').list();
    const sizes = samplers.map((s) => {
      const input = accessors[s.get('input').needed(accessors.length, 'accessors')]!;
      const output = accessors[s.get('output').needed(accessors.length, 'accessors')]!;
      if (input.type !== 'SCALAR' || input.component !== 5126) throw s.get('input').fault('key times must be floats');
      const cubic = s.get('interpolation').oneOf(['LINEAR', 'STEP', 'CUBICSPLINE'], 'LINEAR') === 'CUBICSPLINE';
      if (input.count > READ_LIMITS.frames) throw s.get('input').fault(`has ${input.count} keys; the limit is ${READ_LIMITS.frames}`);
      return { output, wanted: input.count * (cubic ? 3 : 1) };
    });
    const targets = new Set<string>();
    for (const channel of animation.get('channels').list()) {
      const { output, wanted } = sizes[channel.get('sampler').needed(sizes.length, 'samplers')]!;
      const target = channel.get('target');
      const node = target.get('node').index(nodes, 'nodes');
      const path = target.get('path').oneOf(PATHS);
      if (targets.has(`${node} ${path}`) && node !== null) throw channel.fault(`moves the ${path} of node ${node} a second time`);
      targets.add(`${node} ${path}`);
      if (path === 'weights') continue;
      const type = path === 'rotation' ? 'VEC4' : 'VEC3';
      if (output.type !== type || output.count !== wanted) throw channel.fault(`must have ${wanted} values of type ${type} for its ${path}`);
      if (path !== 'rotation' && output.component !== 5126) throw channel.fault(`must have floats for its ${path}`);
    }
  }
}
