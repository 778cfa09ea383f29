import { CanvasTexture, Group, Mesh, MeshBasicMaterial, PlaneGeometry, ShaderMaterial, ShadowMaterial, SRGBColorSpace, Vector2 } from 'three';
import type { ScenePalette } from './palette';
import type { Quality } from './quality';

const SIZE_M = 60;
const LABELS = 17;

const vertex = /* glsl */ `
  varying vec2 place;
  uniform vec2 offset;
  void main() {
    vec4 world = modelMatrix * vec4(position, 1.0);
    place = world.xz + offset;
    gl_Position = projectionMatrix * viewMatrix * world;
  }`;

/** Rules at 1 m, 25 cm, 5 cm, 1 cm and 1 mm; each fades out before it gets finer than a pixel can show. */
const fragment = /* glsl */ `
  varying vec2 place;
  uniform vec2 centre;
  uniform vec3 paper, rule, ink;
  uniform float reach;
  // Coverage of rules along x and z; a rule thinner than a pixel gets paler instead of wider.
  vec2 lines(float spacing, float thick) {
    vec2 px = fwidth(place);
    vec2 d = abs(fract(place / spacing - 0.5) - 0.5) * spacing;
    vec2 wide = max(vec2(thick), px);
    vec2 on = (1.0 - smoothstep(wide * 0.5 - px * 0.5, wide * 0.5 + px * 0.5, d)) * clamp(thick / px, 0.35, 1.0);
    return on * smoothstep(4.0, 10.0, spacing / px);
  }
  // A ruled chart: the rules across the way are the stronger ones.
  float ruled(float spacing, float thick) {
    vec2 on = lines(spacing, thick);
    return max(on.x * 0.45, on.y);
  }
  void main() {
    vec3 c = paper;
    #ifdef FINE
    c = mix(c, rule, 0.35 * ruled(0.001, 0.0001));
    c = mix(c, rule, 0.6 * ruled(0.01, 0.0006));
    c = mix(c, rule, 0.35 * ruled(0.05, 0.0012));
    #endif
    c = mix(c, rule, 0.5 * ruled(0.25, 0.003));
    c = mix(c, rule, 0.9 * ruled(1.0, 0.009));
    float away = length(place - centre);
    gl_FragColor = vec4(mix(c, paper, smoothstep(reach * 0.35, reach, away)), 1.0);
    #include <colorspace_fragment>
  }`;

/** The ground as a printed chart: rules, paces marked every metre beside the way, and the figure's shadow. */
export class ChartGround {
  readonly group = new Group();
  private readonly material: ShaderMaterial;
  private readonly shadow: Mesh<PlaneGeometry, ShadowMaterial>;
  private readonly labels: Mesh<PlaneGeometry, MeshBasicMaterial>[] = [];
  private readonly textures = new Map<string, CanvasTexture>();
  private shown = NaN;
  private facing = 0;

  constructor(private palette: ScenePalette) {
    this.material = new ShaderMaterial({
      vertexShader: vertex,
      fragmentShader: fragment,
      uniforms: {
        offset: { value: new Vector2() },
        centre: { value: new Vector2() },
        paper: { value: palette.paper },
        rule: { value: palette.rule },
        ink: { value: palette.ink },
        reach: { value: 26 },
      },
    });
    const plane = new Mesh(new PlaneGeometry(SIZE_M, SIZE_M).rotateX(-Math.PI / 2), this.material);
    plane.renderOrder = -2;
    this.shadow = new Mesh(new PlaneGeometry(14, 14).rotateX(-Math.PI / 2), new ShadowMaterial({ opacity: 0.2 }));
    this.shadow.receiveShadow = true;
    this.shadow.position.y = 0.0006;
    this.group.add(plane, this.shadow);
    for (let i = 0; i < LABELS; i++) {
      const label = new Mesh(new PlaneGeometry(0.34, 0.17).rotateX(-Math.PI / 2), new MeshBasicMaterial({ transparent: true, depthWrite: false }));
      this.labels.push(label);
      this.group.add(label);
    }
  }

  /** Draws as much as there is time for. */
  setQuality({ shadows, fineRules }: Quality): void {
    this.shadow.visible = shadows;
    this.material.defines = fineRules ? { FINE: 1 } : {};
    this.material.needsUpdate = true;
  }

  /**
   * Puts the chart under (x, z) of the world, as seen with the world moved by −shift. Its words stand upright for who looks
   * along −z turned by `facing` about the vertical.
   */
  update(x: number, z: number, shiftX: number, shiftZ: number, facing = 0): void {
    if (facing !== this.facing) {
      this.facing = facing;
      for (const label of this.labels) label.rotation.y = facing;
    }
    this.group.position.set(x - shiftX, 0, z - shiftZ);
    (this.material.uniforms.offset!.value as Vector2).set(shiftX, shiftZ);
    (this.material.uniforms.centre!.value as Vector2).set(x, z);
    const first = Math.round(z) - Math.floor(LABELS / 2);
    this.labels.forEach((label, i) => label.position.set(-0.72 - x, 0.0012, first + i - z));
    if (first === this.shown) return;
    this.shown = first;
    this.labels.forEach((label, i) => {
      label.material.map = this.texture(String(first + i));
      label.material.needsUpdate = true;
    });
  }

  private texture(text: string): CanvasTexture {
    const known = this.textures.get(text);
    if (known) return known;
    const canvas = document.createElement('canvas');
    canvas.width = 128;
    canvas.height = 64;
    const pen = canvas.getContext('2d')!;
    pen.font = '600 40px "Source Serif 4 Variable", Georgia, serif';
    pen.textAlign = 'center';
    pen.textBaseline = 'middle';
    pen.fillStyle = `#${this.palette.ink.getHexString()}`;
    pen.globalAlpha = 0.75;
    pen.fillText(`${text} m`, 64, 34);
    const texture = new CanvasTexture(canvas);
    texture.colorSpace = SRGBColorSpace;
    texture.anisotropy = 4;
    // A long walk must not collect textures for ever.
    if (this.textures.size > 200) {
      for (const old of this.textures.values()) old.dispose();
      this.textures.clear();
    }
    this.textures.set(text, texture);
    return texture;
  }

  dispose(): void {
    for (const texture of this.textures.values()) texture.dispose();
    this.group.traverse((o) => {
      if (!(o instanceof Mesh)) return;
      (o.geometry as PlaneGeometry).dispose();
      (o.material as ShaderMaterial).dispose();
    });
  }
}
