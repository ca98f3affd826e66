import { lobesOf, type StrandLight, strandStrengths } from '@kelp/core';
import { Color, DoubleSide, ShaderMaterial, Vector3 } from 'three';
import { kept } from './kept.js';
import { FILL_LIGHT, KEY_LIGHT } from './lights.js';

interface StrandStyle {
  colour: string;
  light: StrandLight | undefined;
  coloured: boolean;
  opacity: number;
}

/** What strands without a dress of their own throw back. */
const PLAIN: StrandLight = { shine: 0.35, spread: 0.2, shift: 0.05, through: 0.3 };

/** The material of strands, one for each style. */
export const strandMaterial = (style: StrandStyle): ShaderMaterial => materialFor(JSON.stringify(style));

const materialFor = kept((key) => {
  const { colour, light = PLAIN, coloured, opacity } = JSON.parse(key) as StrandStyle;
  const lobes = lobesOf(light);
  return new ShaderMaterial({
    uniforms: {
      colour: { value: new Color(colour) },
      shifts: { value: new Vector3(...lobes.map(({ shift }) => shift)) },
      spreads: { value: new Vector3(...lobes.map(({ spread }) => spread)) },
      shares: { value: new Vector3(...strandStrengths(light)) },
      opacity: { value: opacity },
      keyFrom: { value: new Vector3(...KEY_LIGHT.from).normalize() },
      keyColour: { value: new Color(KEY_LIGHT.colour).multiplyScalar(KEY_LIGHT.intensity) },
      fillFrom: { value: new Vector3(...FILL_LIGHT.from).normalize() },
      fillColour: { value: new Color(FILL_LIGHT.colour).multiplyScalar(FILL_LIGHT.intensity) },
    },
    defines: coloured ? { COLOURED: '' } : {},
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    side: DoubleSide,
    transparent: opacity < 1,
    depthWrite: opacity === 1,
  });
});

/** A band stands square to the eye and is never thinner than a pixel: thin strands do not sparkle. */
const VERTEX = `
attribute vec3 way;
attribute vec2 across;
#ifdef COLOURED
attribute vec3 own;
#endif
varying vec3 vWay;
varying vec3 vPlace;
varying vec3 vSide;
varying float vAcross;
varying float vFar;
varying vec3 vOwn;
void main() {
  vec4 world = modelMatrix * vec4(position, 1.0);
  vec3 along = normalize(mat3(modelMatrix) * way);
  vec3 toEye = cameraPosition - world.xyz;
  float far = length(toEye);
  vec3 side = cross(along, toEye);
  side = length(side) > 1e-9 ? normalize(side) : vec3(0.0);
  // a pixel, for a view about 900 pixels high
  float least = far / (projectionMatrix[1][1] * 900.0);
  float half_ = across.x == 0.0 ? 0.0 : sign(across.x) * max(abs(across.x), 0.75 * least);
  world.xyz += half_ * side;
  vWay = along;
  vPlace = world.xyz;
  vSide = side;
  vAcross = sign(across.x);
  vFar = across.y;
#ifdef COLOURED
  vOwn = own;
#else
  vOwn = vec3(1.0);
#endif
  gl_Position = projectionMatrix * viewMatrix * world;
}`;

/**
 * The three ways of Marschner et al. (Light scattering from human hair fibers, 2003): longitudinal lobes by the half angle;
 * round the strand the simplest that keep their shape, cos(φ/2) for what is thrown back and a narrow one for what comes
 * through. What many strands throw to each other is a soft share of the light across the strand (Kajiya & Kay, 1989).
 */
const FRAGMENT = `
uniform vec3 colour;
uniform vec3 shifts;
uniform vec3 spreads;
uniform vec3 shares;
uniform float opacity;
uniform vec3 keyFrom;
uniform vec3 keyColour;
uniform vec3 fillFrom;
uniform vec3 fillColour;
varying vec3 vWay;
varying vec3 vPlace;
varying vec3 vSide;
varying float vAcross;
varying float vFar;
varying vec3 vOwn;

float lobe(float halfAngle, float shift, float spread) {
  float x = halfAngle - shift;
  return exp(-x * x / (2.0 * spread * spread)) / (spread * 2.50663);
}

vec3 lit(vec3 from, vec3 light, vec3 way, vec3 eye, vec3 normal, vec3 base) {
  float sinIn = clamp(dot(way, from), -1.0, 1.0);
  float sinOut = clamp(dot(way, eye), -1.0, 1.0);
  float halfAngle = 0.5 * (asin(sinIn) + asin(sinOut));
  vec3 a = from - sinIn * way;
  vec3 b = eye - sinOut * way;
  float cosPhi = dot(a, b) / max(1e-4, length(a) * length(b));
  float back = sqrt(clamp(0.5 + 0.5 * cosPhi, 0.0, 1.0));
  float ahead = pow(clamp(0.5 - 0.5 * cosPhi, 0.0, 1.0), 4.0);
  float r = shares.x * lobe(halfAngle, shifts.x, spreads.x) * back;
  float tt = shares.y * lobe(halfAngle, shifts.y, spreads.y) * ahead;
  float trt = shares.z * lobe(halfAngle, shifts.z, spreads.z) * back;
  float cosIn = sqrt(1.0 - sinIn * sinIn);
  // half by the strand's own roundness, half by its neighbours' many reflections
  float soft = 0.5 * max(dot(normal, from), 0.0) + 0.3 * cosIn;
  return light * cosIn * (0.16 * r + 0.2 * tt * base + 0.2 * trt * base * base) + light * soft * base * 0.55;
}

void main() {
  vec3 way = normalize(vWay);
  vec3 eye = normalize(cameraPosition - vPlace);
  vec3 facing = normalize(eye - dot(eye, way) * way + 1e-6);
  float x = clamp(vAcross, -1.0, 1.0);
  vec3 normal = normalize(facing * sqrt(1.0 - 0.8 * x * x) + vSide * x * 0.9);
  vec3 base = colour * vOwn;
  // deep between the others less light comes in
  float deep = mix(0.4, 1.0, smoothstep(0.0, 0.55, vFar));
  vec3 out_ = lit(keyFrom, keyColour, way, eye, normal, base) + lit(fillFrom, fillColour, way, eye, normal, base);
  out_ += base * mix(vec3(0.16, 0.15, 0.13), vec3(0.34, 0.36, 0.38), 0.5 + 0.5 * normal.y);
  gl_FragColor = vec4(out_ * deep, opacity);
  #include <tonemapping_fragment>
  #include <colorspace_fragment>
}`;
