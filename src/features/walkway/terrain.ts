import {
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  CylinderGeometry,
  DoubleSide,
  EdgesGeometry,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshStandardMaterial,
  PlaneGeometry,
  ShaderMaterial,
  ShadowMaterial,
  type Material,
} from 'three';
import { bodyOf } from '@/core/body/body';
import { poseSize } from '@/core/body/skeleton';
import { SHIPPED_BODIES, type BodySpec } from '@/core/body/spec';
import { fitGait } from '@/core/gait/fit';
import { findPreset } from '@/core/gait/presets';
import { frameOf, placeIn } from '@/core/ground/frame';
import { levelGround, type Ground } from '@/core/ground/ground';
import type { GroundFeature } from '@/core/ground/spec';
import { own } from '@/core/math/own';
import type { Motion } from '@/core/motion/motion';
import { walk } from '@/core/motion/solved';
import { Figure, figureGeometry } from './figure';
import type { ScenePalette } from './palette';

/** Ground shown beside the way, and the longest side of it, m. */
const BESIDE_M = 5;
const LONGEST_M = 120;
/** Ground about a figure that is led: it is laid out anew where less than this (m) is left. */
const AROUND_M = 7;
/** Most vertices along a side, and the finest grid, m. */
const MOST = 260;
const FINEST_M = 0.12;
/** How far (m) treads reach under the next one, so that nothing shows between. */
const UNDER_M = 0.5;

const vertex = /* glsl */ `
  varying vec3 place;
  varying vec3 up;
  void main() {
    vec4 world = modelMatrix * vec4(position, 1.0);
    place = position;
    up = normal;
    gl_Position = projectionMatrix * viewMatrix * world;
  }`;

/** The chart's rules, laid over the land, with contour lines every 5 cm and a stronger one every 25, and slopes shaded. */
const fragment = /* glsl */ `
  varying vec3 place;
  varying vec3 up;
  uniform vec3 paper, rule, sea;
  float ruleAt(float v, float spacing, float thick) {
    float px = fwidth(v);
    float d = abs(fract(v / spacing - 0.5) - 0.5) * spacing;
    float wide = max(thick, px);
    return (1.0 - smoothstep(wide * 0.5 - px * 0.5, wide * 0.5 + px * 0.5, d)) * clamp(thick / px, 0.3, 1.0) * smoothstep(3.0, 9.0, spacing / px);
  }
  void main() {
    vec3 n = normalize(up);
    float light = 0.86 + 0.14 * clamp(dot(n, normalize(vec3(-0.45, 0.8, 0.4))) / 0.8, 0.0, 1.2);
    vec3 c = paper * light;
    c = mix(c, rule, 0.4 * max(ruleAt(place.x, 0.25, 0.003) * 0.45, ruleAt(place.z, 0.25, 0.003)));
    c = mix(c, rule, 0.8 * max(ruleAt(place.x, 1.0, 0.009) * 0.45, ruleAt(place.z, 1.0, 0.009)));
    float steep = 1.0 - n.y;
    float contours = max(0.55 * ruleAt(place.y, 0.05, 0.002), ruleAt(place.y, 0.25, 0.004));
    c = mix(c, sea, 0.75 * contours * smoothstep(0.0, 0.0008, steep) * (1.0 - smoothstep(0.1, 0.16, steep)));
    gl_FragColor = vec4(c, 1.0);
    #include <colorspace_fragment>
  }`;

/** The ground of a walk where it is not level: land, treads with their edges, stones over water, and what stands in the way. */
export class Terrain {
  readonly group = new Group();
  private readonly made: { dispose(): void }[] = [];
  private shown: Ground = levelGround;
  private of: Motion | null = null;

  constructor(private readonly palette: ScenePalette) {}

  /** Whether the chart's own plane is to be hidden. */
  get covers(): boolean {
    return this.shown !== levelGround;
  }

  /** Shows the ground of a motion; `bodies` are those its ground may name. One without an end has it around where it is now, (x, z). */
  show(motion: Motion, bodies: Readonly<Record<string, BodySpec>>, x: number, z: number): void {
    const ends = Number.isFinite(motion.duration);
    const extent = (beside: number): Extent =>
      ends ? extentOf(motion, beside) : [x - beside - AROUND_M, z - beside - AROUND_M, x + beside + AROUND_M, z + beside + AROUND_M];
    if (motion === this.of && (ends || within(this.extent, extent(0)))) return;
    const same = motion.ground === this.shown || (motion.ground.spec && JSON.stringify(motion.ground.spec) === JSON.stringify(this.shown.spec));
    const kept = same && this.of !== null && within(this.extent, extent(BESIDE_M / 2));
    this.of = motion;
    if (kept || (same && motion.ground === levelGround)) return;
    this.clear();
    this.shown = motion.ground;
    const { spec } = motion.ground;
    if (!spec) return;
    this.extent = extent(BESIDE_M);
    this.land(motion.ground, spec.features);
    for (const f of spec.features) this.feature(f, motion.ground, bodies);
  }
  private extent: Extent = [0, 0, 0, 0];

  private keep<T extends { dispose(): void }>(thing: T): T {
    this.made.push(thing);
    return thing;
  }

  private add(geometry: BufferGeometry, material: Material): Mesh {
    const mesh = new Mesh(this.keep(geometry), this.keep(material));
    this.group.add(mesh);
    return mesh;
  }

  private land(ground: Ground, features: readonly GroundFeature[]): void {
    const [x0, z0, x1, z1] = this.extent;
    const step = Math.max(FINEST_M, (x1 - x0) / MOST, (z1 - z0) / MOST);
    const nx = Math.ceil((x1 - x0) / step) + 1,
      nz = Math.ceil((z1 - z0) / step) + 1;
    // Between two heights of a flight the land lies with the lower one: the treads themselves stand on it.
    const edged = features.some((f) => f.kind === 'stairs' || f.kind === 'stones');
    const positions = new Float32Array(nx * nz * 3);
    for (let i = 0; i < nx; i++)
      for (let k = 0; k < nz; k++) {
        const x = x0 + i * step,
          z = z0 + k * step;
        let y = ground.height(x, z);
        if (edged)
          for (const dx of [-step, 0, step])
            for (const dz of [-step, 0, step]) {
              const near = ground.height(x + dx, z + dz);
              if (near < y - 0.02) y = near;
            }
        positions.set([x, y - (edged ? 0.001 : 0), z], (i * nz + k) * 3);
      }
    const index = new Uint32Array((nx - 1) * (nz - 1) * 6);
    let o = 0;
    for (let i = 0; i + 1 < nx; i++)
      for (let k = 0; k + 1 < nz; k++) {
        const a = i * nz + k,
          b = a + nz;
        index.set([a, a + 1, b, b, a + 1, b + 1], o);
        o += 6;
      }
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setIndex(new BufferAttribute(index, 1));
    geometry.computeVertexNormals();
    const { paper, rule, sea } = this.palette;
    const material = new ShaderMaterial({
      vertexShader: vertex,
      fragmentShader: fragment,
      uniforms: { paper: { value: paper }, rule: { value: rule }, sea: { value: sea } },
      side: DoubleSide,
    });
    const mesh = this.add(geometry, material);
    mesh.renderOrder = -2;
    mesh.frustumCulled = false;
    const shade = new Mesh(geometry, this.keep(new ShadowMaterial({ opacity: 0.2, polygonOffset: true, polygonOffsetFactor: -1, polygonOffsetUnits: -1 })));
    shade.receiveShadow = true;
    shade.renderOrder = -1;
    this.group.add(shade);
  }

  private feature(f: GroundFeature, ground: Ground, bodies: Readonly<Record<string, BodySpec>>): void {
    if (f.kind === 'stairs') this.stairs(f, ground);
    else if (f.kind === 'stones') this.stones(f, ground);
    else if (f.kind === 'obstacle') this.obstacle(f, ground);
    else if (f.kind === 'bystander') this.bystander(f, ground, bodies);
  }

  /** Matte, of the chart's paper, with inked edges. */
  private solid(geometry: BufferGeometry, place: (mesh: Mesh) => void, threshold = 20): void {
    const mesh = this.add(geometry, new MeshStandardMaterial({ color: this.palette.paper, roughness: 1 }));
    mesh.receiveShadow = true;
    mesh.castShadow = false;
    place(mesh);
    const edges = new LineSegments(
      this.keep(new EdgesGeometry(geometry, threshold)),
      this.keep(new LineBasicMaterial({ color: this.palette.ink, transparent: true, opacity: 0.75 })),
    );
    mesh.add(edges);
  }

  private stairs(f: Extract<GroundFeature, { kind: 'stairs' }>, ground: Ground): void {
    const frame = frameOf(f);
    const heading = (f.headingDeg * Math.PI) / 180;
    for (let i = 0; i < f.count; i++) {
      const last = i === f.count - 1;
      // A tread reaches under the next; downward it hangs over the one below.
      const from = f.riser > 0 ? i * f.tread : i * f.tread - 0.001,
        to = f.riser > 0 ? (i + 1) * f.tread + (last ? UNDER_M : 0.001) : (i + 1) * f.tread;
      const middle = placeIn(frame, (from + to) / 2, 0);
      const top = ground.height(placeIn(frame, (i + 0.5) * f.tread, 0).x, placeIn(frame, (i + 0.5) * f.tread, 0).z);
      // Down to the lower level, so that the flight stands on something.
      const tall = Math.abs(f.riser) * (f.riser > 0 ? i + 1 : f.count - i) + 0.02;
      this.solid(new BoxGeometry(f.breadth, tall, to - from), (mesh) => {
        mesh.position.set(middle.x, top - tall / 2, middle.z);
        mesh.rotation.y = heading;
      });
    }
    if (f.riser < 0) {
      // The level it comes down from ends in an edge.
      const middle = placeIn(frame, -UNDER_M / 2, 0);
      const top = ground.height(placeIn(frame, -0.01, 0).x, placeIn(frame, -0.01, 0).z);
      const tall = Math.abs(f.riser) + 0.02;
      this.solid(new BoxGeometry(f.breadth, tall, UNDER_M), (mesh) => {
        mesh.position.set(middle.x, top - tall / 2, middle.z);
        mesh.rotation.y = heading;
      });
    }
  }

  private stones(f: Extract<GroundFeature, { kind: 'stones' }>, ground: Ground): void {
    const frame = frameOf(f);
    for (const s of f.stones) {
      const { x, z } = placeIn(frame, s.z, s.x);
      const tall = f.depth + s.height + 0.1;
      const top = ground.height(x, z);
      this.solid(
        new CylinderGeometry(s.radius, s.radius * 1.08, Math.max(0.02, tall), 22),
        (mesh) => mesh.position.set(x, top - Math.max(0.02, tall) / 2, z),
        40,
      );
    }
    const middle = placeIn(frame, f.length / 2, 0);
    const water = this.add(
      new PlaneGeometry(f.breadth, f.length).rotateX(-Math.PI / 2),
      new MeshBasicMaterial({ color: this.palette.sea, transparent: true, opacity: 0.32, depthWrite: false }),
    );
    const bank = placeIn(frame, -0.05, 0);
    water.position.set(middle.x, ground.height(bank.x, bank.z) - Math.min(0.12, f.depth * 0.5), middle.z);
    water.rotation.y = (f.headingDeg * Math.PI) / 180;
  }

  private obstacle(f: Extract<GroundFeature, { kind: 'obstacle' }>, ground: Ground): void {
    const y = ground.height(f.x, f.z) + f.height / 2;
    const geometry = f.shape === 'disc' ? new CylinderGeometry(f.length / 2, f.length / 2, f.height, 24) : new BoxGeometry(f.breadth, f.height, f.length);
    this.solid(geometry, (mesh) => {
      mesh.position.set(f.x, y, f.z);
      mesh.rotation.y = (f.headingDeg * Math.PI) / 180;
    });
  }

  private bystander(f: Extract<GroundFeature, { kind: 'bystander' }>, ground: Ground, bodies: Readonly<Record<string, BodySpec>>): void {
    const spec = own(bodies, f.body) ?? own<BodySpec>(SHIPPED_BODIES, f.body);
    if (!spec) return;
    const body = bodyOf(spec);
    const figure = new Figure(body, this.keep(figureGeometry(body)));
    const pose = new Float64Array(poseSize(body.skeleton));
    walk('standing', fitGait(findPreset('walk')!.make(), body.legLength), body, 2, 0).pose(0, pose, 0);
    figure.pose(pose);
    const holder = new Group();
    holder.add(figure.mesh);
    holder.position.set(f.x, ground.height(f.x, f.z), f.z);
    holder.rotation.y = (f.headingDeg * Math.PI) / 180;
    this.group.add(holder);
    this.keep({ dispose: () => figure.dispose() });
  }

  private clear(): void {
    this.group.clear();
    for (const thing of this.made.splice(0)) thing.dispose();
  }

  dispose(): void {
    this.clear();
  }
}

type Extent = readonly [x0: number, z0: number, x1: number, z1: number];

/** Looks along a motion for where it goes. */
const LOOKS = 60;

function extentOf(motion: Motion, margin: number): Extent {
  const place = new Float64Array(4);
  let [x0, z0, x1, z1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i <= LOOKS; i++) {
    motion.place((motion.duration * i) / LOOKS, place);
    x0 = Math.min(x0, place[0]!);
    x1 = Math.max(x1, place[0]!);
    z0 = Math.min(z0, place[2]!);
    z1 = Math.max(z1, place[2]!);
  }
  const shorter = (a: number, b: number): [number, number] => (b - a > LONGEST_M ? [a, a + LONGEST_M] : [a, b]);
  [x0, x1] = shorter(x0 - margin, x1 + margin);
  [z0, z1] = shorter(z0 - margin, z1 + margin);
  return [x0, z0, x1, z1];
}

const within = (outer: Extent, inner: Extent): boolean => outer[0] <= inner[0] && outer[1] <= inner[1] && outer[2] >= inner[2] && outer[3] >= inner[3];
