import { BackSide, Color, ShaderMaterial } from 'three';
import type { Palette } from '../theme/colours.js';
import { kept } from './kept.js';

/** Distance of two lines of the hatching, pixels. */
const STEP = 7;

/** Backs of faces: slanted ink lines on paper, the same width on the screen everywhere. */
const material = kept((key) => {
  const [inkSecond, view] = JSON.parse(key) as string[];
  return new ShaderMaterial({
    side: BackSide,
    // behind a front that lies in the same plane
    polygonOffset: true,
    polygonOffsetFactor: 4,
    polygonOffsetUnits: 16,
    uniforms: { ink: { value: new Color(inkSecond) }, paper: { value: new Color(view) } },
    vertexShader: `
    void main() {
      vec4 place = vec4(position, 1.0);
      #ifdef USE_INSTANCING
        place = instanceMatrix * place;
      #endif
      gl_Position = projectionMatrix * modelViewMatrix * place;
    }`,
    fragmentShader: `
    uniform vec3 ink;
    uniform vec3 paper;
    void main() {
      float line = mod(gl_FragCoord.x + gl_FragCoord.y, ${STEP.toFixed(1)});
      gl_FragColor = vec4(line < 1.6 ? ink : paper, 1.0);
      #include <colorspace_fragment>
    }`,
  });
});

/** Backs of faces under a palette. */
export const hatchedBack = ({ inkSecond, view }: Palette): ShaderMaterial =>
  material(JSON.stringify([inkSecond, view]));
