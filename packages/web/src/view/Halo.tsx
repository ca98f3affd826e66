import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { BackSide, type BufferGeometry, Color, type PerspectiveCamera, ShaderMaterial } from 'three';
import { COLOURS } from '../theme/colours.js';

/** Width of the halo on the screen, pixels. */
const PIXELS = 1.6;

/** An ink line round what is chosen: its back faces, pushed out by the same width on the screen everywhere. */
export function Halo({ geometry }: { geometry: BufferGeometry }) {
  const { camera, size } = useThree();
  const material = useMemo(
    () =>
      new ShaderMaterial({
        side: BackSide,
        uniforms: { width: { value: 0 }, ink: { value: new Color(COLOURS.ink) } },
        vertexShader: `
          uniform float width;
          void main() {
            vec4 place = modelViewMatrix * vec4(position, 1.0);
            place.xyz += normalize(normalMatrix * normal) * width * -place.z;
            gl_Position = projectionMatrix * place;
          }`,
        fragmentShader: `
          uniform vec3 ink;
          void main() {
            gl_FragColor = vec4(ink, 1.0);
            #include <colorspace_fragment>
          }`,
      }),
    [],
  );
  useEffect(() => () => material.dispose(), [material]);
  const fov = ((camera as PerspectiveCamera).fov * Math.PI) / 180;
  material.uniforms['width'].value = (PIXELS * 2 * Math.tan(fov / 2)) / size.height;
  return <mesh geometry={geometry} material={material} raycast={() => null} />;
}
