import {
  type Camera,
  CustomBlending,
  DepthTexture,
  DstColorFactor,
  FloatType,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  type Object3D,
  OneFactor,
  OrthographicCamera,
  PlaneGeometry,
  Scene,
  ShaderMaterial,
  Vector2,
  type WebGLRenderer,
  WebGLRenderTarget,
  ZeroFactor,
} from 'three';

/** Samples of each pixel; its pattern comes again every 4 × 4 pixels, over which the shade is averaged. */
const SAMPLES = 20;

const WHOLE = 'varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }';

/**
 * How much of the light from around is kept off a place by what is near it, from the depths of the picture:
 * M. McGuire, B. Osman, M. Bukowski, P. Hennessy: The Alchemy screen-space ambient obscurance algorithm, HPG 2011,
 * equation 10.
 */
const SHADE = `
uniform sampler2D depth;
uniform mat4 inverse;
uniform vec2 size;
uniform float reach;
uniform float across;
varying vec2 at;
vec3 placeAt(vec2 uv) {
  vec4 p = inverse * vec4(vec3(uv, texture2D(depth, uv).r) * 2.0 - 1.0, 1.0);
  return p.xyz / p.w;
}
void main() {
  if (texture2D(depth, at).r >= 1.0) { gl_FragColor = vec4(1.0); return; }
  vec3 c = placeAt(at);
  vec2 px = 1.0 / size;
  // of the two neighbours the nearer one is on the same face
  vec3 r = placeAt(at + vec2(px.x, 0.0)) - c, l = c - placeAt(at - vec2(px.x, 0.0));
  vec3 u = placeAt(at + vec2(0.0, px.y)) - c, d = c - placeAt(at - vec2(0.0, px.y));
  vec3 n = normalize(cross(dot(r, r) < dot(l, l) ? r : l, dot(u, u) < dot(d, d) ? u : d));
  vec2 cell = mod(floor(at * size), 4.0);
  float turn = (cell.x * 4.0 + cell.y) * 0.392699;
  float step0 = fract(cell.x * 0.25 + cell.y * 0.3125);
  float disk = across * reach / -c.z;
  float sum = 0.0;
  for (int i = 0; i < ${SAMPLES}; i++) {
    float share = (float(i) + step0) / ${SAMPLES}.0;
    float angle = turn + float(i) * 2.39996;
    vec3 v = placeAt(at + vec2(cos(angle) * size.y / size.x, sin(angle)) * disk * share) - c;
    float far = dot(v, v);
    // what is further away than the reach is another thing behind or before it
    float near = max(0.0, 1.0 - far / (reach * reach));
    sum += near * max(0.0, dot(v, n) + 0.0012 * c.z) / (far + 0.0004 * reach * reach) * sqrt(far);
  }
  gl_FragColor = vec4(vec3(max(0.0, 1.0 - 2.6 * sum / ${SAMPLES}.0)), 1.0);
}`;

const LAID = `
uniform sampler2D shade;
uniform vec2 size;
uniform float strength;
varying vec2 at;
void main() {
  float sum = 0.0;
  for (int y = -2; y < 2; y++) for (int x = -2; x < 2; x++)
    sum += texture2D(shade, at + (vec2(float(x), float(y)) + 0.5) / size).r;
  float light = mix(1.0, sum / 16.0, strength);
  gl_FragColor = vec4(vec3(light), 1.0);
}`;

/** Darkens where things lie on each other, over a picture that stands still. */
export class ContactShade {
  private readonly depth = new WebGLRenderTarget(1, 1, { depthTexture: new DepthTexture(1, 1, FloatType) });
  private readonly shade = new WebGLRenderTarget(1, 1);
  private readonly size = new Vector2();
  private readonly inverse = new Matrix4();
  private readonly camera = new OrthographicCamera();
  private readonly plane = new PlaneGeometry(2, 2);
  /** Depths need no light. */
  private readonly unlit = new MeshBasicMaterial({ colorWrite: false });
  private readonly measure = this.pass(SHADE, {
    depth: { value: this.depth.depthTexture },
    inverse: { value: this.inverse },
    size: { value: this.size },
    reach: { value: 1 },
    across: { value: 1 },
  });
  private readonly laid = this.pass(LAID, {
    shade: { value: this.shade.texture },
    size: { value: this.size },
    strength: { value: 1 },
  });

  constructor() {
    Object.assign(this.laid.material, {
      blending: CustomBlending,
      blendSrc: DstColorFactor,
      blendDst: ZeroFactor,
      blendSrcAlpha: ZeroFactor,
      blendDstAlpha: OneFactor,
    });
  }

  private pass(fragmentShader: string, uniforms: ShaderMaterial['uniforms']) {
    const material = new ShaderMaterial({
      vertexShader: WHOLE,
      fragmentShader,
      uniforms,
      depthTest: false,
      depthWrite: false,
      toneMapped: false,
    });
    const scene = new Scene();
    scene.add(new Mesh(this.plane, material));
    return { scene, material, uniforms };
  }

  /**
   * Darkens the picture of a scene that is in the view's own buffer already, drawn by the same camera.
   * @param reach how far from a thing its shade is felt, metres
   */
  lay(gl: WebGLRenderer, scene: Scene, camera: Camera, reach: number): void {
    gl.getDrawingBufferSize(this.size);
    this.depth.setSize(this.size.x, this.size.y);
    this.shade.setSize(this.size.x, this.size.y);
    this.inverse.copy(camera.projectionMatrixInverse);
    this.measure.uniforms.reach.value = reach;
    // half the height of the picture is this many times the distance: 1 / tan of half the angle of view
    this.measure.uniforms.across.value = camera.projectionMatrix.elements[5] / 2;
    const shown = hideThinThings(scene);
    const { overrideMaterial } = scene;
    scene.overrideMaterial = this.unlit;
    gl.setRenderTarget(this.depth);
    gl.render(scene, camera);
    scene.overrideMaterial = overrideMaterial;
    for (const one of shown) one.visible = true;
    gl.setRenderTarget(this.shade);
    gl.render(this.measure.scene, this.camera);
    gl.setRenderTarget(null);
    const { autoClear } = gl;
    gl.autoClear = false;
    gl.render(this.laid.scene, this.camera);
    gl.autoClear = autoClear;
  }

  dispose(): void {
    this.depth.dispose();
    this.shade.dispose();
    this.plane.dispose();
    this.unlit.dispose();
    this.measure.material.dispose();
    this.laid.material.dispose();
  }
}

/** Hides what throws no shadow: lines, marks, the ground, and what is only shown through. → what was hidden. */
function hideThinThings(scene: Scene): Object3D[] {
  const hidden: Object3D[] = [];
  scene.traverseVisible((one) => {
    if ('material' in one && !one.castShadow) hidden.push(one);
  });
  for (const one of hidden) one.visible = false;
  return hidden;
}
